import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GRID_STEPS } from '../model/library/pattern-limits.js';
import {
  DIRECTIONS,
  PATTERN_CATEGORIES,
  patternSchema,
  type PatternShape,
} from '../model/library/pattern.js';
import { readMusicalKey, scaleOf, type MusicalKey } from '../pitch/musical-keys.js';
import { HOUSE_PATTERNS } from './house/index.js';
import { byStepsOfKey, inKey } from './in-key.js';
import { guessKey } from './key-guess.js';
import { shaped, shapedLength, type Shapeable } from './shaped.js';

const key = (text: string): MusicalKey => readMusicalKey(text) ?? expect.fail(text);
const written = (...notes: [beat: number, length: number, key?: number, velocity?: number][]) => ({
  length: 4,
  notes: notes.map(([beat, length, at = 60, velocity = 80]) => ({
    ...{ beat, length, key: at, velocity },
  })),
});
/** Notes as `beat+length key v velocity`. */
const inWords = (pattern: Shapeable, settings: Partial<PatternShape>) =>
  shaped(pattern, settings)
    .map((note) => `${+note.beat.toFixed(3)}+${+note.length.toFixed(3)}`)
    .join(' ');

const anyPattern = fc.integer({ min: 1, max: 9 }).chain((length) =>
  fc.record({
    length: fc.constant(length),
    notes: fc.array(
      fc.record({
        beat: fc.double({ min: 0, max: length - 0.01, noNaN: true }),
        length: fc.double({ min: 0.01, max: 5, noNaN: true }),
        key: fc.integer({ min: 58, max: 61 }),
        velocity: fc.integer({ min: 1, max: 127 }),
      }),
      { maxLength: 24 },
    ),
  }),
);
const anyStep = fc.constantFrom(...GRID_STEPS, 3, 20);
const anyShape = fc.record({
  transpose: fc.integer({ min: -60, max: 60 }),
  weight: fc.double({ min: -1, max: 1, noNaN: true }),
  thin: fc.option(anyStep),
  quantise: fc.option(
    fc.record({ step: anyStep, strength: fc.double({ min: 0, max: 1, noNaN: true }) }),
  ),
  swing: fc.integer({ min: 50, max: 75 }),
  direction: fc.constantFrom(...DIRECTIONS),
  rate: fc.constantFrom<PatternShape['rate']>(0.5, 1, 2),
});

describe('a pattern, shaped', () => {
  it.each<[string, Shapeable, Partial<PatternShape>, string]>([
    ['as it is written', written([1, 0.5], [0, 1]), {}, '0+1 1+0.5'],
    [
      'quantised, ends stay',
      written([0.9, 0.6], [2.1, 0.4]),
      { quantise: { step: 1, strength: 1 } },
      '1+0.5 2+0.5',
    ],
    [
      'by half of the way',
      written([1.2, 0.6]),
      { quantise: { step: 1, strength: 0.5 } },
      '1.1+0.7',
    ],
    [
      'onto the end, which is the beginning',
      written([3.9, 0.4]),
      { quantise: { step: 1, strength: 1 } },
      '0+0.3',
    ],
    [
      'longer than what it would leave',
      written([0.6, 0.2]),
      { quantise: { step: 1, strength: 1 } },
      '1+0.2',
    ],
    [
      'thinned to quarters',
      written([0, 0.5], [0.4, 0.5], [1.1, 0.2], [0.95, 0.2]),
      { thin: 1 },
      '0+0.5 0.95+0.2',
    ],
    [
      'swung',
      written([0, 0.5], [0.5, 0.5], [1.25, 0.25]),
      { swing: 75 },
      '0+0.75 0.75+0.25 1.375+0.375',
    ],
    [
      'by the grid',
      written([1, 1], [3, 1]),
      { swing: 60, quantise: { step: 1, strength: 1 } },
      '1.2+0.8 3.2+0.8',
    ],
    ['backward', written([0, 1], [3.5, 0.5]), { direction: 'backward' }, '0+0.5 3+1'],
    ['there and back', written([0, 1]), { direction: 'thereAndBack' }, '0+1 7+1'],
    ['in double time', written([0, 1], [3, 1]), { rate: 2 }, '0+0.5 1.5+0.5'],
    ['in half time', written([0, 1], [3, 1]), { rate: 0.5 }, '0+2 6+2'],
  ])('%s', (_what, pattern, settings, words) => {
    expect(inWords(pattern, settings)).toBe(words);
  });

  it('keeps of equally near notes the stronger, and draws velocities together by weight', () => {
    const tie = written([0.75, 0.1, 60, 70], [1.25, 0.1, 60, 90], [1, 0.1, 61, 80]);
    expect(shaped(tie, { thin: 1 }).map(({ velocity }) => velocity)).toEqual([80, 90]);
    const weighed = (weight: number) =>
      shaped(written([0, 1, 60, 60], [1, 1, 60, 100]), { weight }).map((note) => note.velocity);
    expect([weighed(0.5), weighed(-1), weighed(1)]).toEqual([
      [85, 115],
      [30, 50],
      [110, 127],
    ]);
  });

  it('begins every note within its round, and none is lost but by thinning', () => {
    fc.assert(
      fc.property(anyPattern, anyShape, (pattern, shape) => {
        const notes = shaped(pattern, shape);
        const rounds = shape.direction === 'thereAndBack' ? 2 : 1;
        if (shape.thin === null) expect(notes).toHaveLength(pattern.notes.length * rounds);
        for (const { beat, length } of notes) {
          expect(beat).toBeGreaterThanOrEqual(0);
          expect(beat).toBeLessThan(shapedLength(pattern, shape));
          expect(length).toBeGreaterThan(0);
        }
      }),
    );
  });

  it('is quantised once for all; backward twice is forward; double the rate is half of every distance', () => {
    const rounded = (notes: ReturnType<typeof shaped>) =>
      notes.map((note) => `${note.beat.toFixed(6)} ${note.length.toFixed(6)} ${note.key}`).sort();
    fc.assert(
      fc.property(anyPattern, anyStep, (pattern, step) => {
        const { length } = pattern;
        const once = shaped(pattern, { quantise: { step, strength: 1 } });
        const twice = shaped({ length, notes: once }, { quantise: { step, strength: 1 } });
        expect(rounded(twice)).toEqual(rounded(once));
        const back = shaped(pattern, { direction: 'backward' });
        const forth = shaped({ length, notes: back }, { direction: 'backward' });
        expect(rounded(forth)).toEqual(rounded(shaped(pattern)));
        const fast = shaped(pattern, { rate: 2 });
        shaped(pattern).forEach(({ beat }, i) => expect(fast[i].beat).toBe(beat / 2));
      }),
    );
  });
});

describe('keys of patterns', () => {
  it.each([
    ['C', 'F', [60, 64, 71], [65, 69, 76]],
    ['C', 'G', [60], [55]],
    ['C', 'F#', [60], [66]],
    // Third, sixth and seventh are bent; what is in neither key stays.
    ['C', 'Am', [60, 64, 67, 69, 71, 63], [57, 60, 64, 65, 67, 60]],
    ['Am', 'A', [57, 60, 65, 67, 68], [57, 61, 66, 68, 68]],
  ])('%s → %s', (from, to, notes, sounding) => {
    const asWritten = notes.map((at) => ({ beat: 0, length: 1, key: at, velocity: 1 }));
    expect(inKey(asWritten, key(from), key(to)).map((note) => note.key)).toEqual(sounding);
  });

  it.each([
    [60, 2, 64],
    [60, -1, 59],
    [71, 1, 72],
    // Out of the key: as far above the note below it as before.
    [61, 1, 63],
    [60, 0, 60],
    [60, 7, 72],
  ])('%i by %i steps of C is %i', (at, steps, to) => {
    expect(byStepsOfKey(at, steps, key('C'))).toBe(to);
  });

  it.each(['C', 'F#', 'Am', 'E♭m'])('hears %s in its scale and chord', (name) => {
    const musical = key(name);
    const third = musical.mode === 'minor' ? 3 : 4;
    const chord = [0, 7, third, 12].map((above) => ({
      key: 48 + musical.tonic + above,
      length: 2,
    }));
    const run = [2, 5].map((above) => ({ key: 48 + musical.tonic + above, length: 0.5 }));
    expect(guessKey([...chord, ...run])?.key).toMatchObject({
      tonic: musical.tonic,
      mode: musical.mode,
    });
    expect(guessKey(chord.slice(0, 2))).toBeNull();
  });
});

describe('the patterns that ship', () => {
  it('are forty and more, each a pattern, in whole bars, in its key', () => {
    expect(HOUSE_PATTERNS.length).toBeGreaterThanOrEqual(40);
    expect(new Set(HOUSE_PATTERNS.map(({ id }) => id)).size).toBe(HOUSE_PATTERNS.length);
    for (const pattern of HOUSE_PATTERNS) {
      expect(patternSchema.safeParse(pattern).error?.issues, pattern.name).toBeUndefined();
      const { beats, unit } = pattern.metre;
      expect(((pattern.length * unit) / 4) % beats, pattern.name).toBe(0);
      const { key: of } = pattern;
      if (!of) continue;
      const scale = scaleOf(of);
      const out = pattern.notes.filter((note) => scale[note.key % 12] === 0);
      expect(out.length, pattern.name).toBeLessThanOrEqual(1);
    }
    const categories = new Set(HOUSE_PATTERNS.map(({ category }) => category));
    expect(categories.size).toBe(PATTERN_CATEGORIES.length);
  });
});
