import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pointOf, pulled } from './pulling.js';
import {
  EVEN_TOUCH,
  lowestSounding,
  touchInWords,
  touchOut,
  touchSchema,
  lifted,
  TOUCH_SHAPES,
} from './touch.js';

const digIn = { ...EVEN_TOUCH, inLow: 77, below: 'silent' as const };
const raised = { ...EVEN_TOUCH, outLow: 55 };
const soft = { ...EVEN_TOUCH, bend: 0.5 };

describe('touch', () => {
  it.each([
    ['joins when you dig in', digIn, 76, 0],
    ['joins when you dig in', digIn, 77, 1],
    ['joins when you dig in', digIn, 102, 64],
    ['joins when you dig in', digIn, 127, 127],
    ['lifted floor', raised, 1, 55],
    ['lifted floor', raised, 64, 91],
    ['lifted floor', raised, 127, 127],
    ['bend a half', soft, 32, 63],
    ['bend a half', soft, 64, 90],
    ['held below', { ...digIn, below: 'hold' as const, outLow: 20 }, 40, 20],
  ])('%s: %o turns %i into %i', (_name, touch, velocityIn, out) => {
    expect(touchOut(touch, velocityIn)).toBe(out);
  });

  it('changes nothing when even', () => {
    for (let v = 1; v <= 127; v++) expect(touchOut(EVEN_TOUCH, v)).toBe(v);
  });

  it('stays within 1–127 and never falls while in rises, for any rising touch', () => {
    const velocity = fc.integer({ min: 1, max: 127 });
    fc.assert(
      fc.property(
        fc.tuple(velocity, velocity, velocity, velocity),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.constantFrom('silent' as const, 'hold' as const),
        ([a, b, c, d], bend, below) => {
          const touch = touchSchema.parse({
            inLow: Math.min(a, b),
            inHigh: Math.max(a, b),
            outLow: Math.min(c, d),
            outHigh: Math.max(c, d),
            bend,
            below,
          });
          let before = 0;
          for (let v = 1; v <= 127; v++) {
            const out = touchOut(touch, v);
            expect(out === 0).toBe(v < lowestSounding(touch));
            expect(out).toBeGreaterThanOrEqual(before);
            expect(out).toBeLessThanOrEqual(127);
            before = out;
          }
        },
      ),
    );
  });

  it('has a word for what it does', () => {
    expect([EVEN_TOUCH, digIn, raised, soft].map(touchInWords)).toEqual([
      'even',
      'joins from 77',
      'from 55 up',
      'softer',
    ]);
  });
});

describe('pulling a curve by its points', () => {
  it.each([
    [{}, 'even'],
    [{ bend: 0.05 }, 'even'],
    [{ bend: -0.05 }, 'even'],
    [{ bend: 0.06 }, 'softer'],
    [{ bend: -0.06 }, 'harder'],
    [{ below: 'silent' as const }, 'even'],
    [{ below: 'silent' as const, inLow: 2 }, 'joins from 2'],
    [{ inLow: 20 }, 'in 20–127'],
    [{ inHigh: 100 }, 'in 1–100'],
    [{ outLow: 60, outHigh: 60 }, 'always 60'],
    [{ outLow: 40 }, 'from 40 up'],
    [{ outLow: 40, bend: -0.5 }, 'harder, from 40'],
    [{ outLow: 40, outHigh: 90 }, '40–90'],
    [{ outHigh: 90, inLow: 20 }, '1–90'],
  ])('is called for %o: %s', (changes, words) => {
    expect(touchInWords({ ...EVEN_TOUCH, ...changes })).toBe(words);
  });

  it('is held at its ends and half-way between them', () => {
    const touch = { ...EVEN_TOUCH, inLow: 21, inHigh: 100, outLow: 30, outHigh: 110 };
    expect(pointOf(touch, 'low')).toEqual({ in: 21, out: 30 });
    expect(pointOf(touch, 'high')).toEqual({ in: 100, out: 110 });
    expect(pointOf(touch, 'bend')).toEqual({ in: 61, out: 71 });
  });

  it('is refused with its ends crossed', () => {
    expect(touchSchema.safeParse({ ...EVEN_TOUCH, inLow: 90, inHigh: 80 }).success).toBe(false);
    expect(touchSchema.safeParse({ ...EVEN_TOUCH, inLow: 90, inHigh: 90 }).success).toBe(true);
  });

  it('moves the ends, never past each other', () => {
    expect(pulled(EVEN_TOUCH, 'low', 30.4, 12)).toMatchObject({ inLow: 30, outLow: 12 });
    expect(pulled({ ...EVEN_TOUCH, inHigh: 90 }, 'low', 200, -4)).toMatchObject({
      inLow: 90,
      outLow: 1,
    });
    expect(pulled({ ...EVEN_TOUCH, inLow: 40 }, 'high', 20, 99)).toMatchObject({
      inHigh: 40,
      outHigh: 99,
    });
  });

  it('bends so that the middle comes to where it is pulled', () => {
    for (const out of [30, 64, 90, 104]) {
      const touch = pulled(EVEN_TOUCH, 'bend', 64, out);
      expect(Math.abs(pointOf(touch, 'bend').out - out)).toBeLessThanOrEqual(1);
    }
    expect(pulled(EVEN_TOUCH, 'bend', 64, 500).bend).toBe(1);
    expect(pulled(EVEN_TOUCH, 'bend', 64, -500).bend).toBe(-1);
  });

  it('offers shapes that differ, and a lift that leaves silence silent', () => {
    const outs = TOUCH_SHAPES.map(({ touch }) =>
      [20, 64, 110].map((v) => touchOut(touch, v)).join(),
    );
    expect(new Set(outs).size).toBe(TOUCH_SHAPES.length);
    const dug = TOUCH_SHAPES.find(({ name }) => name === 'joins when you dig in')?.touch;
    const lift = lifted(dug ?? EVEN_TOUCH, 55);
    expect([touchOut(lift, 76), touchOut(lift, 77), touchOut(lift, 127)]).toEqual([0, 55, 127]);
  });
});
