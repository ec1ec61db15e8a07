import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fittedTouch, median, STROKE_KINDS, WANTED, type Stroke } from './fitting.js';
import { touchOut, touchSchema } from './touch.js';

const strokes = (soft: number[], medium: number[], hard: number[]): Stroke[] =>
  [soft, medium, hard].flatMap((all, at) =>
    all.map((velocity) => ({ meant: STROKE_KINDS[at], velocity })),
  );
const given = (all: Stroke[]) => {
  const touch = fittedTouch(all);
  if (!touch) throw new Error('nothing was fitted');
  return STROKE_KINDS.map((kind) =>
    touchOut(
      touch,
      Math.round(median(all.filter(({ meant }) => meant === kind).map(({ velocity }) => velocity))),
    ),
  );
};
const apart = fc
  .tuple(
    fc.integer({ min: 1, max: 60 }),
    fc.integer({ min: 3, max: 40 }),
    fc.integer({ min: 3, max: 27 }),
  )
  .map(([soft, more, most]) => [soft, soft + more, soft + more + most]);

describe('a touch fitted to strokes', () => {
  it('rises or stays, keeps to 1–127 and can be saved, wherever the strokes land', () => {
    fc.assert(
      fc.property(apart, ([soft, medium, hard]) => {
        const touch = fittedTouch(strokes([soft], [medium], [hard]));
        expect(touchSchema.safeParse(touch).success).toBe(true);
        if (!touch) return;
        for (let v = 1; v <= 127; v++) {
          expect(touchOut(touch, v)).toBeGreaterThanOrEqual(v > 1 ? touchOut(touch, v - 1) : 1);
          expect(touchOut(touch, v)).toBeLessThanOrEqual(127);
        }
      }),
      { numRuns: 20 },
    );
  });

  it('gives what is wanted of a keyboard on which everything comes too soft, or too loud', () => {
    for (const all of [
      strokes([12, 15, 14, 13, 16], [30, 33, 31, 35, 29], [60, 66, 64, 70, 62]),
      strokes([50, 55, 52, 58, 49], [90, 94, 92, 88, 95], [120, 122, 125, 119, 124]),
    ]) {
      const found = given(all);
      STROKE_KINDS.forEach((kind, at) =>
        expect(Math.abs(found[at] - WANTED[kind]), kind).toBeLessThanOrEqual(13),
      );
    }
  });

  it('is not thrown by one slip, and fits a player who needs nothing evenly', () => {
    const calm = strokes([20, 21, 19, 22, 20], [50, 52, 49, 51, 50], [90, 92, 91, 89, 90]);
    const slipped = calm.with(2, { meant: 'soft', velocity: 120 });
    const [touch, other] = [fittedTouch(calm), fittedTouch(slipped)];
    if (!touch || !other) throw new Error('nothing was fitted');
    for (let v = 1; v <= 127; v++)
      expect(Math.abs(touchOut(touch, v) - touchOut(other, v))).toBeLessThanOrEqual(6);
    expect(given(strokes([30], [70], [115]))).toEqual([30, 70, 115]);
  });

  it('is none when a kind is wanting, or soft is as hard as hard', () => {
    expect(fittedTouch(strokes([20], [], [100]))).toBeNull();
    expect(fittedTouch(strokes([60, 61], [61, 60], [62, 61]))).toBeNull();
    expect(fittedTouch(strokes([100], [60], [20]))).toBeNull();
    expect(median([])).toBe(0);
  });
});
