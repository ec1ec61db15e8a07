import { beforeEach, describe, expect, it } from 'vitest';
import { frequencyOf } from '../synthesis/partials.js';
import type { Voicing, Zone } from '../synthesis/zone.js';
import { BLOCK, blockOutput } from './block.js';
import { BUS, COMMAND, CommandRing, COMMAND_RING_BYTES } from './command-ring.js';
import { METER, METERS } from './meters.js';
import { VoiceEngine } from './voice-engine.js';

const RATE = 48000;
const voicing: Voicing = {
  attack: 0.001,
  release: 0.1,
  dynamics: 30,
  brightness: 20000,
  darkening: 0,
};

/** A sine at the root key's pitch that loops for ever. */
function sineZone(rootKey: number, sampleRate = 44100): Zone {
  const period = sampleRate / frequencyOf(rootKey);
  const cycles = 200;
  const length = Math.round(period * cycles);
  const left = new Float32Array(length);
  for (let i = 0; i < length; i++) left[i] = 0.5 * Math.sin((2 * Math.PI * cycles * i) / length);
  return {
    rootKey,
    keys: { low: 0, high: 127 },
    velocities: { low: 1, high: 127 },
    sampleRate,
    left,
    right: left,
    loopStart: 0,
    loopEnd: length,
    loopDecay: 0,
  };
}

let ring: CommandRing;
let meters: Float32Array;
let engine: VoiceEngine;
beforeEach(() => {
  ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  meters = new Float32Array(METERS);
  engine = new VoiceEngine(RATE, ring, meters);
  engine.load(0, { voicing, zones: [sineZone(69)] });
  ring.write(COMMAND.level, 0, 0, 0, 0);
});

function render(seconds: number) {
  const output = blockOutput();
  const frames = Math.ceil((seconds * RATE) / BLOCK) * BLOCK;
  const all = {
    left: new Float32Array(frames),
    right: new Float32Array(frames),
    reverbLeft: new Float32Array(frames),
    delayLeft: new Float32Array(frames),
  };
  for (let at = 0; at < frames; at += BLOCK) {
    engine.render(output);
    all.left.set(output.mix.left, at);
    all.right.set(output.mix.right, at);
    all.reverbLeft.set(output.buses[BUS.reverb].left, at);
    all.delayLeft.set(output.buses[BUS.delay].left, at);
  }
  return all;
}
const rms = (samples: Float32Array) =>
  Math.sqrt(samples.reduce((sum, s) => sum + s * s, 0) / samples.length);
const start = (
  voice: number,
  { strip = 0, note = 69, velocity = 127, gain = 1, instance = 1, polyphony = 0, glide = 0 } = {},
) =>
  ring.write(COMMAND.start, 0, voice, strip, 0, instance, polyphony, note, velocity, gain, glide);
/** The steepest that the zone’s sine is from frame to frame. */
const steepest = (2 * Math.PI * 440 * 0.5) / RATE;

describe('the voice engine', () => {
  it('plays a zone at the pitch asked for', () => {
    start(1, { note: 81 });
    const { left } = render(0.5);
    let crossings = 0;
    for (let i = 4801; i < 4801 + 19200; i++) if (left[i - 1] < 0 && left[i] >= 0) crossings++;
    expect(crossings / 0.4).toBeCloseTo(880, -1);
    expect(meters[METER.voices]).toBe(1);
    expect(meters[0]).toBeGreaterThan(0.4);
    expect(meters[1]).toBe(0);
  });

  it('lets go within its release, and is then silent and free', () => {
    start(1);
    render(0.1);
    ring.write(COMMAND.end, 0, 1);
    render(0.2);
    expect(rms(render(0.05).left)).toBe(0);
    expect(meters[METER.voices]).toBe(0);
  });

  it('does not click at start, end or re-level', () => {
    start(1);
    const played = render(0.1).left;
    ring.write(COMMAND.level, 0, 0, -20, 0.02);
    const levelled = render(0.1).left;
    ring.write(COMMAND.end, 0, 1);
    const ended = render(0.2).left;
    const whole = Float32Array.from([...played, ...levelled, ...ended]);
    for (let i = 1; i < whole.length; i++)
      expect(Math.abs(whole[i] - whole[i - 1])).toBeLessThan(steepest * 1.25);
  });

  it('softens with velocity by its dynamics', () => {
    start(1);
    const loud = rms(render(0.2).left.subarray(2000));
    ring.write(COMMAND.silence, 0);
    render(0.1);
    start(2, { velocity: 64 });
    const soft = rms(render(0.2).left.subarray(2000));
    expect(20 * Math.log10(soft / loud)).toBeCloseTo((64 / 127 - 1) * 30, 1);
  });

  it('bends, and lets expression and modulation through', () => {
    ring.write(COMMAND.bend, 0, 12, 1);
    ring.write(COMMAND.expression, 0, 0, 0.25, 0);
    start(1);
    const { left } = render(0.5);
    let crossings = 0;
    for (let i = 4801; i < 4801 + 19200; i++) if (left[i - 1] < 0 && left[i] >= 0) crossings++;
    expect(crossings / 0.4).toBeCloseTo(880, -1);
    expect(rms(left.subarray(9600))).toBeLessThan(0.1);
  });

  it('plays on when every voice is taken', () => {
    for (let voice = 1; voice <= 200; voice++) start(voice, { gain: 0.001 });
    render(0.05);
    expect(meters[METER.voices]).toBe(128);
    ring.write(COMMAND.silence, 0);
    render(0.1);
    expect(meters[METER.voices]).toBe(0);
  });

  it('plays a one-shot to its end, and passes over a slot with no sound', () => {
    const zone = { ...sineZone(69), loopStart: -1, loopEnd: -1 };
    engine.load(3, {
      voicing,
      zones: [{ ...zone, left: zone.left.slice(0, 4410), right: zone.right.slice(0, 4410) }],
    });
    ring.write(COMMAND.start, 0, 1, 0, 3, 1, 0, 69, 127, 1);
    ring.write(COMMAND.start, 0, 2, 0, 9, 1, 0, 69, 127, 1);
    render(0.05);
    expect(meters[METER.voices]).toBe(1);
    render(0.1);
    expect(meters[METER.voices]).toBe(0);
  });
});
