import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BLOCK } from './block.js';
import { Limiter, LIMIT } from './limiter.js';

const RATE = 48_000;

/** What comes out of a limiter for blocks of samples, left and right alike but for the sign. */
function limited(samples: Float32Array): { out: Float32Array; back: number; delay: number } {
  const limiter = new Limiter(RATE);
  const out = new Float32Array(samples.length);
  const into = { left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) };
  let back = 0;
  for (let at = 0; at + BLOCK <= samples.length; at += BLOCK) {
    const left = samples.slice(at, at + BLOCK);
    back = Math.max(back, limiter.render({ left, right: left.map((s) => -s) }, into));
    out.set(into.left, at);
    expect(into.right.every((s, i) => s + into.left[i] === 0)).toBe(true);
  }
  return { out, back, delay: limiter.delay };
}
const sine = (amplitude: number, frequency: number, frames: number) =>
  Float32Array.from(
    { length: frames },
    (_, i) => amplitude * Math.sin((2 * Math.PI * frequency * i) / RATE),
  );

describe('the limiter', () => {
  it('lets through what is below full scale as it is, at most 2 ms later', () => {
    const samples = sine(LIMIT * 0.999, 220, 40 * BLOCK);
    const { out, back, delay } = limited(samples);
    expect(delay).toBeLessThanOrEqual(0.002 * RATE);
    expect(back).toBe(0);
    expect(out.subarray(delay)).toEqual(samples.subarray(0, samples.length - delay));
  });

  it('lets nothing beyond −0.3 dB out, whatever comes in', () => {
    const anySample = fc.oneof(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -4, max: 4, noNaN: true }),
      fc.double({ min: -100, max: 100, noNaN: true }),
      fc.constantFrom(0, 4, -4, NaN, Infinity),
    );
    fc.assert(
      fc.property(fc.array(anySample, { minLength: 512, maxLength: 2048 }), (samples) => {
        const { out } = limited(Float32Array.from(samples));
        expect(out.reduce((most, s) => Math.max(most, Math.abs(s)), 0)).toBeLessThanOrEqual(
          LIMIT * (1 + 1e-6),
        );
      }),
      { numRuns: 40 },
    );
  });

  it('brings +12 dB to −0.3 dB without a click, and lets go slowly', () => {
    const loud = sine(4, 112.5, 200 * BLOCK);
    const { out } = limited(Float32Array.from([...loud, ...sine(0.25, 112.5, 200 * BLOCK)]));
    const peak = (from: number, to: number) =>
      out.subarray(from * BLOCK, to * BLOCK).reduce((most, s) => Math.max(most, Math.abs(s)), 0);
    expect(peak(100, 200)).toBeGreaterThan(LIMIT * 0.95);
    expect(peak(205, 210)).toBeLessThan(0.15);
    expect(peak(390, 400)).toBeGreaterThan(0.24);
    let steepest = 0;
    for (let i = 1; i < out.length; i++)
      steepest = Math.max(steepest, Math.abs(out[i] - out[i - 1]));
    expect(steepest).toBeLessThan(4 * ((2 * Math.PI * 112.5) / RATE));
  });

  it('is what a plain reading of its windows gives, frame by frame', () => {
    const loudness = fc.oneof(
      fc.double({ min: -0.9, max: 0.9, noNaN: true }),
      fc.double({ min: -3, max: 3, noNaN: true }),
    );
    fc.assert(
      fc.property(fc.array(loudness, { minLength: 5, maxLength: 40 }), (heights) => {
        const samples = Float32Array.from(
          { length: 12 * BLOCK },
          (_, i) => heights[Math.floor(i / 37) % heights.length],
        );
        const { out, delay } = limited(samples);
        expect(delay).toBe(Math.round(0.0019 * RATE) - 1);
        const needed = [...samples].map((s) => Math.min(1, LIMIT / Math.max(Math.abs(s), 1e-9)));
        const held: number[] = [];
        const furthest = [...samples].map((_, i) => {
          const window = needed.slice(Math.max(0, i - delay), i + 1);
          const before = (held[i - 1] ?? 0) * Math.exp(-1 / (0.12 * RATE));
          const holding = Math.max(1 - Math.min(...window), before);
          held.push(holding < 1e-6 ? 0 : holding);
          const back = held.slice(Math.max(0, i - delay)).reduce((sum, h) => sum + h, 0);
          const meant = (samples[i - delay] ?? 0) * (1 - back / (delay + 1));
          return Math.abs(out[i] - meant);
        });
        expect(Math.max(...furthest)).toBeLessThan(1e-5);
      }),
      { numRuns: 12 },
    );
  });

  it('tells the most that it held back, and then nothing of what has passed', () => {
    const limiter = new Limiter(RATE);
    const into = { left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) };
    const block = (left: number, right: number) =>
      limiter.render(
        { left: new Float32Array(BLOCK).fill(left), right: new Float32Array(BLOCK).fill(right) },
        into,
      );
    expect(block(0.5, -0.9)).toBe(0);
    expect(block(0.5, -2)).toBeCloseTo(1 - LIMIT / 2, 2);
    for (let i = 0; i < 4; i++) block(0.5, -2);
    // The same gain on both sides.
    expect(into.left[BLOCK - 1]).toBeCloseTo((0.5 * LIMIT) / 2, 5);
    expect(into.right[BLOCK - 1]).toBeCloseTo(-LIMIT, 5);
    let last = 1;
    for (let i = 0; i < 1000; i++) {
      const back = block(0.5, 0.5);
      expect(back).toBeLessThanOrEqual(last);
      last = back;
    }
    expect(last).toBe(0);
    expect(into.left[BLOCK - 1]).toBe(0.5);
    expect(new Limiter(100).delay).toBe(0);
  });
});
