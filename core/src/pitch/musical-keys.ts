import * as z from 'zod';
import { pitchClassName } from './note-names.js';

/** A key a song is in: its tonic's pitch class (0 = C … 11 = B), how it is spelled, and its mode. */
export const musicalKeySchema = z.strictObject({
  tonic: z.number().int().min(0).max(11),
  spelling: z.enum(['usual', 'sharps', 'flats']).default('usual'),
  mode: z.enum(['major', 'minor']),
});
export type MusicalKey = z.infer<typeof musicalKeySchema>;

/** Short name as on a chord sheet: `E♭`, `F♯m`. */
export function musicalKeyName(key: MusicalKey): string {
  return pitchClassName(key.tonic, key.spelling) + (key.mode === 'minor' ? 'm' : '');
}

/**
 * Semitones from the key the player fingers to the key that sounds, by the nearer way: −5…+6.
 * E→E♭ is −1, C→F♯ is +6, C→G is −5, C→F is +5.
 */
export function songShift(fingered: MusicalKey, sounding: MusicalKey): number {
  const up = (((sounding.tonic - fingered.tonic) % 12) + 12) % 12;
  return up > 6 ? up - 12 : up;
}

const MAJOR = [0, 2, 4, 5, 7, 9, 11];
const MINOR = [0, 2, 3, 5, 7, 8, 10];

/** 1 for every pitch class (0 = C … 11 = B) of the key's scale: major, or natural minor. */
export function scaleOf(key: MusicalKey): Uint8Array {
  const scale = new Uint8Array(12);
  for (const step of key.mode === 'minor' ? MINOR : MAJOR) scale[(key.tonic + step) % 12] = 1;
  return scale;
}
