import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { keyRangeSchema, rangeGain, widthOf, type Range } from './range.js';
import {
  crossfaded,
  meeting,
  movedSplit,
  overlapOf,
  splitAt,
  splitEvenly,
  upToNeighbour,
  withBoundary,
} from './splits.js';

const range = (low: number, high: number, fadeIn = 0, fadeOut = 0): Range =>
  keyRangeSchema.parse({ low, high, fadeIn, fadeOut });
const limits = (...ranges: Range[]) => ranges.map((r) => [r.low, r.high, r.fadeIn, r.fadeOut]);

const anyRange = fc
  .tuple(fc.integer({ min: 0, max: 127 }), fc.integer({ min: 0, max: 127 }))
  .chain(([a, b]) => {
    const [low, high] = [Math.min(a, b), Math.max(a, b)];
    return fc
      .tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 20 }))
      .map(([fadeIn, fadeOut]) => {
        const fitting = Math.min(fadeIn, high - low + 1);
        return range(low, high, fitting, Math.min(fadeOut, high - low + 1 - fitting));
      });
  });
const anyPair = fc
  .tuple(anyRange, anyRange)
  .map(([a, b]) => (a.low <= b.low ? ([a, b] as const) : ([b, a] as const)))
  .filter(([lower, upper]) => upper.high > lower.low)
  .map(([lower, upper]): [Range, Range] => [lower, upper]);
const valid = (...ranges: Range[]) =>
  ranges.every((r) => keyRangeSchema.safeParse(r).success) ||
  (() => {
    throw new Error(`not valid: ${JSON.stringify(ranges)}`);
  })();

describe('splitting', () => {
  it('cuts in two at a key and leaves the outer fades where they are', () => {
    const cut = splitAt(range(28, 103, 4, 6), 60);
    expect(cut && limits(...cut)).toEqual([
      [28, 59, 4, 0],
      [60, 103, 0, 6],
    ]);
    expect(splitAt(range(28, 103), 28)).toBeNull();
    expect(splitAt(range(28, 103), 104)).toBeNull();
  });

  it('shares velocities out evenly, the wider parts first', () => {
    expect(splitEvenly(range(1, 127), 4).map((r) => [r.low, r.high])).toEqual([
      [1, 32],
      [33, 64],
      [65, 96],
      [97, 127],
    ]);
    expect(splitEvenly(range(60, 61), 5)).toHaveLength(2);
  });

  it('covers exactly the same steps, once each, however many parts', () => {
    fc.assert(
      fc.property(anyRange, fc.integer({ min: 1, max: 12 }), (whole, parts) => {
        const found = splitEvenly(whole, parts);
        valid(...found);
        expect(found.reduce((sum, r) => sum + widthOf(r), 0)).toBe(widthOf(whole));
        found.slice(1).forEach((r, i) => expect(overlapOf(found[i], r)).toBe(0));
        const widths = found.map(widthOf);
        expect(Math.max(...widths) - Math.min(...widths)).toBeLessThanOrEqual(1);
      }),
    );
  });
});

describe('two neighbours', () => {
  it('meet in the middle of a gap or an overlap', () => {
    expect(limits(...meeting([range(28, 54), range(57, 103)]))).toEqual([
      [28, 55, 0, 0],
      [56, 103, 0, 0],
    ]);
    expect(limits(...meeting([range(28, 70, 0, 9), range(61, 103, 9)]))).toEqual([
      [28, 65, 0, 0],
      [66, 103, 0, 0],
    ]);
  });

  it('meet without gap or overlap, and stay valid, wherever they lay', () => {
    fc.assert(
      fc.property(anyPair, fc.integer({ min: -10, max: 140 }), (pair, at) => {
        for (const met of [meeting(pair), withBoundary(pair, at)]) {
          valid(...met);
          expect(overlapOf(...met)).toBe(0);
          expect([met[0].low, met[1].high]).toEqual([pair[0].low, pair[1].high]);
        }
      }),
    );
  });

  it('turn an overlap into a crossfade of constant power, and leave a gap alone', () => {
    const [soft, hard] = crossfaded([range(1, 92), range(69, 127)]);
    expect([soft.fadeOut, hard.fadeIn]).toEqual([24, 24]);
    for (let v = 1; v <= 127; v++)
      expect(rangeGain(soft, v) ** 2 + rangeGain(hard, v) ** 2).toBeCloseTo(1, 9);
    const apart: [Range, Range] = [range(1, 40), range(60, 127)];
    expect(crossfaded(apart)).toEqual(apart);
  });

  it('move together as one split and keep what is between them', () => {
    const crossing = crossfaded([range(28, 65), range(60, 103)]);
    const moved = movedSplit(crossing, 5);
    expect(limits(...moved)).toEqual([
      [28, 70, 0, 6],
      [65, 103, 6, 0],
    ]);
    fc.assert(
      fc.property(anyPair, fc.integer({ min: -127, max: 127 }), (pair, by) => {
        const after = movedSplit(pair, by);
        valid(...after);
        expect(overlapOf(...after)).toBe(overlapOf(...pair));
      }),
    );
  });

  it('reach up to where the other stops', () => {
    const neighbours = [range(28, 54), range(80, 103)];
    expect(limits(upToNeighbour(range(57, 70), 'low', neighbours)!)).toEqual([[55, 70, 0, 0]]);
    expect(limits(upToNeighbour(range(57, 70), 'high', neighbours)!)).toEqual([[57, 79, 0, 0]]);
    expect(limits(upToNeighbour(range(40, 90), 'low', neighbours)!)).toEqual([[55, 90, 0, 0]]);
    expect(upToNeighbour(range(10, 20), 'low', neighbours)).toBeNull();
  });
});

describe('the outer fades', () => {
  it('stay with the outer ends when a range is shared out', () => {
    expect(limits(...splitEvenly(range(0, 29, 3, 4), 3))).toEqual([
      [0, 9, 3, 0],
      [10, 19, 0, 0],
      [20, 29, 0, 4],
    ]);
  });

  it('stay when a range is cut at its highest', () => {
    expect(limits(...(splitAt(range(10, 20, 2, 1), 20) ?? []))).toEqual([
      [10, 19, 2, 0],
      [20, 20, 0, 1],
    ]);
  });
});

describe('up to the nearest neighbour', () => {
  // Below, nearer below, across the lower end, above, nearer above; within it, all over it, and with a limit in common.
  const others = [
    range(5, 20),
    range(8, 31),
    range(90, 99),
    range(80, 110),
    range(45, 50),
    range(0, 127),
    range(40, 55),
    range(50, 60),
  ];

  it('looks only at those that lie beyond the side', () => {
    expect(upToNeighbour(range(40, 60), 'low', others)).toMatchObject({ low: 32, high: 60 });
    expect(upToNeighbour(range(40, 60), 'high', others)).toMatchObject({ low: 40, high: 79 });
  });

  it('shrinks where one reaches in', () => {
    expect(upToNeighbour(range(40, 60), 'low', [range(30, 44)])).toMatchObject({ low: 45 });
    expect(upToNeighbour(range(40, 60), 'high', [range(55, 70)])).toMatchObject({ high: 54 });
  });

  it('has nowhere to go without one', () => {
    expect(upToNeighbour(range(40, 60), 'low', [range(40, 50), range(0, 60)])).toBeNull();
    expect(upToNeighbour(range(40, 60), 'high', [range(45, 60), range(40, 90)])).toBeNull();
  });
});
