import { describe, expect, it } from 'vitest';
import { trimAt, TrimKnobs } from './trim-knobs.js';

describe('a knob that trims', () => {
  it('goes from −24 over 0 to +12 dB', () => {
    expect([0, 32, 64, 127].map(trimAt)).toEqual([-24, -12, 0, 12]);
    expect(trimAt(63)).toBeCloseTo(-0.375, 9);
    expect(trimAt(95)).toBeCloseTo((12 * 31) / 63, 9);
  });

  it('is heard from where the trim stands, whether it is met or gone by', () => {
    const knobs = new TrimKnobs();
    expect(knobs.move(1, 100, 0)).toBeNull();
    expect(knobs.move(1, 66, 0)).toBe(0.4);
    expect(knobs.move(1, 127, 0.4)).toBe(12);
    // It is held from then on, wherever the trim has gone.
    expect(knobs.move(1, 0, 5)).toBe(-24);

    const others = new TrimKnobs();
    expect(others.move(2, 10, 0)).toBeNull();
    expect(others.move(2, 50, 0)).toBeNull();
    expect(others.move(2, 90, 0)).toBe(5);
    const downwards = new TrimKnobs();
    expect(downwards.move(2, 120, -3)).toBeNull();
    expect(downwards.move(2, 40, -3)).toBe(-9);
  });

  it('has come by wherever the trim stands: above the middle, below it, or where the knob stood', () => {
    const knobs = new TrimKnobs();
    expect([knobs.move(1, 75, 3), knobs.move(1, 90, 3)]).toEqual([null, 5]);
    expect([knobs.move(2, 51, -3), knobs.move(2, 69, -3)]).toEqual([null, 1]);
    expect([knobs.move(3, 127, 0), knobs.move(3, 96, 12)]).toEqual([null, 6.1]);
    // As far from the middle, but on the other side.
    expect(knobs.move(4, 116, -10)).toBeNull();
  });
});
