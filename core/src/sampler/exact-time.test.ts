import { beforeEach, describe, expect, it } from 'vitest';
import { EngineAtWork, RATE, still } from '../testing/engine-at-work.js';
import { BLOCK } from './block.js';
import { COMMAND } from './command-ring.js';

let work: EngineAtWork;
beforeEach(() => {
  work = new EngineAtWork();
  work.load(0, still(0.5));
});
const render = (blocks: number) => work.render((blocks * BLOCK) / RATE);
const start = (voice: number, frame: number) => work.start(voice, {}, { frame });
const firstHeard = (samples: Float32Array) => samples.findIndex((s) => Math.abs(s) > 1e-9);
const lastHeard = (samples: Float32Array) => samples.findLastIndex((s) => Math.abs(s) > 1e-3);

describe('a command with a frame', () => {
  it.each([1, 127, 128, 129, 300, 511])('begins a voice in frame %d and not before', (at) => {
    start(1, at);
    expect(firstHeard(render(8))).toBe(at);
  });

  it('is carried out at once with frame 0, or when its frame has passed', () => {
    render(4);
    start(1, 0);
    expect(firstHeard(render(1))).toBe(0);
    work.silence();
    render(40);
    start(2, 100);
    expect(firstHeard(render(1))).toBe(0);
  });

  it('ends a voice in its frame, within the release', () => {
    start(1, 10);
    work.end(1, 1000);
    const heard = render(16);
    expect(Math.abs(heard[999])).toBeGreaterThan(0.3);
    expect(lastHeard(heard)).toBeGreaterThan(1000);
    expect(lastHeard(heard)).toBeLessThan(1000 + 0.002 * RATE);
  });

  it('is carried out in the order of frames, then of writing', () => {
    work.end(1, 600);
    start(1, 200);
    start(2, 900);
    work.end(2, 900);
    start(3, 900);
    expect(firstHeard(render(4))).toBe(200);
    render(3);
    expect(work.voices).toBe(0);
    render(8);
    expect(work.voices).toBe(1);
  });
});

describe('what is not due yet', () => {
  it('is called off with its voice, and other voices come as they should', () => {
    start(1, 300);
    work.end(1, 900);
    start(2, 700);
    render(1);
    work.order(COMMAND.takeBack, 1, 0);
    expect(firstHeard(render(8)) + BLOCK).toBe(700);
  });

  it.each([
    [100, 2],
    [300, 0],
  ])('loses its end alone when that is asked for: begun in frame %d', (begins, blocks) => {
    start(1, begins);
    work.end(1, 900);
    render(blocks);
    work.order(COMMAND.takeBack, 1, 1);
    render(12);
    expect(work.voices).toBe(1);
  });

  it('ends a note that waits under another one on a sound of one voice, as it is asked for anew', () => {
    const one = { polyphony: 1 };
    work.start(1, one);
    work.start(2, one);
    work.end(1, 5000);
    render(1);
    work.order(COMMAND.retime, 1, 0, 600);
    render(5);
    work.end(2);
    render(4);
    expect(work.voices).toBe(0);
  });

  it.each([
    ['goes on where no end is told', -1, 8, 1],
    ['ends at its new end', 700, 8, 0],
    ['sounds until then', 1200, 8, 1],
    ['ends at once where that has passed', 1, 8, 0],
  ])('a held note that is retimed %s', (_what, end, blocks, voices) => {
    work.start(1);
    work.end(1, 5000);
    render(2);
    work.order(COMMAND.retime, 1, 0, end);
    render(blocks);
    expect(work.voices).toBe(voices);
    // Of a note that is not there nothing is left over, which would end another of its number.
    work.order(COMMAND.retime, 9, 0, 4000);
    render(1);
    work.start(9);
    render(50);
    expect(work.voices).toBe(end < 0 ? 2 : 1);
  });

  it('is called off wholly by silence', () => {
    start(1, 400);
    render(1);
    work.silence();
    expect(firstHeard(render(8))).toBe(-1);
  });
});
