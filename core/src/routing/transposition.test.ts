import { describe, expect, it } from 'vitest';
import { soundingByKey, transpositionInWords } from './transposition.js';

describe('the sum of transpositions', () => {
  it.each([
    [{ keyboard: 0, song: -1, layer: 12 }, 60, 'song −1, layer +12: +11 in all; C4 sounds B4'],
    [{ keyboard: 0, song: 0, layer: 0 }, 60, 'layer 0: 0 in all; C4 sounds C4'],
    [
      { keyboard: 12, song: 6, layer: -24 },
      60,
      'keyboard +12, song +6, layer −24: −6 in all; C4 sounds F♯3',
    ],
    [
      { keyboard: 0, song: 0, layer: 60 },
      72,
      'layer +60: +60 in all; C5 sounds nothing, it lies outside MIDI',
    ],
    [{ keyboard: 0, song: 0, layer: -60 }, 60, 'layer −60: −60 in all; C4 sounds C-1'],
    [
      { keyboard: 0, song: 0, layer: -60 },
      59,
      'layer −60: −60 in all; B3 sounds nothing, it lies outside MIDI',
    ],
    [{ keyboard: 0, song: 0, layer: 55 }, 72, 'layer +55: +55 in all; C5 sounds G9'],
  ])('%o', (sum, key, words) => {
    expect(transpositionInWords(sum, key, 4)).toBe(words);
  });
});

describe('what each key sounds', () => {
  it('is told for the keys that a layer answers, as far as MIDI goes', () => {
    const layer = { keyLow: 60, keyHigh: 127, shift: 30 };
    expect([...soundingByKey(layer, { low: 58, high: 62 })]).toEqual([
      [60, 90],
      [61, 91],
      [62, 92],
    ]);
    expect([...soundingByKey(layer, { low: 96, high: 103 }).values()]).toEqual([126, 127]);
    expect(soundingByKey(layer, { low: 20, high: 40 }).size).toBe(0);
    const below = { keyLow: 0, keyHigh: 127, shift: -24 };
    expect([...soundingByKey(below, { low: 22, high: 25 })]).toEqual([
      [24, 0],
      [25, 1],
    ]);
  });
});
