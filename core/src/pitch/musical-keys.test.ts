import { describe, expect, it } from 'vitest';
import { musicalKeyName, songShift, type MusicalKey } from './musical-keys.js';

const major = (tonic: number): MusicalKey => ({ tonic, spelling: 'usual', mode: 'major' });

describe('song shift by the nearer way', () => {
  it.each([
    ['E to E♭', 4, 3, -1],
    ['C to F♯', 0, 6, 6],
    ['C to G', 0, 7, -5],
    ['C to F', 0, 5, 5],
    ['D to D', 2, 2, 0],
    ['B to C', 11, 0, 1],
  ])('%s', (_name, fingered, sounding, shift) => {
    expect(songShift(major(fingered), major(sounding))).toBe(shift);
  });

  it('names keys as on a chord sheet', () => {
    expect(musicalKeyName(major(3))).toBe('E♭');
    expect(musicalKeyName({ tonic: 6, spelling: 'usual', mode: 'minor' })).toBe('F♯m');
  });
});
