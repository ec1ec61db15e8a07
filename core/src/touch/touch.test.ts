import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EVEN_TOUCH, lowestSounding, touchInWords, touchOut, touchSchema } from './touch.js';

const digIn = { ...EVEN_TOUCH, inLow: 77, below: 'silent' as const };
const lifted = { ...EVEN_TOUCH, outLow: 55 };
const soft = { ...EVEN_TOUCH, bend: 0.5 };

describe('touch', () => {
  it.each([
    ['joins when you dig in', digIn, 76, 0],
    ['joins when you dig in', digIn, 77, 1],
    ['joins when you dig in', digIn, 102, 64],
    ['joins when you dig in', digIn, 127, 127],
    ['lifted floor', lifted, 1, 55],
    ['lifted floor', lifted, 64, 91],
    ['lifted floor', lifted, 127, 127],
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
    expect([EVEN_TOUCH, digIn, lifted, soft].map(touchInWords)).toEqual([
      'even',
      'joins from 77',
      'from 55 up',
      'softer',
    ]);
  });
});
