import { beforeEach, describe, expect, it } from 'vitest';
import type { Zone } from '../synthesis/zone.js';
import { BLOCK, blockOutput } from './block.js';
import { COMMAND, COMMAND_RING_BYTES, CommandRing } from './command-ring.js';
import { METER, METERS } from './meters.js';
import { VoiceEngine } from './voice-engine.js';

const RATE = 48_000;
/** A recording that stands at one height for ever, so that begin and end are seen in the very frame. */
const level = new Float32Array(4800).fill(0.5);
const zone: Zone = {
  rootKey: 60,
  keys: { low: 0, high: 127 },
  velocities: { low: 1, high: 127 },
  sampleRate: RATE,
  left: level,
  right: level,
  loopStart: 0,
  loopEnd: level.length,
  loopDecay: 0,
};

let ring: CommandRing;
let engine: VoiceEngine;
let meters: Float32Array;
let frame: number;
beforeEach(() => {
  frame = 0;
  ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  meters = new Float32Array(METERS);
  engine = new VoiceEngine(RATE, ring, meters);
  const voicing = { attack: 0, release: 0.001, dynamics: 0, brightness: 20_000, darkening: 0 };
  engine.load(0, { voicing, zones: [zone] });
  ring.write(COMMAND.level, 0, 0, 0, 0);
});
/** Renders blocks of the given number, and gives what they hold. */
function render(blocks: number): Float32Array {
  const output = blockOutput();
  const all = new Float32Array(blocks * BLOCK);
  for (let i = 0; i < blocks; i++) {
    engine.render(output, frame);
    all.set(output.mix.left, i * BLOCK);
    frame += BLOCK;
  }
  return all;
}
const start = (voice: number, at: number) =>
  ring.write(COMMAND.start, at, voice, 0, 0, 1, 0, 60, 127, 1, 0);
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
    ring.write(COMMAND.silence, 0);
    render(40);
    start(2, 100);
    expect(firstHeard(render(1))).toBe(0);
  });

  it('ends a voice in its frame, within the release', () => {
    start(1, 10);
    ring.write(COMMAND.end, 1000, 1);
    const heard = render(16);
    expect(Math.abs(heard[999])).toBeGreaterThan(0.3);
    expect(lastHeard(heard)).toBeGreaterThan(1000);
    expect(lastHeard(heard)).toBeLessThan(1000 + 0.002 * RATE);
  });

  it('keeps the order of those due in one frame', () => {
    start(1, 50);
    ring.write(COMMAND.end, 50, 1);
    start(2, 50);
    render(8);
    expect(meters[METER.voices]).toBe(1);
  });

  it('is carried out in the order of frames, not of writing', () => {
    ring.write(COMMAND.end, 600, 1);
    start(1, 200);
    const heard = render(8);
    expect(firstHeard(heard)).toBe(200);
    expect(meters[METER.voices]).toBe(0);
  });
});

describe('what is not due yet', () => {
  it('is called off with its voice, and other voices come as they should', () => {
    start(1, 300);
    ring.write(COMMAND.end, 900, 1);
    start(2, 700);
    render(1);
    ring.write(COMMAND.takeBack, 0, 1, 0);
    expect(firstHeard(render(8)) + BLOCK).toBe(700);
  });

  it('loses its end alone when that is asked for', () => {
    start(1, 100);
    ring.write(COMMAND.end, 400, 1);
    render(2);
    ring.write(COMMAND.takeBack, 0, 1, 1);
    render(8);
    expect(meters[METER.voices]).toBe(1);
  });

  it('keeps its beginning when its end alone is called off', () => {
    start(1, 300);
    ring.write(COMMAND.end, 900, 1);
    ring.write(COMMAND.takeBack, 0, 1, 1);
    expect(firstHeard(render(12))).toBe(300);
    expect(meters[METER.voices]).toBe(1);
  });

  it('is called off wholly by silence', () => {
    start(1, 400);
    render(1);
    ring.write(COMMAND.silence, 0);
    expect(firstHeard(render(8))).toBe(-1);
  });
});
