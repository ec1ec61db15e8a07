import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rootsInTheMiddle, strengthsByLoudness, strengthsEvenly } from './spans.js';

const inWords = (spans: readonly ({ low: number; high: number } | null)[]) =>
  spans.map((span) => (span ? `${span.low}–${span.high}` : '–')).join(' ');

describe('roots in the middle', () => {
  it.each([
    [[40, 47, 53], '36–43 44–49 50–60'],
    // In the order given; equal roots share their keys; what lies outside has none.
    [[53, 40, 47, 40], '50–60 36–43 44–49 36–43'],
    [[40, 41], '36–40 41–60'],
    [[50], '36–60'],
    [[10, 30, 50], '– 36–39 40–60'],
    [[], ''],
  ])('%j → %s', (roots, spans) => {
    expect(inWords(rootsInTheMiddle(roots, { low: 36, high: 60 }))).toBe(spans);
  });

  it('gives every key to the root that is nearest, the higher of two', () => {
    const key = fc.integer({ min: 0, max: 127 });
    fc.assert(
      fc.property(fc.uniqueArray(key, { minLength: 1, maxLength: 20 }), key, (roots, at) => {
        const spans = rootsInTheMiddle(roots, { low: 0, high: 127 });
        const nearest = roots.toSorted((a, b) => Math.abs(a - at) - Math.abs(b - at) || b - a)[0];
        roots.forEach((root, i) => {
          const span = spans[i];
          const holds = span !== null && span.low <= at && at <= span.high;
          expect(holds).toBe(root === nearest);
        });
      }),
    );
  });
});

describe('strengths', () => {
  it.each([
    [4, '1–32 33–64 65–96 97–127'],
    [3, '1–43 44–85 86–127'],
    [1, '1–127'],
  ])('%i evenly: %s', (count, spans) => {
    expect(inWords(strengthsEvenly(count))).toBe(spans);
  });

  it.each<[number[], number | undefined, string]>([
    [[-30, -24, -15, -12], 18, '1–22 23–74 75–116 117–127'],
    [[-12, -30, -15, -24], undefined, '117–127 1–22 75–116 23–74'],
    // Less than 12 dB apart: placed as if they were.
    [[-20, -17], undefined, '1–111 112–127'],
    // What would have no room gets four steps.
    [[-20, -20, -20], undefined, '1–119 120–123 124–127'],
    [[-60, -59, -12], undefined, '1–4 5–65 66–127'],
    [[-Infinity, -10], 20, '1–64 65–127'],
    [[-10], undefined, '1–127'],
    [[], undefined, ''],
  ])('by loudness %j over %s dB: %s', (loudness, spread, spans) => {
    expect(inWords(strengthsByLoudness(loudness, spread))).toBe(spans);
  });

  it('share all velocities out, the louder the higher, with four steps at least', () => {
    const loudness = fc.double({ min: -70, max: 0, noNaN: true });
    fc.assert(
      fc.property(fc.array(loudness, { minLength: 1, maxLength: 31 }), (all) => {
        const spans = strengthsByLoudness(all);
        const order = all.map((_, i) => i).sort((a, b) => spans[a].low - spans[b].low);
        expect(spans[order[0]].low).toBe(1);
        expect(spans[order.at(-1) ?? 0].high).toBe(127);
        order.forEach((at, i) => {
          expect(spans[at].high - spans[at].low).toBeGreaterThanOrEqual(3);
          if (i === 0) return;
          expect(spans[at].low).toBe(spans[order[i - 1]].high + 1);
          expect(all[at]).toBeGreaterThanOrEqual(all[order[i - 1]]);
        });
      }),
    );
  });

  it.each([
    () => strengthsEvenly(0),
    () => strengthsByLoudness([-1], 0),
    () => strengthsByLoudness([NaN]),
  ])('refuse what places nothing', (place) => {
    expect(place).toThrow(RangeError);
  });
});
