import { PLAIN_ZONE, type SampleZone } from '../model/library/sample-zone.js';
import { secondsOf, shortName, type Recording } from '../model/library/recording.js';
import type { MidiNote } from '../pitch/note-names.js';
import type { Range, Span } from '../range/range.js';
import { matchedGains } from './loudness-steps.js';
import { rootOf, type NamedMiddleC } from './note-claims.js';
import { pieceNamed } from './piece-named.js';
import { rootsInTheMiddle, strengthsByLoudness, strengthsEvenly } from './spans.js';
import { strengthsOf } from './strengths-of-notes.js';

/** How strengths share the velocities out. */
export type StrengthsPlaced = 'evenly' | 'byLoudness' | 'crossfaded';

/** What laying out goes by. */
export interface LayingOut {
  recordings: readonly Recording[];
  /** The convention that their names follow. */
  middleC: NamedMiddleC;
  /** Makes an id. */
  newId: () => string;
  /** Roots that somebody has settled, by recording: they hold whatever is heard or claimed. */
  roots?: ReadonlyMap<string, MidiNote>;
}

/** Velocities by which strengths that are crossfaded overlap, at most. */
const CROSSFADE_STEPS = 16;
const ALL_VELOCITIES: Span = { low: 1, high: 127 };
const ALL_KEYS: Span = { low: 0, high: 127 };
const MIDDLE_C = 60;

function rootIn(laying: LayingOut, recording: Recording): MidiNote | null {
  return laying.roots?.get(recording.id) ?? rootOf(recording, laying.middleC).key;
}

function range({ low, high }: Span, fadeIn = 0, fadeOut = 0): Range {
  return { low, high, fadeIn, fadeOut, law: 'equalPower' };
}

/** What of a recording is played, and how it is tuned: what goes with it wherever it lies. */
export function playedOf(
  recording: Recording,
  middleC: NamedMiddleC,
): Pick<SampleZone, 'recordingId' | 'cents' | 'start' | 'end' | 'loop' | 'piece'> {
  const { heard, claims } = recording;
  const { cents } = rootOf(recording, middleC);
  const seconds = secondsOf(recording);
  const loop = claims.loop ?? (heard.loop && withoutSeam(heard.loop));
  return {
    recordingId: recording.id,
    cents: Number(Math.min(100, Math.max(-100, -cents)).toFixed(1)) || 0,
    start: heard.start,
    end: heard.end < seconds && heard.end > heard.start ? heard.end : null,
    loop: loop && loop.end <= seconds ? loop : null,
    piece: pieceNamed(shortName(recording)),
  };
}

/** A zone for a recording that is yet to be put on keys: with its root, its tuning, what sounds of it and its loop. */
export function zoneOf(recording: Recording, laying: LayingOut): SampleZone {
  const { gain } = recording.claims;
  return {
    ...PLAIN_ZONE,
    ...playedOf(recording, laying.middleC),
    id: laying.newId(),
    root: rootIn(laying, recording) ?? MIDDLE_C,
    keys: range(ALL_KEYS),
    velocities: range(ALL_VELOCITIES),
    gain: gain === null ? 0 : Math.min(24, Math.max(-60, gain)),
  };
}

function withoutSeam({ start, end, crossfade }: NonNullable<Recording['heard']['loop']>) {
  return { start, end, crossfade };
}

/**
 * As an instrument: roots in the middle of their keys, the strengths of each note by loudness, alternates of one note and strength in
 * turn. What has no root is left out and given back.
 */
export function asInstrument(
  laying: LayingOut,
  keys: Span,
  placed: StrengthsPlaced,
): { zones: SampleZone[]; leftOut: Recording[] } {
  const notes = new Map<MidiNote, Recording[]>();
  const leftOut: Recording[] = [];
  for (const recording of laying.recordings) {
    const key = rootIn(laying, recording);
    if (key === null) leftOut.push(recording);
    else notes.set(key, [...(notes.get(key) ?? []), recording]);
  }
  const roots = [...notes.keys()].sort((a, b) => a - b);
  const spans = rootsInTheMiddle(roots, keys);
  const zones = roots.flatMap((root, i) => {
    const span = spans[i];
    const recordings = notes.get(root) ?? [];
    if (!span) {
      leftOut.push(...recordings);
      return [];
    }
    return noteZones(laying, recordings, span, placed);
  });
  if (placed !== 'crossfaded') return { zones, leftOut };
  const known = Object.fromEntries(laying.recordings.map((r) => [r.id, r]));
  const gains = new Map(matchedGains(zones, known).map(({ id, gain }) => [id, gain]));
  return {
    zones: zones.map((zone) => ({ ...zone, gain: gains.get(zone.id) ?? zone.gain })),
    leftOut,
  };
}

/** Zones of one note’s recordings on some keys. */
function noteZones(
  laying: LayingOut,
  recordings: readonly Recording[],
  keys: Span,
  placed: StrengthsPlaced,
): SampleZone[] {
  const strengths = strengthsOf(recordings);
  const spans =
    placed === 'evenly'
      ? strengthsEvenly(strengths.length)
      : strengthsByLoudness(strengths.map(({ loudness }) => loudness));
  const velocities = placed === 'crossfaded' ? crossfaded(spans) : spans.map((span) => range(span));
  return strengths.flatMap(({ alternates }, i) =>
    alternates.map((recording, turn) => ({
      ...zoneOf(recording, laying),
      keys: range(keys),
      velocities: velocities[i],
      turn: alternates.length > 1 ? turn + 1 : 0,
    })),
  );
}

/** Spans that follow one another, each reaching into its neighbours as far as half of the narrower of the two allows. */
export function crossfaded(spans: readonly Span[]): Range[] {
  const width = ({ low, high }: Span) => high - low + 1;
  const overlaps = spans
    .slice(1)
    .map((upper, i) =>
      Math.max(0, 2 * Math.floor(Math.min(CROSSFADE_STEPS, width(spans[i]), width(upper)) / 4)),
    );
  return spans.map(({ low, high }, i) => {
    const below = i > 0 ? overlaps[i - 1] : 0;
    const above = overlaps.at(i) ?? 0;
    const isLast = i === spans.length - 1;
    const top = isLast ? high : high + above / 2;
    return range({ low: low - below / 2, high: top }, below, isLast ? 0 : above);
  });
}

/** One after the other: so many keys each from a key on, each at its own pitch all over, played to its end. */
export function oneAfterTheOther(
  laying: LayingOut,
  from: MidiNote,
  keysEach: number,
): SampleZone[] {
  return laying.recordings.flatMap((recording, i) => {
    const low = from + i * keysEach;
    return low > 127
      ? []
      : [oneShot(recording, laying, { low, high: Math.min(127, low + keysEach - 1) })];
  });
}

/** On pads: one recording for each of the keys that pads send. */
export function onPads(laying: LayingOut, keys: readonly MidiNote[]): SampleZone[] {
  return laying.recordings
    .slice(0, keys.length)
    .map((recording, i) => oneShot(recording, laying, { low: keys[i], high: keys[i] }));
}

function oneShot(recording: Recording, laying: LayingOut, keys: Span): SampleZone {
  return {
    ...zoneOf(recording, laying),
    ...{ root: keys.low, cents: 0, tracking: 0, oneShot: true, loop: null },
    keys: range(keys),
  };
}

/** By name: keys and velocities as files claim them; a note alone has just its own key. What claims nothing is left out. */
export function byName(laying: LayingOut): { zones: SampleZone[]; leftOut: Recording[] } {
  const leftOut: Recording[] = [];
  const notes = new Map<string, { recordings: Recording[]; keys: Span }>();
  for (const recording of laying.recordings) {
    const { claimed } = rootOf(recording, laying.middleC);
    const { claims } = recording;
    const key = claimed ?? claims.number;
    const keys = claims.keys ?? (key === null ? null : { low: key, high: key });
    if (!keys) {
      leftOut.push(recording);
      continue;
    }
    const group = `${keys.low}-${keys.high}`;
    const there = notes.get(group) ?? { recordings: [], keys };
    there.recordings.push(recording);
    notes.set(group, there);
  }
  const zones = [...notes.values()].flatMap(({ recordings, keys }) =>
    noteZones(laying, recordings, keys, 'evenly').map((zone) => {
      const recording = recordings.find(({ id }) => id === zone.recordingId);
      const { claims } = recording ?? {};
      const root = recording ? rootOf(recording, laying.middleC).claimed : null;
      return {
        ...zone,
        root: root ?? keys.low,
        velocities: claims?.velocities ? range(claims.velocities) : zone.velocities,
      };
    }),
  );
  return { zones, leftOut };
}

/** Stacked: all of them on all keys, one over another. */
export function stacked(laying: LayingOut): SampleZone[] {
  return laying.recordings.map((recording) => zoneOf(recording, laying));
}

/**
 * Recordings that are dropped on what is there find their places in it: on keys of a zone with their root they become a strength or an
 * alternate of it, else a note of their own between those that are there. Zones that are there keep all but their keys and velocities.
 */
export function joined(
  zones: readonly SampleZone[],
  laying: LayingOut,
  known: Readonly<Partial<Record<string, Recording>>>,
  placed: StrengthsPlaced,
): { zones: SampleZone[]; leftOut: Recording[] } {
  const there = new Map(zones.map((zone) => [zone.recordingId, zone]));
  const old = [...there.keys()].map((id) => known[id]).filter((r) => r !== undefined);
  const fresh = laying.recordings.filter(({ id }) => !there.has(id));
  const keys = zones.length > 0 ? extentOf(zones) : ALL_KEYS;
  const roots = new Map(zones.map(({ recordingId, root }) => [recordingId, root]));
  const laid = asInstrument({ ...laying, recordings: [...old, ...fresh], roots }, keys, placed);
  const placedNow = laid.zones.map((zone) => {
    const before = there.get(zone.recordingId);
    const { keys: onKeys, velocities, turn } = zone;
    return before ? { ...before, keys: onKeys, velocities, turn } : zone;
  });
  const laidOut = new Set(placedNow.map(({ recordingId }) => recordingId));
  const others = zones.filter(({ recordingId }) => !laidOut.has(recordingId));
  return {
    zones: [...placedNow, ...others],
    leftOut: laid.leftOut.filter(({ id }) => !there.has(id)),
  };
}

/** From the lowest to the highest key of zones. */
export function extentOf(zones: readonly SampleZone[]): Span {
  return {
    low: Math.min(...zones.map(({ keys }) => keys.low)),
    high: Math.max(...zones.map(({ keys }) => keys.high)),
  };
}
