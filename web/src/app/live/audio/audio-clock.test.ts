import { describe, expect, it } from 'vitest';
import { AudioClock } from './audio-clock';

const RATE = 48_000;
/** The audio clock as a page sees it: it moves by a buffer at a time, `drift` faster than the page’s. */
const seen = (page: number, started: number, buffer: number, drift = 0) =>
  Math.floor(((page - started) * (1 + drift)) / buffer) * buffer;

describe('the audio clock as the page sees it', () => {
  it('gives evenly spaced frames for evenly spaced times, though it moves in bursts', () => {
    const clock = new AudioClock(RATE);
    const frames: number[] = [];
    for (let tick = 0; tick < 2000; tick++) {
      const page = 100 + tick * 0.0041;
      clock.observe(page, seen(page, 90, 1024 / RATE));
      if (tick > 500 && tick % 25 === 0) frames.push(clock.frameAt(page + 0.05));
    }
    const steps = frames.slice(1).map((frame, i) => frame - frames[i]);
    const even = 25 * 0.0041 * RATE;
    for (const step of steps) expect(Math.abs(step - even)).toBeLessThan(0.001 * RATE);
  });

  it('follows a clock that runs a little faster, and one that was held up', () => {
    const clock = new AudioClock(RATE);
    let page = 0;
    for (let tick = 0; tick < 20_000; tick++) {
      page = tick * 0.004;
      clock.observe(page, seen(page, 0, 128 / RATE, 1e-4));
    }
    expect(Math.abs(clock.frameAt(page) / RATE - page * (1 + 1e-4))).toBeLessThan(0.005);
    clock.observe(page + 10, seen(page, 0, 128 / RATE, 1e-4));
    for (let tick = 0; tick < 1000; tick++)
      clock.observe(page + 10 + tick * 0.004, page * (1 + 1e-4) + tick * 0.004);
    expect(clock.frameAt(page + 14) / RATE).toBeCloseTo(page * (1 + 1e-4) + 4, 1);
  });

  it('takes 0 as now, and everything while nothing is known', () => {
    const clock = new AudioClock(RATE);
    expect(clock.frameAt(5)).toBe(0);
    clock.observe(10, 2);
    expect([clock.frameAt(0), clock.frameAt(11)]).toEqual([0, 3 * RATE]);
  });
});
