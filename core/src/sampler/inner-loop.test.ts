import { describe, expect, it } from 'vitest';
import { BLOCK } from './block.js';
import { InnerLoop, WAY } from './inner-loop.js';

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

const recording = (pace: number) =>
  Float32Array.from({ length: 6000 }, (_, i) => 0.7 * Math.sin(i / pace));

function play(loop: InnerLoop, left: Float32Array, right: Float32Array, run: Asked): void {
  loop.way[WAY.position] = run.position;
  loop.way[WAY.step] = run.step;
  loop.way[WAY.smoothing] = run.smoothing;
  loop.way[WAY.envelope] = run.envelope;
  loop.way[WAY.rise] = run.rise;
  loop.way[WAY.factor] = run.factor;
  loop.run(run.voice, { left, right }, run.from, run.frames);
}

describe('the inner loop', () => {
  const left = recording(9);

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
      loop.way[WAY.step] = step;
      const frames = loop.mostFrames();
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
