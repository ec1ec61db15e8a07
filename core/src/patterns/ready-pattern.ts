import type { Pattern, PatternNote } from '../model/library/pattern.js';
import type { Accompanist, PlacedPattern } from '../model/patch/accompanist.js';
import type { MusicalKey } from '../pitch/musical-keys.js';
import type { Beats, BeatsPerMinute } from '../units/times.js';
import { byStepsOfKey, inKey } from './in-key.js';
import { shaped, shapedLength, type Shapeable } from './shaped.js';

/** A placed pattern made ready for playing: its notes in tables, in the order in which they begin. */
export interface ReadyPattern {
  /** That of the placed pattern. */
  readonly id: string;
  readonly patternId: string;
  readonly name: string;
  /** The key that starts it. */
  readonly key: number;
  readonly count: number;
  /** In beats of the pattern. */
  readonly beats: Float64Array;
  readonly lengths: Float64Array;
  /** As they sound before the layer’s own transposition; they may lie beyond 0–127. */
  readonly keys: Int16Array;
  readonly velocities: Uint8Array;
  /** Beats from one round to the next, and in a bar of it. */
  readonly round: Beats;
  /** Its own tempo; null where it plays at the show’s. */
  readonly tempo: BeatsPerMinute | null;
  /** Pitch class of the key it sounds in; −1 where it has none, like drums. */
  readonly tonic: number;
}

/** What shifts a note of a placed pattern, in semitones, besides its layer. */
export interface PatternShifts {
  /** Its own transposition, and its steps of the key. */
  pattern: number;
  /** From the key it is written in to the one that sounds; bending included. */
  key: number;
  accompanist: number;
}

/** Notes that are left when some keys are muted and the pattern is cut, or longer with a rest. */
function asPlaced({ length, notes, quantise }: Pattern, placed: PlacedPattern) {
  const lasts = placed.length ?? length;
  const muted = new Set(placed.muted);
  const left: PatternNote[] = notes
    .filter(({ beat, key }) => beat < lasts && !muted.has(key))
    .map((note) => ({ ...note, length: Math.min(note.length, lasts) }));
  const pattern: Shapeable = { length: lasts, notes: left };
  const shape = { ...placed.shape, quantise: placed.shape.quantise ?? quantise, transpose: 0 };
  return { pattern, shape };
}

/**
 * A placed pattern as it plays in a key: shaped, moved into the key, transposed by its own and the accompanist’s transposition.
 */
export function readyPattern(
  placed: PlacedPattern,
  pattern: Pattern,
  { transpose }: Pick<Accompanist, 'transpose'>,
  sounding: MusicalKey,
): ReadyPattern {
  const { pattern: cut, shape } = asPlaced(pattern, placed);
  const notes = shaped(cut, shape);
  const keyed = pattern.key ? inKey(notes, pattern.key, sounding) : notes;
  const by = placed.shape.transpose + transpose;
  const { steps } = placed;
  const stepped = (key: number) =>
    pattern.key && steps !== 0 ? byStepsOfKey(key, steps, sounding) : key;
  return {
    ...{ id: placed.id, patternId: pattern.id, name: pattern.name, key: placed.key },
    count: notes.length,
    beats: Float64Array.from(notes, ({ beat }) => beat),
    lengths: Float64Array.from(notes, ({ length }) => length),
    keys: Int16Array.from(keyed, ({ key }) => stepped(key) + by),
    velocities: Uint8Array.from(notes, ({ velocity }) => velocity),
    round: shapedLength(cut, shape),
    tempo: placed.ownTempo ? pattern.tempo : null,
    tonic: pattern.key ? sounding.tonic : -1,
  };
}

/** What adds up between a note as it is written and as it is handed to the layers. */
export function shiftsOf(
  key: number,
  placed: PlacedPattern,
  pattern: Pattern,
  { transpose }: Pick<Accompanist, 'transpose'>,
  sounding: MusicalKey,
): PatternShifts {
  const moved = pattern.key
    ? inKey([{ beat: 0, length: 1, key, velocity: 1 }], pattern.key, sounding)[0].key
    : key;
  const stepped = pattern.key ? byStepsOfKey(moved, placed.steps, sounding) : moved;
  return {
    pattern: stepped - moved + placed.shape.transpose,
    key: moved - key,
    accompanist: transpose,
  };
}
