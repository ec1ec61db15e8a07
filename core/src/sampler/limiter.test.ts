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
});
