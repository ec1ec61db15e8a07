import type { PatternNote } from '../model/library/pattern.js';
import { scaleOf, songShift, type MusicalKey } from '../pitch/musical-keys.js';

/** Semitones above the tonic of the third, sixth and seventh in a major key; in a minor one they are one lower. */
const BENT = [4, 9, 11];

/**
 * Notes that are written in one key as they sound in another: moved by the nearer way from tonic to tonic; where the modes
 * differ, the third, sixth and seventh are bent to those of the other. What belongs to neither stays where it is. Keys may lie
 * beyond 0–127.
 */
export function inKey(
  notes: readonly PatternNote[],
  from: MusicalKey,
  to: MusicalKey,
): PatternNote[] {
  return notes.map((note) => ({ ...note, key: keyInKey(note.key, from, to) }));
}

/** One key as it is moved by {@link inKey}. */
export function keyInKey(key: number, from: MusicalKey, to: MusicalKey): number {
  const moved = key + songShift(from, to);
  if (from.mode === to.mode) return moved;
  const above = (((key - from.tonic) % 12) + 12) % 12;
  if (from.mode === 'major') return BENT.includes(above) ? moved - 1 : moved;
  return BENT.includes(above + 1) ? moved + 1 : moved;
}

/** A key so many steps of a musical key higher or lower; what is out of the key moves with the note of the key below it. */
export function byStepsOfKey(key: number, steps: number, musical: MusicalKey): number {
  const scale = scaleOf(musical);
  const isIn = (at: number) => scale[((at % 12) + 12) % 12] === 1;
  let below = key;
  while (!isIn(below)) below--;
  let at = below;
  for (let left = Math.abs(steps); left > 0; left--)
    do at += Math.sign(steps);
    while (!isIn(at));
  return at + key - below;
}
