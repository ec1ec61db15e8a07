import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hermite, sampleAtSeam } from './interpolation.js';

describe('interpolation', () => {
  it('goes through its samples, and is exact for any parabola', () => {
    const any = fc.double({ min: -2, max: 2, noNaN: true });
    fc.assert(
      fc.property(any, any, any, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, c, t) => {
        const at = (x: number) => a + b * x + c * x * x;
        expect(hermite(at(-1), at(0), at(1), at(2), t)).toBeCloseTo(at(t), 9);
      }),
    );
    expect(hermite(9, 3, 5, -9, 0)).toBe(3);
    expect(hermite(9, 3, 5, -9, 1)).toBeCloseTo(5, 12);
  });

  it('weighs four samples half-way as the cubic of Catmull and Rom does', () => {
    const weights = [
      hermite(1, 0, 0, 0, 0.5),
      hermite(0, 1, 0, 0, 0.5),
      hermite(0, 0, 1, 0, 0.5),
      hermite(0, 0, 0, 1, 0.5),
    ];
    expect(weights).toEqual([-1 / 16, 9 / 16, 9 / 16, -1 / 16]);
  });

  it('looks across the seam of a loop, and stands still at the end of what plays once', () => {
    const samples = Float32Array.from([10, 20, 30, 40, 50, 60]);
    const seam = (position: number, loopStart: number, end: number) =>
      sampleAtSeam(samples, position, loopStart, end);
    expect(seam(0.5, -1, 6)).toBe(hermite(10, 10, 20, 30, 0.5));
    expect(seam(1.25, -1, 6)).toBe(hermite(10, 20, 30, 40, 0.25));
    // A loop from the very beginning: before 10 comes 60.
    expect(seam(0.5, 0, 6)).toBe(hermite(60, 10, 20, 30, 0.5));
    // A loop of 20…50: behind 50 comes 20 again.
    expect(seam(3.5, 1, 5)).toBe(hermite(30, 40, 50, 20, 0.5));
    expect(seam(4.5, 1, 5)).toBe(hermite(40, 50, 20, 30, 0.5));
    expect(seam(4.5, -1, 6)).toBe(hermite(40, 50, 60, 60, 0.5));
    expect(seam(5, -1, 6)).toBe(60);
  });
});
