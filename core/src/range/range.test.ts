import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dbFromGain, formatDb, gainFromDb } from '../units/decibels.js';
import {
  fadeLaw,
  fadeLawAt,
  keyRangeSchema,
  LONGEST_FADE,
  rangeGain,
  velocityRangeSchema,
  widthOf,
  withRangePart,
} from './range.js';

const range = (low: number, high: number, fadeIn = 0, fadeOut = 0) =>
  keyRangeSchema.parse({ low, high, fadeIn, fadeOut });

const anyRange = fc
  .tuple(fc.integer({ min: 0, max: 127 }), fc.integer({ min: 0, max: 127 }))
  .chain(([a, b]) => {
    const low = Math.min(a, b);
    const high = Math.max(a, b);
    return fc
      .integer({ min: 0, max: Math.min(LONGEST_FADE, high - low + 1) })
      .chain((fadeIn) =>
        fc
          .integer({ min: 0, max: Math.min(LONGEST_FADE, high - low + 1 - fadeIn) })
          .map((fadeOut) => range(low, high, fadeIn, fadeOut)),
      );
  });

describe('gain of a range', () => {
  it('fades in over three keys from 60 as in the worked example', () => {
    const fading = range(60, 72, 3);
    expect([60, 61, 62, 63].map((key) => rangeGain(fading, key))).toEqual([
      expect.closeTo(0.3827, 4),
      expect.closeTo(0.7071, 4),
      expect.closeTo(0.9239, 4),
      1,
    ]);
    expect(dbFromGain(rangeGain(fading, 60))).toBeCloseTo(-8.34, 2);
    expect(dbFromGain(rangeGain(fading, 61))).toBeCloseTo(-3.01, 2);
    expect(dbFromGain(rangeGain(fading, 62))).toBeCloseTo(-0.69, 2);
  });

  it('is nothing outside and never quite nothing at an edge', () => {
    fc.assert(
      fc.property(anyRange, (r) => {
        expect(rangeGain(r, r.low)).toBeGreaterThan(0);
        expect(rangeGain(r, r.high)).toBeGreaterThan(0);
        expect(rangeGain(r, r.low - 1)).toBe(0);
        expect(rangeGain(r, r.high + 1)).toBe(0);
      }),
    );
  });

  it('keeps constant power where two ranges overlap by as much as they fade', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 40 }),
        (overlap, rest) => {
          const lower = range(0, rest + overlap - 1, 0, overlap);
          const upper = range(rest, rest + overlap + 20, overlap, 0);
          for (let key = 0; key <= upper.high; key++)
            expect(rangeGain(lower, key) ** 2 + rangeGain(upper, key) ** 2).toBeCloseTo(1, 10);
        },
      ),
    );
  });

  it('sums linear fades to a constant gain', () => {
    const lower = { ...range(0, 20, 0, 8), law: 'linear' as const };
    const upper = { ...range(13, 40, 8, 0), law: 'linear' as const };
    for (let key = 0; key <= 40; key++)
      expect(rangeGain(lower, key) + rangeGain(upper, key)).toBeCloseTo(1, 10);
  });
});

describe('where a fade has a gain', () => {
  it.each(['equalPower', 'linear'] as const)('undoes the law, %s', (law) => {
    for (const gain of [0, 0.1, 0.25, Math.SQRT1_2, 0.9, 1])
      expect(fadeLaw(fadeLawAt(gain, law), law)).toBeCloseTo(gain, 12);
  });

  it('is half-way for −3 dB at equal power', () => {
    expect(fadeLawAt(Math.SQRT1_2, 'equalPower')).toBeCloseTo(0.5, 12);
  });
});

describe('what counts as a range', () => {
  it('refuses swapped limits, fades that do not fit and velocity 0, and says where', () => {
    const swapped = keyRangeSchema.safeParse({ low: 64, high: 60 });
    expect(swapped.error?.issues[0]).toMatchObject({
      path: ['low'],
      message: 'the lowest key 64 is above the highest, 60',
    });
    const long = keyRangeSchema.safeParse({ low: 60, high: 62, fadeIn: 2, fadeOut: 2 });
    expect(long.error?.issues[0]).toMatchObject({
      path: ['fadeIn'],
      message: 'the fades (2 and 2) are longer than the range of 3',
    });
    expect(velocityRangeSchema.safeParse({ low: 0, high: 127 }).success).toBe(false);
    expect(keyRangeSchema.safeParse({ low: 0, high: 127, width: 3 }).success).toBe(false);
  });

  it('stays valid whatever part is moved wherever', () => {
    fc.assert(
      fc.property(
        anyRange,
        fc.constantFrom('low' as const, 'high' as const, 'fadeIn' as const, 'fadeOut' as const),
        fc.integer({ min: -40, max: 200 }),
        (r, part, value) => {
          const moved = withRangePart(r, part, value);
          expect(keyRangeSchema.safeParse(moved).success).toBe(true);
          expect(widthOf(moved)).toBeGreaterThan(0);
        },
      ),
    );
  });

  it('swaps low and high, with their fades, when they cross', () => {
    expect(withRangePart(range(40, 60, 3, 1), 'low', 70)).toMatchObject({
      low: 60,
      high: 70,
      fadeIn: 1,
      fadeOut: 3,
    });
    // Limits that only meet have not crossed.
    expect(withRangePart(range(40, 60, 1, 0), 'low', 60)).toMatchObject({ fadeIn: 1, fadeOut: 0 });
  });

  it('leaves the limits alone while a fade is moved, and keeps it within them', () => {
    expect(withRangePart(range(40, 49, 0, 4), 'fadeIn', 20)).toMatchObject({
      low: 40,
      high: 49,
      fadeIn: 6,
      fadeOut: 4,
    });
  });
});

describe('levels', () => {
  it('goes from dB to gain and back, with −60 dB as silence', () => {
    expect(gainFromDb(-6.0206)).toBeCloseTo(0.5, 5);
    expect(dbFromGain(gainFromDb(-17.3))).toBeCloseTo(-17.3, 9);
    expect(gainFromDb(-60)).toBe(0);
    expect(formatDb(-4)).toBe('−4.0 dB');
    expect(formatDb(-0.01)).toBe('0.0 dB');
    expect(formatDb(-75)).toBe('−∞ dB');
  });

  it('never has a fade that cannot be saved', () => {
    const whole = keyRangeSchema.parse({ low: 0, high: 127 });
    for (const part of ['fadeIn', 'fadeOut'] as const)
      expect(keyRangeSchema.safeParse(withRangePart(whole, part, 128)).success).toBe(true);
  });
});
