import { beforeEach, describe, expect, it } from 'vitest';
import { frequencyOf } from '../synthesis/partials.js';
import type { Voicing, Zone } from '../synthesis/zone.js';
import { BLOCK, blockOutput } from './block.js';
import { BUS, COMMAND, COMMAND_RING_BYTES, CommandRing } from './command-ring.js';
import { METER, METERS } from './meters.js';
import { VoiceEngine } from './voice-engine.js';

const RATE = 48_000;
const voicing: Voicing = {
  attack: 0.002,
  release: 0.1,
  dynamics: 0,
  brightness: 22_000,
  darkening: 0,
};

/** A sine of a number of cycles a second for some keys, which holds for ever or dies away by dB a second in its loop. */
function zone(rootKey: number, keys = { low: 0, high: 127 }, loopDecay = 0): Zone {
  const length = 48_000;
  const cycles = Math.round(frequencyOf(rootKey));
  const left = Float32Array.from(
    { length },
    (_, i) => 0.5 * Math.sin((2 * Math.PI * cycles * i) / length),
  );
  const velocities = { low: 1, high: 127 };
  return {
    ...{ rootKey, keys, velocities, sampleRate: RATE, left, right: left },
    ...{ loopStart: 0, loopEnd: length, loopDecay },
  };
}

let ring: CommandRing;
let meters: Float32Array;
let engine: VoiceEngine;
beforeEach(() => {
  ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  meters = new Float32Array(METERS);
  engine = new VoiceEngine(RATE, ring, meters);
  engine.load(0, { voicing, zones: [zone(57)] });
  for (let strip = 0; strip < 4; strip++) ring.write(COMMAND.level, 0, strip, 0, 0);
});

function render(seconds: number, bus = -1): Float32Array {
  const output = blockOutput();
  const frames = Math.ceil((seconds * RATE) / BLOCK) * BLOCK;
  const all = new Float32Array(frames);
  for (let at = 0; at < frames; at += BLOCK) {
    engine.render(output);
    all.set(bus < 0 ? output.mix.left : output.buses[bus].left, at);
  }
  return all;
}
const joined = (...parts: Float32Array[]) => Float32Array.from(parts.flatMap((part) => [...part]));
const start = (
  voice: number,
  { strip = 0, note = 57, velocity = 127, gain = 1, instance = 1, polyphony = 0, glide = 0 } = {},
) =>
  ring.write(COMMAND.start, 0, voice, strip, 0, instance, polyphony, note, velocity, gain, glide);
const rms = (samples: Float32Array) =>
  Math.sqrt(samples.reduce((sum, s) => sum + s * s, 0) / samples.length);
/** The most that the sound turns within three frames. */
const curvature = (samples: Float32Array) => {
  let most = 0;
  for (let i = 2; i < samples.length; i++)
    most = Math.max(most, Math.abs(samples[i] - 2 * samples[i - 1] + samples[i - 2]));
  return most;
};
/** Pitch of a stretch in Hz, by its rising zero crossings. */
const pitchOf = (samples: Float32Array) => {
  const places: number[] = [];
  for (let i = 1; i < samples.length; i++)
    if (samples[i - 1] < 0 && samples[i] >= 0)
      places.push(i - samples[i] / (samples[i] - samples[i - 1]));
  return ((places.length - 1) * RATE) / (places[places.length - 1] - places[0]);
};

describe('voices that give way', () => {
  it('fade out without a jump, two hundred times', () => {
    let voice = 0;
    // All others are there, but are not heard; a few at a time, as no hand strikes a hundred keys at once.
    const unheard = (count: number) => {
      for (let i = 0; i < count; i++) {
        start(++voice, { gain: 1e-4 });
        if (i % 8 === 7) render(BLOCK / RATE);
      }
    };
    unheard(128);
    for (let n = 0; n < 200; n++) {
      start(++voice);
      unheard(127);
      const heard = render(0.01 + (n % 7) * 0.0013);
      const local = curvature(heard);
      expect(rms(heard)).toBeGreaterThan(0.1);
      // It has become the oldest: its place is taken.
      unheard(1);
      const stolen = joined(heard.slice(-2), render(0.03));
      expect(rms(stolen.subarray(-BLOCK))).toBeLessThan(0.02);
      expect(curvature(stolen)).toBeLessThan(4 * local);
    }
    expect(meters[METER.stolen]).toBeGreaterThan(200);
  });

  it('fade out without a jump when all of them give way within a block', () => {
    for (let voice = 1; voice <= 128; voice++) start(voice, { gain: 1 / 64 });
    const before = render(0.3);
    for (let voice = 129; voice <= 256; voice++) start(voice, { gain: 1e-4, note: 40 });
    const after = render(0.05);
    expect(curvature(joined(before.slice(-2), after))).toBeLessThan(
      4 * curvature(before.slice(9600)),
    );
    expect(rms(after.subarray(-BLOCK))).toBeLessThan(0.02);
  });

  it('end by themselves once they are below −90 dB, held or not', () => {
    engine.load(0, { voicing, zones: [zone(57, undefined, 60)] });
    start(1);
    render(1.4);
    expect(meters[METER.voices]).toBe(1);
    render(0.2);
    expect(meters[METER.voices]).toBe(0);
  });
});

describe('what moves', () => {
  it('bends without a step in the sound', () => {
    start(1);
    const still = curvature(render(0.2).subarray(4800));
    ring.write(COMMAND.bend, 0, 2, 1);
    const bent = render(0.2);
    // A whole tone higher everything turns more quickly by a quarter.
    expect(curvature(bent)).toBeLessThan(still * 1.4);
    expect(pitchOf(bent.subarray(4800)) / 220).toBeCloseTo(2 ** (2 / 12), 3);
  });

  it('trembles in every voice of a chord in its own way', () => {
    engine.load(0, { voicing, zones: [zone(57)] });
    ring.write(COMMAND.modulation, 0, 0, 1, 0);
    ring.write(COMMAND.modulation, 0, 1, 1, 0);
    const swings = [0, 1].map((strip) => {
      const other = 1 - strip;
      ring.write(COMMAND.level, 0, other, -60, 0);
      ring.write(COMMAND.level, 0, strip, 0, 0);
      if (strip === 0) {
        start(1, { strip: 0 });
        start(2, { strip: 1 });
      }
      render(1 / 5.4);
      const pitches: number[] = [];
      for (let i = 0; i < 8; i++) pitches.push(pitchOf(render(0.023)));
      return pitches.indexOf(Math.max(...pitches));
    });
    expect(swings[0]).not.toBe(swings[1]);
  });

  it('glides through the recordings of the keys on its way', () => {
    // The upper zone is an octave higher in its recording than its root says: that is how it is recognised.
    const upper = { ...zone(81, { low: 70, high: 127 }), rootKey: 69 };
    engine.load(0, { voicing, zones: [zone(57, { low: 0, high: 69 }), upper] });
    start(1, { polyphony: 1, glide: 0.2 });
    const local = curvature(render(0.1).subarray(2400));
    start(2, { polyphony: 1, glide: 0.2, note: 76 });
    const gliding = render(0.3);
    expect(pitchOf(gliding.subarray(-4800)) / frequencyOf(76 + 12)).toBeCloseTo(1, 2);
    expect(curvature(gliding)).toBeLessThan(local * (frequencyOf(88) / 220) ** 2 * 1.5);
    ring.write(COMMAND.end, 0, 2);
    ring.write(COMMAND.end, 0, 1);
    render(0.3);
    expect(meters[METER.voices]).toBe(0);
  });
});

it('a level and a place asked for at once make no step, wherever a note splits the block', () => {
  start(1);
  const before = render(0.3);
  ring.write(COMMAND.start, 14_500, 2, 1, 0, 1, 0, 57, 1, 1e-4);
  ring.write(COMMAND.level, 14_499, 0, -60, 0);
  ring.write(COMMAND.pan, 14_499, 0, 1);
  const after = render(0.05);
  expect(curvature(joined(before.slice(-2), after))).toBeLessThan(0.02);
});

describe('a number that is none', () => {
  it('goes nowhere and does not stay', () => {
    const broken = zone(57);
    broken.left[3000] = NaN;
    engine.load(0, { voicing, zones: [broken] });
    ring.write(COMMAND.send, 0, 0, BUS.reverb, 0);
    ring.write(COMMAND.tone, 0, 0, 6, 6);
    start(1);
    expect(render(0.2, BUS.reverb).every(Number.isFinite)).toBe(true);
    engine.load(0, { voicing, zones: [zone(57)] });
    start(2);
    const after = render(0.2);
    expect(after.every(Number.isFinite)).toBe(true);
    expect(rms(after)).toBeGreaterThan(0.1);
    ring.write(COMMAND.level, 0, 0, NaN, 0);
    ring.write(COMMAND.start, 0, 3, 0, 0, 1, 0, NaN, 100, 1);
    expect(rms(render(0.1))).toBeGreaterThan(0.1);
  });
});

describe('glides', () => {
  /** A recording that stands still: what comes out is the gain itself. */
  const still = (): Zone => {
    const left = new Float32Array(RATE).fill(0.5);
    return { ...zone(57), left, right: left, loopEnd: RATE };
  };
  const put = {
    level: (level: number, seconds: number) => ring.write(COMMAND.level, 0, 0, level, seconds),
    send: (level: number, seconds: number) =>
      ring.write(COMMAND.send, 0, 0, BUS.delay, level, seconds),
  };

  it.each(['level', 'send'] as const)(
    'of a %s are linear in dB, go on from where they are when they are turned round, and make no step',
    (what) => {
      engine.load(0, { voicing, zones: [still()] });
      const bus = what === 'send' ? BUS.delay : -1;
      put[what](-6, 0);
      start(1);
      const begun = render(0.2, bus);
      put[what](-46, 1);
      const down = render(0.5, bus);
      put[what](-6, 0.5);
      const up = render(0.7, bus);
      const reference = begun.at(-1) ?? 1;
      const db = (sample: number) => 20 * Math.log10(sample / reference);
      // Half-way down after half of the time, within a block.
      expect(Math.abs(db(down[Math.round(RATE * 0.25)]) + 10)).toBeLessThan(0.3);
      expect(Math.abs(db(down.at(-1) ?? 0) + 20)).toBeLessThan(0.3);
      expect(Math.abs(db(up[Math.round(RATE * 0.25)]) + 10)).toBeLessThan(0.3);
      expect(Math.abs(db(up.at(-1) ?? 0))).toBeLessThan(0.1);
      const all = joined(begun.subarray(-480), down, up);
      let most = 0;
      for (let i = 2; i < all.length; i++)
        most = Math.max(most, Math.abs(all[i] - 2 * all[i - 1] + all[i - 2]));
      // A bend of the line and no step: below −80 dB of full scale.
      expect(most).toBeLessThan(1e-4);
    },
  );
});
