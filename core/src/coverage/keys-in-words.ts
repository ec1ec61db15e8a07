import { noteName, type NoteNaming } from '../pitch/note-names.js';
import type { Span } from '../range/range.js';

/** A span of keys in words: `G3–A♭3`, or one name. */
export function keysInWords(keys: Span, middleC: NoteNaming): string {
  const low = noteName(keys.low, middleC);
  return keys.low === keys.high ? low : `${low}–${noteName(keys.high, middleC)}`;
}
