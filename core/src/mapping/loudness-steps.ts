import type { Lufs } from '../loudness/bs1770.js';
import type { Recording } from '../model/library/recording.js';
import type { SampledOrigin } from '../model/library/sound.js';
import type { SampleZone } from '../model/library/sample-zone.js';
import { intersection, widthOf } from '../range/range.js';
import { takeTurns } from './turns.js';

/** A mono recording is played on both sides, which doubles its power. */
const BOTH_SIDES = 10 * Math.log10(2);
/** The most that gain matching leaves between strengths, and the most that it moves one, dB. */
export const MOST_STEP = 1.5;
export const MOST_MATCHED = 6;
/** Loudness from the softest to the hardest stroke that an instrument is expected to have, dB. */
const WHOLE_DYNAMICS = 34;
const LEAST_DYNAMICS = 4;

/** How loud a recording is as it is played at gain 0, LUFS. */
export function playedLoudness({ heard, channels }: Pick<Recording, 'heard' | 'channels'>): Lufs {
  return heard.attackLufs + (channels === 1 ? BOTH_SIDES : 0);
}

/** The step in loudness from a zone to the harder one that follows it. */
export interface LoudnessStep {
  /** Ids of the softer and of the harder zone. */
  from: string;
  to: string;
  /** The velocity at which the harder one takes over. */
  velocity: number;
  /** dB; negative where the harder one is softer. */
  step: number;
}

/** What is known of recordings, by their ids. */
export type Recordings = Readonly<Partial<Record<string, Recording>>>;

/** The steps in loudness between zones that follow one another in velocity on common keys; of those that take turns the first stands for all. */
export function loudnessSteps(
  zones: readonly SampleZone[],
  recordings: Recordings,
): LoudnessStep[] {
  const first = zones.filter(({ turn }) => turn <= 1);
  return first.flatMap((zone) => {
    const next = nextOf(zone, first);
    const soft = recordings[zone.recordingId];
    const hard = next && recordings[next.recordingId];
    if (!next || !soft || !hard) return [];
    const step = playedLoudness(hard) + next.gain - playedLoudness(soft) - zone.gain;
    return [{ from: zone.id, to: next.id, velocity: next.velocities.low, step }];
  });
}

/** The zone that answers the velocities above: of those on common keys the one that begins lowest, and shares most keys. */
function nextOf(zone: SampleZone, among: readonly SampleZone[]): SampleZone | null {
  let best: SampleZone | null = null;
  let bestRank = Infinity;
  for (const other of among) {
    if (other === zone || other.velocities.low <= zone.velocities.low) continue;
    if (other.velocities.high <= zone.velocities.high) continue;
    const common = intersection(zone.keys, other.keys);
    if (!common) continue;
    const rank = other.velocities.low * 128 - widthOf(common);
    if (rank >= bestRank) continue;
    best = other;
    bestRank = rank;
  }
  return best;
}

/**
 * Gains by which the step at each boundary is at most 1.5 dB: each zone is moved, never by more than 6 dB from what it has. The
 * loudest of each chain of strengths stays as it is and those below follow it; it comes down where that is more than they may be moved.
 * @returns zones whose gain changes, with their new gain in dB
 */
export function matchedGains(
  zones: readonly SampleZone[],
  recordings: Recordings,
): { id: string; gain: number }[] {
  const steps = loudnessSteps(zones, recordings).sort((a, b) => b.velocity - a.velocity);
  const moves = new Map<string, number>();
  /** The top of the chain that each belongs to. */
  const tops = new Map<string, string>();
  for (const { from, to, step } of steps) {
    const moved = step + (moves.get(to) ?? 0);
    moves.set(from, moved - Math.min(MOST_STEP, Math.max(-MOST_STEP, moved)));
    moves.set(to, moves.get(to) ?? 0);
    tops.set(to, tops.get(to) ?? to);
    tops.set(from, tops.get(to) ?? to);
  }
  const lowered = new Map<string, number>();
  for (const [id, top] of tops)
    lowered.set(top, Math.max(lowered.get(top) ?? 0, (moves.get(id) ?? 0) - MOST_MATCHED));
  const gains = new Map(
    zones.map(({ id, gain }) => {
      const wished = (moves.get(id) ?? 0) - (lowered.get(tops.get(id) ?? '') ?? 0);
      const by = Math.min(MOST_MATCHED, Math.max(-MOST_MATCHED, wished));
      return [id, Math.min(24, Math.max(-60, gain + by))];
    }),
  );
  return followTheFirst(zones, gains)
    .map(({ id, gain }) => ({ id, gain: Number(gain.toFixed(2)) }))
    .filter(({ id, gain }) => zones.some((zone) => zone.id === id && zone.gain !== gain));
}

/** Those that take turns with a zone are moved as it is. */
function followTheFirst(zones: readonly SampleZone[], gains: ReadonlyMap<string, number>) {
  return zones.map((zone) => {
    const first =
      zone.turn > 1 ? zones.find((other) => other.turn <= 1 && takeTurns(zone, other)) : zone;
    const by = first ? (gains.get(first.id) ?? first.gain) - first.gain : 0;
    return { id: zone.id, gain: zone.gain + by };
  });
}

/**
 * How much softer velocity 1 should be than 127 besides what the recordings differ, dB: so much that the whole comes to what an
 * instrument has. Recordings of one strength have all of it from here.
 */
export function proposedDynamics(
  zones: readonly SampleZone[],
  recordings: Recordings,
): SampledOrigin['dynamics'] {
  const steps = loudnessSteps(zones, recordings);
  const chains = new Map<string, number>();
  for (const { to, step, from } of [...steps].sort((a, b) => a.velocity - b.velocity))
    chains.set(to, (chains.get(from) ?? 0) + Math.max(0, step));
  const spread = Math.max(0, ...chains.values());
  return Math.round(Math.min(60, Math.max(LEAST_DYNAMICS, WHOLE_DYNAMICS - spread)));
}
