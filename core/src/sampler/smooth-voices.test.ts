import { beforeEach, describe, expect, it } from 'vitest';
import { curvature, EngineAtWork, pitches, RATE, sine, still } from '../testing/engine-at-work.js';
import { BLOCK } from './block.js';
import { BUS, COMMAND } from './command-ring.js';

let work: EngineAtWork;
beforeEach(() => {
  work = new EngineAtWork({ attack: 0.002, release: 0.1 });
  work.load(0, sine());
});
const joined = (...parts: Float32Array[]) => Float32Array.from(parts.flatMap((part) => [...part]));
const rms = (samples: Float32Array) =>
  Math.sqrt(samples.reduce((sum, s) => sum + s * s, 0) / samples.length);

describe('voices that give way', () => {
  it('fade out without a jump, two hundred times', () => {
    let voice = 0;
    // All others are there, but are not heard; a few at a time, as no hand strikes a hundred keys at once.
    const unheard = (count: number) => {
      for (let i = 0; i < count; i++) {
        work.start(++voice, { gain: 1e-4 });
        if (i % 8 === 7) work.render(BLOCK / RATE);
      }
    };
    unheard(128);
    for (let n = 0; n < 200; n++) {
      work.start(++voice);
      unheard(127);
      const heard = work.render(0.01 + (n % 7) * 0.0013);
      const local = curvature(heard);
      expect(rms(heard)).toBeGreaterThan(0.1);
      // It has become the oldest: its place is taken.
      unheard(1);
      const stolen = joined(heard.slice(-2), work.render(0.03));
      expect(rms(stolen.subarray(-BLOCK))).toBeLessThan(0.02);
      expect(curvature(stolen)).toBeLessThan(4 * local);
    }
    expect(work.stolen()[0]).toBeGreaterThan(200);
  });

  it('fade out without a jump when all of them give way within a block', () => {
    for (let voice = 1; voice <= 128; voice++) work.start(voice, { gain: 1 / 64 });
    const before = work.render(0.3);
    for (let voice = 129; voice <= 256; voice++) work.start(voice, { gain: 1e-4, note: 40 });
    const after = work.render(0.05);
    expect(curvature(joined(before.slice(-2), after))).toBeLessThan(
      4 * curvature(before.slice(9600)),
    );
    expect(rms(after.subarray(-BLOCK))).toBeLessThan(0.02);
  });

  it('end by themselves once they are below −90 dB, held or not', () => {
    work.load(0, sine({ loopDecay: 60 }));
    work.start(1);
    work.render(1.4);
    expect(work.voices).toBe(1);
    work.render(0.2);
    expect(work.voices).toBe(0);
  });
});

describe('what moves', () => {
  it('bends without a step in the sound', () => {
    work.start(1);
    const still = curvature(work.render(0.2).subarray(4800));
    work.order(COMMAND.bend, 2, 1);
    const bent = work.render(0.2);
    // A whole tone higher everything turns more quickly by a quarter.
    expect(curvature(bent)).toBeLessThan(still * 1.4);
    expect(pitches(bent.subarray(4800))[0] / 480).toBeCloseTo(2 ** (2 / 12), 3);
  });
});

it('a level and a place asked for at once make no step, wherever a note splits the block', () => {
  work.start(1);
  const before = work.render(0.3);
  work.start(2, { strip: 1, gain: 1e-4 }, { frame: 14_500 });
  work.ring.write(COMMAND.level, 14_499, 0, -60, 0);
  work.ring.write(COMMAND.pan, 14_499, 0, 1);
  const after = work.render(0.05);
  expect(curvature(joined(before.slice(-2), after))).toBeLessThan(0.02);
});

describe('glides', () => {
  it.each(['level', 'send'] as const)(
    'of a %s are linear in dB, go on from where they are when they are turned round, and make no step',
    (what) => {
      work.load(0, still(0.5));
      const bus = what === 'send' ? BUS.delay : -1;
      const put = (level: number, seconds: number) =>
        bus < 0
          ? work.order(COMMAND.level, 0, level, seconds)
          : work.order(COMMAND.send, 0, bus, level, seconds);
      put(-6, 0);
      work.start(1);
      const begun = work.render(0.2, bus);
      put(-46, 1);
      const down = work.render(0.5, bus);
      put(-6, 0.5);
      const up = work.render(0.7, bus);
      const reference = begun.at(-1) ?? 1;
      const db = (sample: number) => 20 * Math.log10(sample / reference);
      // Half-way down after half of the time, within a block.
      expect(Math.abs(db(down[Math.round(RATE * 0.25)]) + 10)).toBeLessThan(0.3);
      expect(Math.abs(db(down.at(-1) ?? 0) + 20)).toBeLessThan(0.3);
      expect(Math.abs(db(up[Math.round(RATE * 0.25)]) + 10)).toBeLessThan(0.3);
      expect(Math.abs(db(up.at(-1) ?? 0))).toBeLessThan(0.1);
      const all = joined(begun.subarray(-480), down, up);
      // A bend of the line and no step: below −80 dB of full scale.
      expect(curvature(all)).toBeLessThan(1e-4);
    },
  );
});
