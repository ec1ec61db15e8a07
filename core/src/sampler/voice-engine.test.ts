import { beforeEach, describe, expect, it } from 'vitest';
import { frequencyOf } from '../synthesis/partials.js';
import type { Voicing, Zone } from '../synthesis/zone.js';
import { BLOCK, blockOutput } from './block.js';
import { BUS, COMMAND, CommandRing, COMMAND_RING_BYTES, RECORD } from './command-ring.js';
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
/** Pitch in Hz, counted by the zero crossings of the last part of a rendering. */
const pitchOf = (samples: Float32Array, frames = 14400) => {
  const last = samples.subarray(-frames);
  let crossings = 0;
  for (let i = 1; i < last.length; i++) if (last[i - 1] < 0 && last[i] >= 0) crossings++;
  return (crossings * RATE) / frames;
};

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

  it('does not click when a voice is stolen in the midst of its sound', () => {
    start(1, { polyphony: 1 });
    const before = render(0.1007).left;
    // On another strip, which is silent: what is heard is the stolen voice alone.
    ring.write(COMMAND.level, 0, 1, -60, 0);
    start(2, { polyphony: 1, strip: 1, instance: 1, gain: 1e-4 });
    const after = render(0.1).left;
    expect(meters[METER.stolen]).toBe(1);
    expect(rms(before.subarray(-480))).toBeGreaterThan(0.1);
    expect(rms(after.subarray(-480))).toBeLessThan(1e-3);
    const whole = Float32Array.from([...before, ...after]);
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

  it('glides levels linearly in dB, and an interrupted glide goes on from where it is', () => {
    start(1);
    const reference = rms(render(0.2).left.subarray(4800));
    ring.write(COMMAND.level, 0, 0, -40, 1);
    const halfway = render(0.5).left;
    const level = 20 * Math.log10(rms(halfway.subarray(-480)) / reference);
    expect(level).toBeGreaterThan(-21);
    expect(level).toBeLessThan(-19);
    ring.write(COMMAND.level, 0, 0, 0, 1);
    const turned = render(0.01).left;
    expect(20 * Math.log10(rms(turned) / reference)).toBeCloseTo(level, 0);
    render(1);
    expect(rms(render(0.05).left)).toBeCloseTo(reference, 2);
  });

  it('pans with constant power and sends to the shared effects', () => {
    ring.write(COMMAND.pan, 0, 0, -1);
    ring.write(COMMAND.send, 0, 0, BUS.reverb, -6.0206);
    ring.write(COMMAND.send, 0, 0, BUS.delay, -12.0412);
    start(1);
    const { left, right, reverbLeft, delayLeft } = render(0.2);
    expect(rms(right)).toBeLessThan(1e-6);
    expect(rms(reverbLeft) / rms(left)).toBeCloseTo(0.5, 2);
    expect(rms(delayLeft) / rms(left)).toBeCloseTo(0.25, 2);
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

  it('wavers in pitch as far as the modulation goes', () => {
    const wavering = (depth: number) => {
      ring.write(COMMAND.modulation, 0, 0, depth, 0);
      const heard = render(1).left;
      const pitches = Array.from({ length: 19 }, (_, i) =>
        pitchOf(heard.subarray(0, 2400 * (i + 2)), 2400),
      );
      return Math.max(...pitches) - Math.min(...pitches);
    };
    // Counting crossings over 50 ms tells pitches 20 Hz apart.
    start(1, { note: 93 });
    expect(wavering(0)).toBeLessThan(21);
    expect(wavering(1)).toBeGreaterThan(40);
    expect(wavering(0)).toBeLessThan(21);
    // One key that is leant on wavers by itself, and no other does.
    ring.write(COMMAND.pressure, 0, 2, 1);
    expect(wavering(0)).toBeLessThan(21);
    ring.write(COMMAND.pressure, 0, 1, 1);
    expect(wavering(0)).toBeGreaterThan(40);
    ring.write(COMMAND.pressure, 0, 1, 0);
    expect(wavering(0)).toBeLessThan(21);
  });

  it('has a strip leave alone by a pair, and with the mix again', () => {
    const ways = () => {
      const output = blockOutput();
      for (let i = 0; i < 20; i++) engine.render(output);
      return [output.mix, ...output.pairs].map(({ left }) => rms(left) > 0.01);
    };
    start(1);
    expect(ways()).toEqual([true, false, false, false]);
    ring.write(COMMAND.output, 0, 0, 2);
    expect(ways()).toEqual([false, false, true, false]);
    ring.write(COMMAND.output, 0, 0, 9);
    expect(ways()).toEqual([true, false, false, false]);
  });

  it('keeps an instance within its polyphony, oldest first, and counts what it stole', () => {
    for (const voice of [1, 2, 3]) start(voice, { polyphony: 2, note: 57 + 12 * voice });
    render(0.1);
    // The second and third are left: without the third the second is heard alone.
    ring.write(COMMAND.end, 0, 3);
    expect(pitchOf(render(0.4).left)).toBeCloseTo(880, -1);
    for (const voice of [4, 5, 6]) start(voice, { polyphony: 2 });
    start(7, { instance: 2 });
    render(0.1);
    expect(meters[METER.voices]).toBe(3);
    expect(meters[METER.stolen]).toBe(3);
    expect(meters[METER.stolenFrom]).toBe(3);
    expect(meters[METER.stolenFrom + 1]).toBe(0);
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

describe('a sound of one voice', () => {
  const mono = { polyphony: 1 };

  it('plays the last note struck, and goes back to the one still held', () => {
    start(1, { ...mono, note: 69 });
    render(0.1);
    start(2, { ...mono, note: 81 });
    expect(pitchOf(render(0.4).left)).toBeCloseTo(880, -1);
    expect(meters[METER.voices]).toBe(1);
    ring.write(COMMAND.end, 0, 2);
    expect(pitchOf(render(0.4).left)).toBeCloseTo(440, -1);
    ring.write(COMMAND.end, 0, 1);
    render(0.3);
    expect(meters[METER.voices]).toBe(0);
    expect(meters[METER.stolen]).toBe(0);
  });

  it('glides from note to note in the time asked for', () => {
    start(1, { ...mono, note: 69, glide: 1 });
    render(0.1);
    start(2, { ...mono, note: 81, glide: 1 });
    // Half-way in time is half-way in semitones: 622 Hz.
    expect(pitchOf(render(0.55).left, 4800)).toBeCloseTo(622, -2);
    expect(pitchOf(render(0.7).left)).toBeCloseTo(880, -1);
    ring.write(COMMAND.end, 0, 1);
    expect(pitchOf(render(0.3).left)).toBeCloseTo(880, -1);
    ring.write(COMMAND.end, 0, 2);
    render(0.3);
    expect(meters[METER.voices]).toBe(0);
  });
});

describe('a sound of one voice that two layers share', () => {
  it('is heard on the later one, counts what that cost the other, and leaves nothing behind', () => {
    ring.write(COMMAND.level, 0, 1, 0, 0);
    for (const strip of [0, 1])
      ring.write(COMMAND.start, 0, strip + 1, strip, 0, 7, 1, 60, 100, 1, 0);
    render(0.1);
    expect(meters[METER.voices]).toBe(1);
    expect([meters[METER.stolenFrom], meters[METER.stolenFrom + 1]]).toEqual([1, 0]);
    ring.write(COMMAND.end, 0, 1);
    ring.write(COMMAND.end, 0, 2);
    render(1);
    expect(meters[METER.voices]).toBe(0);
  });
});

describe('tone and timbre', () => {
  const levelOf = (note: number) => {
    start(note, { note, gain: 0.1 });
    const found = 20 * Math.log10(rms(render(0.4).left.subarray(4800)));
    ring.write(COMMAND.silence, 0);
    render(0.1);
    return found;
  };

  it('raises lows and highs by the shelves, and leaves the middle', () => {
    const [low, middle, high] = [28, 81, 125].map(levelOf);
    ring.write(COMMAND.tone, 0, 0, 12, -12);
    expect(levelOf(28) - low).toBeCloseTo(12, 0);
    expect(levelOf(81) - middle).toBeCloseTo(0, 0);
    expect(levelOf(125) - high).toBeLessThan(-10);
  });

  it('does not click when a shelf is turned while it sounds', () => {
    start(1);
    const before = render(0.1).left;
    ring.write(COMMAND.tone, 0, 0, 12, 0);
    const whole = Float32Array.from([...before, ...render(0.2).left]);
    for (let i = 1; i < whole.length; i++)
      expect(Math.abs(whole[i] - whole[i - 1])).toBeLessThan(steepest * 2.2);
  });

  it('darkens, swells, rings on and wavers as the timbre says', () => {
    engine.load(0, { voicing: { ...voicing, brightness: 1000 }, zones: [sineZone(69)] });
    const plain = levelOf(93);
    ring.write(COMMAND.timbre, 0, 0, -1, 0, 0, 0);
    expect(levelOf(93)).toBeLessThan(plain - 10);
    ring.write(COMMAND.timbre, 0, 0, 0, 0.5, 1, 0);
    start(1);
    const swelling = render(0.5).left;
    expect(rms(swelling.subarray(-2400))).toBeGreaterThan(3 * rms(swelling.subarray(0, 4800)));
    ring.write(COMMAND.end, 0, 1);
    render(0.3);
    expect(meters[METER.voices]).toBe(1);
    ring.write(COMMAND.silence, 0);
    render(0.1);
    ring.write(COMMAND.timbre, 0, 0, 0, 0, 0, 1);
    start(2, { note: 93 });
    const wavering = render(1).left;
    const pitches = Array.from({ length: 9 }, (_, i) =>
      pitchOf(wavering.subarray(0, 4800 * (i + 2)), 4800),
    );
    expect(Math.max(...pitches) - Math.min(...pitches)).toBeGreaterThan(20);
  });
});

describe('the command ring', () => {
  it('hands over commands in order, refuses when full, and goes round', () => {
    const record = new Float64Array(RECORD);
    let written = 0;
    let read = 0;
    for (let round = 0; round < 3; round++) {
      while (ring.write(COMMAND.end, 0, written)) written++;
      while (ring.read(record)) {
        if (record[0] !== COMMAND.end) continue;
        expect(record[2]).toBe(read++);
      }
    }
    expect(read).toBe(written);
    expect(written).toBeGreaterThan(4000 * 3);
    // Each round ended with one that found no room.
    expect(ring.refused).toBe(3);
    ring.write(COMMAND.end, 0, 1);
    ring.clear();
    expect(ring.read(record)).toBe(false);
  });
});
