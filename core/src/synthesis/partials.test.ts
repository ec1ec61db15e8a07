import fc from 'fast-check';
import { expect, it } from 'vitest';
import { renderPartials, type PartialTone } from './partials.js';

const RATE = 8000;

/** One sample of a partial, straight from what its fields mean. */
function sampleOf(partial: PartialTone, loopStart: number, loopSamples: number, i: number): number {
  const { cycles, amplitude, decay, attack, phase } = partial;
  const attackSamples = Math.max(1, attack * RATE);
  const rise = i < attackSamples ? 0.5 - 0.5 * Math.cos((Math.PI * i) / attackSamples) : 1;
  const strength = amplitude * Math.exp(-Math.min(i, loopStart) / (decay * RATE));
  return Math.sin(phase + (2 * Math.PI * cycles * i) / loopSamples) * strength * rise;
}

const partialTones = fc.record({
  cycles: fc.integer({ min: 1, max: 300 }),
  amplitude: fc.double({ min: 0.01, max: 1, noNaN: true }),
  decay: fc.oneof(fc.constant(Infinity), fc.double({ min: 0.005, max: 2, noNaN: true })),
  attack: fc.double({ min: 0, max: 0.03, noNaN: true }),
  phase: fc.double({ min: 0, max: 6, noNaN: true }),
  pan: fc.double({ min: -1, max: 1, noNaN: true }),
});

it('adds partials up to what they are one by one, at any length and on both sides', () => {
  fc.assert(
    fc.property(
      fc.array(partialTones, { maxLength: 4 }),
      fc.integer({ min: 300, max: 600 }),
      fc.integer({ min: 700, max: 900 }),
      fc.boolean(),
      (partials, loopStart, loopSamples, stereo) => {
        const recording = { stereo, sampleRate: RATE, loopStart, loopSamples };
        const sides = renderPartials(partials, recording);
        expect(sides[0]).toHaveLength(loopStart + loopSamples);
        if (!stereo) expect(sides[1]).toBe(sides[0]);
        let worst = 0;
        for (let i = 0; i < loopStart + loopSamples; i++) {
          const samples = partials.map((partial) => sampleOf(partial, loopStart, loopSamples, i));
          for (const [side, samplesOfSide] of sides.entries()) {
            const sum = partials.reduce((sum, { pan }, n) => {
              const angle = ((pan + 1) * Math.PI) / 4;
              const share = stereo
                ? Math.SQRT2 * (side === 0 ? Math.cos(angle) : Math.sin(angle))
                : 1;
              return sum + samples[n] * share;
            }, 0);
            worst = Math.max(worst, Math.abs(samplesOfSide[i] - sum));
          }
        }
        // What has fallen by 120 dB is left out.
        expect(worst).toBeLessThan(1e-5);
      },
    ),
    { numRuns: 60 },
  );
});
