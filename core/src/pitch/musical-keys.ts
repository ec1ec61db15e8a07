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

const LETTERS: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** Reads a key as it is written on a chord sheet: `Am`, `Eb`, `F♯ minor` without its blank; null for anything else. */
export function readMusicalKey(text: string): MusicalKey | null {
  const match = /^([A-Ga-g])([#♯b♭]?)(m|min|minor|maj|major)?$/u.exec(text);
  if (!match) return null;
  const [, letter, sign] = match;
  const by = sign === '' ? 0 : /[#♯]/.test(sign) ? 1 : -1;
  const tonic = (LETTERS[letter.toUpperCase()] + by + 12) % 12;
  const mode = /^m(in|inor)?$/.test(match[3] ?? '') ? 'minor' : 'major';
  const spelling = by === 0 ? 'usual' : by > 0 ? 'sharps' : 'flats';
  const usual: MusicalKey = { tonic, spelling: 'usual', mode };
  const asWritten: MusicalKey = { tonic, spelling, mode };
  // Where both are read alike, nothing is said of the spelling.
  return musicalKeyName(usual) === musicalKeyName(asWritten) ? usual : asWritten;
}

/** True when one is a major key and the other a minor one: hands and ears would be in different scales. */
export function differInMode(a: MusicalKey, b: MusicalKey): boolean {
  return a.mode !== b.mode;
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

/** Signs of the major key on each pitch class where both spellings are read alike: sharps above 0, flats below. */
function signsOf(tonic: number, mode: MusicalKey['mode']): number {
  const major = mode === 'minor' ? tonic + 3 : tonic;
  const fifths = (((major * 7) % 12) + 12) % 12;
  return fifths > 6 ? fifths - 12 : fifths;
}

/** The signature of a key: so many sharps, or flats below 0, −7…7; as it is spelled. */
export function keySignature(key: MusicalKey): number {
  const signs = signsOf(key.tonic, key.mode);
  const name = musicalKeyName(key);
  if (name.includes('♭') && signs > 0) return signs - 12 < -7 ? signs : signs - 12;
  if (name.includes('♯') && signs < 0) return signs + 12 > 7 ? signs : signs + 12;
  return signs;
}

/** The key of a signature of so many sharps, or flats below 0; null beyond seven. */
export function signatureKey(signs: number, mode: MusicalKey['mode']): MusicalKey | null {
  if (!Number.isInteger(signs) || Math.abs(signs) > 7) return null;
  const major = (((signs * 7) % 12) + 12) % 12;
  const tonic = mode === 'minor' ? (major + 9) % 12 : major;
  const spelling = signs > 0 ? 'sharps' : 'flats';
  const usual: MusicalKey = { tonic, spelling: 'usual', mode };
  const asWritten: MusicalKey = { tonic, spelling: signs === 0 ? 'usual' : spelling, mode };
  return musicalKeyName(usual) === musicalKeyName(asWritten) ? usual : asWritten;
}
