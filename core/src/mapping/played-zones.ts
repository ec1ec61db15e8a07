import type { SampledOrigin } from '../model/library/sound.js';
import type { SampleZone } from '../model/library/sample-zone.js';
import { rangeGain, type Range, type Span } from '../range/range.js';
import type { LoadedSound, SoundZone } from '../sampler/zone-table.js';
import type { Samples, Voicing } from '../synthesis/zone.js';
import { bandLimited } from './band-limit.js';
import { crossfadedLoop } from './looping.js';
import { turnAmong } from './turns.js';
import { likeSamples, type MakeRoom, type PlayableAudio } from './playable-audio.js';

/** Cut-off of the low-pass of recordings: they are heard as they are until a timbre closes it, Hz. */
const OPEN = 40_000;
/** Frames per second that recordings are prepared for. */
const PLAYED_AT = 48_000;
/** Semitones upwards that need no filter: what folds down then lies where nobody hears it. */
const FREE_SEMITONES = 3;
/** Keys that share one filtered recording, and such recordings at most: what is played higher still is played by nobody. */
const BAND = 6;
const MOST_BANDS = 4;
const SHORTEST = 4;

/** How voices of recordings behave where a zone does not say otherwise. */
export function samplingVoicing({ dynamics }: Pick<SampledOrigin, 'dynamics'>): Voicing {
  return { attack: 0.001, release: 0.3, dynamics, brightness: OPEN, darkening: 0 };
}

/** Whether its notes ring on and die away by themselves: nothing of it loops or plays on for good. */
export function ringsOn({ zones }: Pick<SampledOrigin, 'zones'>): boolean {
  return zones.length > 0 && zones.every(({ loop, oneShot }) => !loop || oneShot);
}

/**
 * A sound of recordings as the engine plays it. Zones whose recording is not there are left out.
 * @param audioOf the sound of a recording, undefined while there is none
 * @param room makes memory for what is not the recording itself
 */
export function loadedSound(
  origin: SampledOrigin,
  audioOf: (recordingId: string) => PlayableAudio | undefined,
  room?: MakeRoom,
): LoadedSound {
  const prepared = new Prepared(room);
  const zones = origin.zones.flatMap((zone) => {
    const audio = audioOf(zone.recordingId);
    return audio ? zonesOf(zone, audio, origin, prepared) : [];
  });
  return { voicing: samplingVoicing(origin), zones, answering: 'all' };
}

/** What was made of recordings already, so that zones which need the same share it. */
class Prepared {
  private readonly made = new Map<string, Samples>();

  constructor(readonly room: MakeRoom | undefined) {}

  of(key: string, make: (room: MakeRoom | undefined) => Samples): Samples {
    let samples = this.made.get(key);
    if (!samples) {
      samples = make(this.room);
      this.made.set(key, samples);
    }
    return samples;
  }
}

function zonesOf(
  zone: SampleZone,
  audio: PlayableAudio,
  origin: SampledOrigin,
  prepared: Prepared,
): SoundZone[] {
  const cut = cutOf(zone, audio);
  if (!cut) return [];
  const { attack, hold, decay, sustain, release, keys, velocities } = zone;
  const voicing = { ...samplingVoicing(origin), attack, hold, decay, sustain, release };
  const common = {
    rootKey: zone.root,
    velocities,
    voicing,
    scale: scaleOf(zone, audio),
    tracking: zone.tracking,
    tuning: zone.cents,
    sampleRate: audio.sampleRate,
    gains: gainsOf(keys, velocities),
    turn: turnAmong(zone, origin.zones) ?? undefined,
    oneShot: zone.oneShot,
    choke: zone.choke,
    ...{ loopStart: cut.loop?.start ?? -1, loopEnd: cut.loop?.end ?? -1, loopDecay: 0 },
  };
  return bandsOf(zone, audio.sampleRate).map(({ keys: band, step }) => {
    const left = samplesFor('left', zone, audio, cut, step, prepared);
    return {
      ...common,
      keys: band,
      left,
      right:
        audio.left === audio.right ? left : samplesFor('right', zone, audio, cut, step, prepared),
    };
  });
}

/** What is played of a recording, in frames, and its loop counted from there. */
interface Cut {
  from: number;
  to: number;
  loop: { start: number; end: number; fade: number } | null;
}

function cutOf(zone: SampleZone, { sampleRate, left }: PlayableAudio): Cut | null {
  const frame = (seconds: number) => Math.round(seconds * sampleRate);
  const from = Math.min(left.length, frame(zone.start));
  const to = zone.end === null ? left.length : Math.min(left.length, frame(zone.end));
  if (to - from < SHORTEST) return null;
  const { loop } = zone;
  if (!loop || zone.oneShot) return { from, to, loop: null };
  const start = Math.max(0, frame(loop.start) - from);
  const end = Math.min(to - from, frame(loop.end) - from);
  if (end - start < SHORTEST) return { from, to, loop: null };
  const turned = zone.reverse ? { start: to - from - end, end: to - from - start } : { start, end };
  return { from, to, loop: { ...turned, fade: frame(loop.crossfade) } };
}

function samplesFor(
  side: 'left' | 'right',
  zone: SampleZone,
  audio: PlayableAudio,
  { from, to, loop }: Cut,
  step: number,
  prepared: Prepared,
): Samples {
  const keys = [zone.recordingId, side, from, to];
  let samples = audio[side].subarray(from, to);
  if (zone.reverse) {
    keys.push('reverse');
    samples = prepared.of(keys.join(), (room) => {
      const turned = likeSamples(samples, samples.length, room);
      turned.set(samples);
      return turned.reverse();
    });
  }
  if (loop && loop.fade > 0) {
    keys.push(loop.start, loop.end, loop.fade);
    const plain = samples;
    samples = prepared.of(keys.join(), (room) =>
      crossfadedLoop(plain, loop.start, loop.end, loop.fade, room),
    );
  }
  if (step <= 1) return samples;
  const plain = samples;
  return prepared.of([...keys, step.toFixed(4)].join(), (room) => bandLimited(plain, step, room));
}

/** The keys of a zone, parted where they play it so much faster that it needs another filter. */
function bandsOf(zone: SampleZone, sampleRate: number): { keys: Span; step: number }[] {
  const bands = new Map<number, { keys: Span; step: number }>();
  for (let key = zone.keys.low; key <= zone.keys.high; key++) {
    const semitones = ((key - zone.root) * zone.tracking + zone.cents) / 100;
    const up = semitones + 12 * Math.log2(sampleRate / PLAYED_AT);
    const band =
      up <= FREE_SEMITONES ? 0 : Math.min(MOST_BANDS, Math.ceil((up - FREE_SEMITONES) / BAND));
    const top = band === 0 ? 0 : FREE_SEMITONES + band * BAND;
    const there = bands.get(band);
    // Keys follow one another, and so do bands.
    if (there) there.keys.high = Math.max(there.keys.high, key);
    else bands.set(band, { keys: { low: key, high: key }, step: 2 ** (top / 12) });
  }
  return [...bands.values()];
}

function scaleOf({ gain, pan }: SampleZone, { left }: PlayableAudio): Float64Array {
  const unit = (left instanceof Int16Array ? 1 / 32_768 : 1) * 10 ** (gain / 20);
  if (pan === 0) return Float64Array.of(unit, unit);
  // Equal power, as loud as it is in the middle.
  const angle = ((pan + 1) * Math.PI) / 4;
  return Float64Array.of(unit * Math.SQRT2 * Math.cos(angle), unit * Math.SQRT2 * Math.sin(angle));
}

function gainsOf(keys: Range, velocities: Range): SoundZone['gains'] {
  if (keys.fadeIn + keys.fadeOut + velocities.fadeIn + velocities.fadeOut === 0) return undefined;
  const table = (range: Range) =>
    Float32Array.from({ length: 128 }, (_, at) => rangeGain(range, at));
  return { keys: table(keys), velocities: table(velocities) };
}

/** Bytes of memory that a loaded sound takes, each sample counted once however many zones play it. */
export function memoryOf({ zones }: Pick<LoadedSound, 'zones'>): number {
  const buffers = new Set(zones.flatMap(({ left, right }) => [left.buffer, right.buffer]));
  return [...buffers].reduce((sum, buffer) => sum + buffer.byteLength, 0);
}
