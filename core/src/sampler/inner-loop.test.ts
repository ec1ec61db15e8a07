import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BLOCK } from './block.js';
import { InnerLoop, WAY } from './inner-loop.js';
import { hermite } from './interpolation.js';

interface Asked {
  voice: number;
  from: number;
  frames: number;
  position: number;
  step: number;
  smoothing: number;
  envelope: number;
  rise: number;
  factor: number;
}

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const asked: fc.Arbitrary<Asked> = fc
  .record({
    voice: fc.integer({ min: 0, max: 127 }),
    from: fc.integer({ min: 0, max: BLOCK - 1 }),
    frames: fc.integer({ min: 1, max: BLOCK }),
    position: between(1, 2000),
    step: between(0.01, 24),
    smoothing: between(0.001, 1),
    envelope: between(0, 1),
    rise: between(0, 0.01),
    factor: between(0.9, 1),
  })
  .map((run) => ({ ...run, frames: Math.min(run.frames, BLOCK - run.from) }));

const recording = (pace: number) =>
  Float32Array.from({ length: 6000 }, (_, i) => 0.7 * Math.sin(i / pace));

/** One channel of two runs that follow on one another, frame by frame as they are meant. */
function plainly(samples: Float32Array, runs: Asked[]): number[][] {
  let [first, second] = [0, 0];
  return runs.map((run) =>
    Array.from({ length: run.frames }, (_, n) => {
      const place = run.position + n * run.step;
      const at = Math.floor(place);
      const [before, y0, y1, after] = samples.subarray(at - 1, at + 3);
      first += run.smoothing * (hermite(before, y0, y1, after, place - at) - first);
      second += run.smoothing * (first - second);
      return second * (run.envelope + run.rise * (n + 1)) * run.factor ** n;
    }),
  );
}

function play(loop: InnerLoop, left: Float32Array, right: Float32Array, run: Asked): void {
  loop.way[WAY.position] = run.position;
  loop.way[WAY.step] = run.step;
  loop.way[WAY.smoothing] = run.smoothing;
  loop.way[WAY.envelope] = run.envelope;
  loop.way[WAY.rise] = run.rise;
  loop.way[WAY.factor] = run.factor;
  loop.run(run.voice, { left, right }, run.from, run.frames);
}

/** The largest distance (full scale is 1) between a stretch of a mix and what is meant, which is nothing outside the run. */
function furthest(mix: Float32Array, { from }: Asked, meant: number[]): number {
  return Math.max(...mix.map((sample, i) => Math.abs(sample - (meant[i - from] ?? 0))));
}

/** −80 dB. */
const NEAR = 1e-4;

describe('the inner loop', () => {
  const [left, right] = [recording(9), recording(23)];

  it('plays a mono run as it is meant, and keeps its low-passes for the next', () => {
    fc.assert(
      fc.property(asked, asked, (one, other) => {
        const loop = new InnerLoop(128);
        const runs = [one, { ...other, voice: one.voice }];
        for (const [i, meant] of plainly(left, runs).entries()) {
          loop.mix.both.fill(0);
          play(loop, left, left, runs[i]);
          expect(furthest(loop.mix.both, runs[i], meant)).toBeLessThan(NEAR);
        }
      }),
    );
  });

  it('plays left and right of a stereo run apart', () => {
    fc.assert(
      fc.property(asked, asked, (one, other) => {
        const loop = new InnerLoop(128);
        const runs = [one, { ...other, voice: one.voice }];
        const [meantLeft, meantRight] = [plainly(left, runs), plainly(right, runs)];
        for (const [i, run] of runs.entries()) {
          loop.mix.left.fill(0);
          loop.mix.right.fill(0);
          play(loop, left, right, run);
          expect(furthest(loop.mix.left, run, meantLeft[i])).toBeLessThan(NEAR);
          expect(furthest(loop.mix.right, run, meantRight[i])).toBeLessThan(NEAR);
          expect(Math.max(...loop.mix.both)).toBe(0);
        }
      }),
    );
  });

  it('adds to what is there, and keeps voices apart', () => {
    const loop = new InnerLoop(128);
    const run = {
      voice: 5,
      from: 0,
      frames: BLOCK,
      position: 100.25,
      step: 1.5,
      smoothing: 0.4,
      envelope: 1,
      rise: 0,
      factor: 1,
    };
    play(loop, left, left, run);
    const once = loop.mix.both.slice();
    play(loop, left, left, { ...run, voice: 6 });
    for (let i = 0; i < BLOCK; i++) expect(loop.mix.both[i]).toBeCloseTo(2 * once[i], 6);
  });

  it('takes no more frames at a time than find room', () => {
    const loop = new InnerLoop(1);
    const loud = new Float32Array(400_000).fill(0.5);
    for (const step of [1, 31, 250, 900]) {
      const frames = Math.min(BLOCK, loop.mostFrames(step));
      expect(frames).toBeGreaterThanOrEqual(0);
      if (frames === 0) continue;
      loop.mix.both.fill(0);
      play(loop, loud, loud, {
        voice: 0,
        from: 0,
        frames,
        position: 1.5,
        step,
        smoothing: 1,
        envelope: 1,
        rise: 0,
        factor: 1,
      });
      for (let i = 0; i < frames; i++) expect(loop.mix.both[i]).toBeCloseTo(0.5, 6);
    }
  });
});
