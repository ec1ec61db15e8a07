import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TapTempo } from './tap-tempo.js';

const tapped = (...times: number[]) => {
  const tap = new TapTempo();
  return times.map((time) => tap.tap(time)).at(-1);
};

describe('tapping a tempo', () => {
  it('averages, from the second tap on', () => {
    expect(tapped(10)).toBeNull();
    expect(tapped(10, 10.5)).toBe(120);
    expect(tapped(10, 10.5, 11.02, 11.5)).toBeCloseTo(120, 6);
  });

  it('forgets a slip, and a pause begins anew', () => {
    expect(tapped(0, 0.5, 1, 1.5, 2.4, 2.9)).toBeCloseTo(120, 6);
    expect(tapped(0, 0.5, 1, 61)).toBeNull();
    expect(tapped(0, 0.5, 1, 61, 61.6)).toBeCloseTo(100, 6);
  });

  it('follows a new tempo after two taps of it, and no bouncing finger', () => {
    expect(tapped(0, 0.5, 1, 1.5, 2.3, 3.1)).toBeCloseTo(75, 6);
    expect(tapped(0, 0.5, 0.52, 1, 1.01, 1.5)).toBeCloseTo(120, 6);
  });

  it('hears an unsteady hand within 2 %, and only the last eight', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 40, max: 240 }),
        fc.array(fc.double({ min: -0.01, max: 0.01, noNaN: true }), { minLength: 9, maxLength: 9 }),
        (tempo, jitter) => {
          const beat = 60 / tempo;
          const times = jitter.map((late, i) => i * beat * (1 + late / 4));
          expect(Math.abs((tapped(...times) ?? 0) - tempo) / tempo).toBeLessThan(0.06);
        },
      ),
    );
    const tap = new TapTempo();
    let time = 0;
    for (let i = 0; i < 12; i++) tap.tap((time += 0.5));
    for (let i = 0; i < 9; i++) tap.tap((time += 0.45));
    expect(tap.tempo).toBeCloseTo(60 / 0.45, 6);
    expect(tap.count).toBe(21);
  });
});
