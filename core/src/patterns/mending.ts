import {
  LONGEST_PATTERN,
  MOST_PATTERN_NOTES,
  SHORTEST_NOTE,
} from '../model/library/pattern-limits.js';
import type { Pattern, PatternNote } from '../model/library/pattern.js';
import type { Beats } from '../units/times.js';

/** A pattern, as far as its notes are mended. */
export type Mendable = Pick<Pattern, 'length' | 'notes'>;
/** Notes by their place in the pattern’s list, which no mend changes but taking away. */
export type ChosenNotes = ReadonlySet<number>;

const changed = (
  { notes }: Mendable,
  chosen: ChosenNotes,
  change: (note: PatternNote) => PatternNote,
): PatternNote[] => notes.map((note, at) => (chosen.has(at) ? change(note) : note));

/** Notes moved in time and pitch, in beats and semitones. They move as one: as far as the pattern and the keys have room for all. */
export function movedNotes(
  pattern: Mendable,
  chosen: ChosenNotes,
  by: { beats: Beats; keys: number },
): PatternNote[] {
  const moved = pattern.notes.filter((_note, at) => chosen.has(at));
  if (moved.length === 0) return pattern.notes;
  const beats = moved.map(({ beat }) => beat);
  const keys = moved.map(({ key }) => key);
  // A note begins before the pattern has ended.
  const last = pattern.length - SHORTEST_NOTE;
  const inBeats = clamp(by.beats, -least(beats), Math.max(0, last - most(beats)));
  const inKeys = clamp(by.keys, -least(keys), 127 - most(keys));
  return changed(pattern, chosen, (note) => ({
    ...note,
    beat: note.beat + inBeats,
    key: note.key + inKeys,
  }));
}

/** Notes made longer by some beats, or shorter; each is as long at least as the shortest that is kept. */
export function lengthenedNotes(pattern: Mendable, chosen: ChosenNotes, by: Beats): PatternNote[] {
  return changed(pattern, chosen, (note) => ({
    ...note,
    length: clamp(note.length + by, SHORTEST_NOTE, LONGEST_PATTERN),
  }));
}

/** Notes struck harder by so much of velocity, or softer. */
export function strengthenedNotes(
  pattern: Mendable,
  chosen: ChosenNotes,
  by: number,
): PatternNote[] {
  return changed(pattern, chosen, (note) => ({
    ...note,
    velocity: clamp(Math.round(note.velocity + by), 1, 127),
  }));
}

/** The notes that are left without some. */
export function withoutNotes({ notes }: Mendable, chosen: ChosenNotes): PatternNote[] {
  return notes.filter((_note, at) => !chosen.has(at));
}

/** The notes with one more, the last of the list; null where no more are held, or it would begin after the end. */
export function withNote({ length, notes }: Mendable, note: PatternNote): PatternNote[] | null {
  if (notes.length >= MOST_PATTERN_NOTES || note.beat < 0 || note.beat >= length) return null;
  return [...notes, note];
}

function clamp(value: number, low: number, high: number): number {
  return Math.max(low, Math.min(high, value));
}

function least(values: readonly number[]): number {
  return values.reduce((a, b) => Math.min(a, b), Infinity);
}

function most(values: readonly number[]): number {
  return values.reduce((a, b) => Math.max(a, b), -Infinity);
}
