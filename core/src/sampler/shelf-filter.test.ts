import { describe, expect, it } from 'vitest';
import { HIGH_SHELF_HZ, LOW_SHELF_HZ, ShelfFilter } from './shelf-filter.js';

const RATE = 48_000;
const CORNER = { low: LOW_SHELF_HZ, high: HIGH_SHELF_HZ };

/** What a shelf makes of a sine in dB, once it has settled; 0 Hz is a constant, 24 kHz every other sign. */
function gainAt(kind: 'low' | 'high', decibels: number, frequency: number): number {
  const shelf = new ShelfFilter(kind, RATE);
  shelf.to(decibels, true);
  const turn = (2 * Math.PI * frequency) / RATE;
  const input = Float32Array.from({ length: RATE }, (_, i) => Math.cos(turn * i));
  const left = input.slice();
  const right = new Float32Array(RATE);
  shelf.render(left, right, 0, RATE);
  expect(right.every((sample) => sample === 0)).toBe(true);
  const power = (samples: Float32Array) =>
    samples.subarray(RATE / 2).reduce((sum, sample) => sum + sample * sample, 0);
  return 10 * Math.log10(power(left) / power(input));
}

describe('a shelf', () => {
  it.each([12, 5, -3, -12])(
    'of %d dB lifts all of its side, half of it at the corner',
    (decibels) => {
      for (const kind of ['low', 'high'] as const) {
        const [own, other] = kind === 'low' ? [0, RATE / 2] : [RATE / 2, 0];
        expect(gainAt(kind, decibels, own)).toBeCloseTo(decibels, 2);
        expect(gainAt(kind, decibels, other)).toBeCloseTo(0, 2);
        expect(gainAt(kind, decibels, CORNER[kind])).toBeCloseTo(decibels / 2, 2);
        // As steep as it can be without a hump: what is cut mirrors what is lifted.
        const near = CORNER[kind] * 0.5;
        expect(gainAt(kind, decibels, near)).toBeCloseTo(-gainAt(kind, -decibels, near), 3);
        expect(Math.abs(gainAt(kind, decibels, near))).toBeLessThanOrEqual(
          Math.abs(decibels) + 0.01,
        );
      }
    },
  );

  it('filters both channels alike, and the frames asked for alone', () => {
    const shelf = new ShelfFilter('high', RATE);
    shelf.to(6, true);
    const left = Float32Array.from({ length: 64 }, (_, i) => Math.sin(i * i));
    const right = left.slice();
    const before = left.slice();
    shelf.render(left, right, 8, 40);
    expect(left).toEqual(right);
    expect(left.subarray(0, 8)).toEqual(before.subarray(0, 8));
    expect(left.subarray(40)).toEqual(before.subarray(40));
    expect(left.subarray(8, 40)).not.toEqual(before.subarray(8, 40));
  });

  it('goes on where it was, frame for frame, until it is put to rest', () => {
    const noise = Float32Array.from({ length: 256 }, (_, i) => Math.sin(i * i * 0.7));
    const whole = noise.slice();
    const parts = noise.slice();
    const one = new ShelfFilter('low', RATE);
    const other = new ShelfFilter('low', RATE);
    for (const shelf of [one, other]) shelf.to(-9, true);
    one.render(whole, whole.slice(), 0, 256);
    for (const [from, to] of [
      [0, 50],
      [50, 51],
      [51, 256],
    ])
      other.render(parts, parts.slice(), from, to);
    expect(parts).toEqual(whole);
    other.rest();
    const again = noise.slice();
    other.render(again, again.slice(), 0, 256);
    expect(again).toEqual(whole);
  });

  it('goes a quarter of the way with each block while it sounds, and arrives', () => {
    const shelf = new ShelfFilter('low', RATE);
    const settled = () => {
      const constant = new Float32Array(RATE).fill(1);
      shelf.render(constant, constant.slice(), 0, RATE);
      return 20 * Math.log10(constant[RATE - 1]);
    };
    shelf.to(8, false);
    expect(settled()).toBeCloseTo(2, 3);
    expect(settled()).toBeCloseTo(3.5, 3);
    expect(settled()).toBeCloseTo(4.625, 3);
    for (let i = 0; i < 30; i++) settled();
    expect(settled()).toBeCloseTo(8, 3);
    shelf.to(-10, true);
    shelf.to(6, false);
    // From −10 by a quarter of 16 dB.
    expect(settled()).toBeCloseTo(-6, 3);
    shelf.to(0, false);
    for (let i = 0; i < 40; i++) settled();
    // It is out of the way again: nothing is touched.
    const untouched = Float32Array.of(0.1, 0.2, 0.3);
    shelf.render(untouched, untouched.slice(), 0, 3);
    expect(untouched).toEqual(Float32Array.of(0.1, 0.2, 0.3));
  });

  it('comes to rest after a sound, without ever smaller numbers', () => {
    const shelf = new ShelfFilter('low', RATE);
    shelf.to(6, true);
    const burst = new Float32Array(4800);
    burst[0] = 1;
    shelf.render(burst, burst.slice(), 0, 4800);
    const rest = new Float32Array(16);
    shelf.render(rest, rest.slice(), 0, 16);
    shelf.render(rest, rest.slice(), 0, 16);
    expect(rest.every((sample) => sample === 0)).toBe(true);
  });
});
