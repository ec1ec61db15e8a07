import type { SampledOrigin } from '../model/library/sound.js';
import type { SampleZone } from '../model/library/sample-zone.js';
import { intersection, type Span } from '../range/range.js';
import { extentOf } from './layouts.js';
import { silentGround, type ZoneGround } from './ground.js';
import { loudnessSteps, matchedGains, type Recordings } from './loudness-steps.js';

/** What changes of zones, by their ids. */
export type ZoneChanges = Readonly<Record<string, Partial<Omit<SampleZone, 'id'>>>>;

/** Something about the zones of a sound that a player wants to know. */
export type ZoneRemark = {
  /** Stays the same while the same is remarked on. */
  id: string;
  /** Zones that it is about. */
  zoneIds: readonly string[];
  /** What mends it, in words and changes; null where only the player can. */
  mend: { words: 'stretch' | 'smooth'; changes: ZoneChanges } | null;
} & (
  | { kind: 'silent'; ground: ZoneGround }
  | { kind: 'step'; velocity: number; step: number }
  | { kind: 'turned down' }
  | { kind: 'wanting'; recordingId: string }
);

/** A step in loudness that is heard as one, dB. */
const HEARD_STEP = 3;
/** Two recordings whose bands differ by no more are the same, only louder, dB; bands fainter than the last are left out. */
const SAME_COLOUR = 0.4;
const FAINT = -60;

/** What is to be said of the zones of a sound. */
export function zoneRemarks({ zones }: SampledOrigin, recordings: Recordings): ZoneRemark[] {
  if (zones.length === 0) return [];
  return [
    ...wanting(zones, recordings),
    ...silentGround(zones, extentOf(zones)).map((ground) => silence(ground, zones)),
    ...steps(zones, recordings),
    ...turnedDown(zones, recordings),
  ];
}

function wanting(zones: readonly SampleZone[], recordings: Recordings): ZoneRemark[] {
  const ids = [...new Set(zones.map(({ recordingId }) => recordingId))];
  return ids
    .filter((id) => !recordings[id])
    .map((recordingId) => ({
      ...{ kind: 'wanting', id: `wanting ${recordingId}`, recordingId, mend: null },
      zoneIds: zones.filter((zone) => zone.recordingId === recordingId).map(({ id }) => id),
    }));
}

function silence(ground: ZoneGround, zones: readonly SampleZone[]): ZoneRemark {
  const { keys, velocities } = ground;
  const changes = stretched(ground, zones);
  return {
    ...{ kind: 'silent', ground, zoneIds: Object.keys(changes) },
    id: `silent ${keys.low} ${keys.high} ${velocities.low} ${velocities.high}`,
    mend: Object.keys(changes).length > 0 ? { words: 'stretch', changes } : null,
  };
}

/** Stretches what lies below the silence up over it, else what lies above down, else what lies beside it. */
function stretched({ keys, velocities }: ZoneGround, zones: readonly SampleZone[]): ZoneChanges {
  const on = (of: Span, span: Span) => intersection(of, span) !== null;
  const columns = (edge: (zone: SampleZone) => boolean) =>
    zones.filter((zone) => edge(zone) && on(zone.keys, keys));
  const below = columns((zone) => zone.velocities.high === velocities.low - 1);
  if (covers(below, keys))
    return changesOf(below, (zone) => ({
      velocities: { ...zone.velocities, high: velocities.high, fadeOut: 0 },
    }));
  const above = columns((zone) => zone.velocities.low === velocities.high + 1);
  if (covers(above, keys))
    return changesOf(above, (zone) => ({
      velocities: { ...zone.velocities, low: velocities.low, fadeIn: 0 },
    }));
  const left = zones.filter(
    (zone) => zone.keys.high === keys.low - 1 && on(zone.velocities, velocities),
  );
  return changesOf(left, (zone) => ({ keys: { ...zone.keys, high: keys.high, fadeOut: 0 } }));
}

function covers(zones: readonly SampleZone[], keys: Span): boolean {
  if (zones.length === 0) return false;
  for (let key = keys.low; key <= keys.high; key++)
    if (!zones.some((zone) => zone.keys.low <= key && key <= zone.keys.high)) return false;
  return true;
}

function changesOf(
  zones: readonly SampleZone[],
  change: (zone: SampleZone) => Partial<SampleZone>,
): ZoneChanges {
  return Object.fromEntries(zones.map((zone) => [zone.id, change(zone)]));
}

function steps(zones: readonly SampleZone[], recordings: Recordings): ZoneRemark[] {
  const gains = smoothing(zones, recordings);
  return loudnessSteps(zones, recordings)
    .filter(({ step }) => Math.abs(step) > HEARD_STEP)
    .map(({ from, to, velocity, step }) => ({
      ...{ kind: 'step', id: `step ${from} ${to}`, zoneIds: [from, to], velocity, step },
      mend: Object.keys(gains).length > 0 ? { words: 'smooth', changes: gains } : null,
    }));
}

/** The gains that smooth the steps, as changes of zones. */
export function smoothing(zones: readonly SampleZone[], recordings: Recordings): ZoneChanges {
  return Object.fromEntries(matchedGains(zones, recordings).map(({ id, gain }) => [id, { gain }]));
}

/** Strengths whose recording sounds like that of the harder one, only fainter: it does not sound softly played. */
function turnedDown(zones: readonly SampleZone[], recordings: Recordings): ZoneRemark[] {
  return loudnessSteps(zones, recordings).flatMap(({ from, to }) => {
    const of = (id: string) => recordings[zones.find((zone) => zone.id === id)?.recordingId ?? ''];
    const [soft, hard] = [of(from), of(to)];
    if (!soft || !hard || !sameColour(soft.heard.colour, hard.heard.colour)) return [];
    const zoneIds = [from, to];
    return { kind: 'turned down', id: `turned down ${from}`, zoneIds, mend: null } as const;
  });
}

function sameColour(one: readonly number[], other: readonly number[]): boolean {
  const loud = one.flatMap((level, i) => (Math.max(level, other[i]) > FAINT ? [i] : []));
  return loud.length > 1 && loud.every((i) => Math.abs(one[i] - other[i]) <= SAME_COLOUR);
}
