import { beforeEach, describe, expect, it } from 'vitest';
import { curvature, EngineAtWork, pitches, RATE, sine, still } from '../testing/engine-at-work.js';
import { BLOCK } from './block.js';
import { BUS, COMMAND, PAIRS } from './command-ring.js';
import { STRIPS } from './meters.js';

let work: EngineAtWork;
beforeEach(() => {
  work = new EngineAtWork();
  work.load(0, still(0.5));
  work.load(1, still(0.125));
});

describe('a command', () => {
  it('with a number that is none does nothing, whichever of its numbers it is', () => {
    work.start(1);
    expect(work.after(4)).toBeCloseTo(0.5, 3);
    work.order(COMMAND.level, 0, NaN, 0);
    work.order(COMMAND.level, 0, -60, Infinity);
    work.start(9, { gain: NaN });
    work.start(9, {}, { glide: NaN });
    expect(work.after(4)).toBeCloseTo(0.5, 3);
    expect(work.voices).toBe(1);
  });

  it('to start needs a sound with zones and a strip that there is', () => {
    work.load(3);
    for (const where of [{ slot: 3 }, { slot: 7 }, { strip: -1 }, { strip: STRIPS }])
      work.start(1, where);
    work.after();
    expect(work.voices).toBe(0);
    work.start(5, { strip: STRIPS - 1, polyphony: 1 });
    // Nor does what cannot start take the place of a sound of one voice.
    for (const slot of [3, 7]) work.start(2, { strip: STRIPS - 1, slot, polyphony: 1 });
    expect(work.after(8)).toBeCloseTo(0.5, 3);
    expect(work.voices).toBe(1);
  });

  it('of tone is there at once where nothing sounds, and nothing is left of what sounded before', () => {
    const shelved = (before: boolean) => {
      work = new EngineAtWork();
      work.load(0, sine());
      work.order(COMMAND.tone, 0, 12, -12);
      if (before) {
        work.start(9);
        work.render(0.5);
        work.silence();
        work.render(0.1);
      }
      work.start(1);
      return work.render(0.02);
    };
    const [now, later] = [shelved(false), shelved(true)];
    now.forEach((sample, i) => expect(sample).toBeCloseTo(later[i], 3));
  });

  it('that finds no room to wait leaves nothing begun that would not end', () => {
    work.start(7);
    const later = (voice: number) => work.start(voice, {}, { frame: 1e5 });
    for (let voice = 8; voice < 8 + 2047; voice++) later(voice);
    work.after();
    later(3000);
    // The agenda is full: neither of these is begun, and what sounds ends now instead of never.
    later(3001);
    for (const voice of [3000, 3001, 7]) work.end(voice, 2e5);
    work.after(100);
    expect(work.voices).toBe(0);
    for (let voice = 8; voice < 8 + 2047; voice++) work.order(COMMAND.takeBack, voice, 0);
    work.after(1000);
    expect(work.voices).toBe(0);
  });

  it('that comes ahead of the one who gave it begins nothing twice, and ends every voice of a note', () => {
    work.start(1, {}, { frame: 200 });
    work.end(1, 900);
    work.after(2);
    // It has begun here, and is to come for the one who writes: its end moves, its beginning does not come anew.
    work.order(COMMAND.retime, 1, 600, 1300);
    work.start(2, {}, { frame: 3000 });
    work.order(COMMAND.retime, 2, 2600, -1);
    // An end that is told without a time, before its beginning has come.
    work.start(3, {}, { frame: 700 });
    work.end(3);
    const voices: number[] = [];
    for (let block = 2; block < 24; block++) {
      work.after();
      voices.push(work.voices);
    }
    expect(Math.max(...voices)).toBe(1);
    expect(voices.slice(0, 8)).toEqual([1, 1, 1, 1, 1, 1, 1, 1]);
    work.end(2);
    work.after(200);
    expect(work.voices).toBe(0);
  });

  it('of pressure leans on the voice that is meant while it sounds', () => {
    work.load(0, sine());
    work.start(1);
    work.render(0.05);
    work.order(COMMAND.pressure, 1, 1);
    const wavering = pitches(work.render(1));
    // 35 cents to either side, about 5.4 times a second.
    expect(Math.max(...wavering) / 480).toBeCloseTo(2 ** (35 / 1200), 3);
    expect(Math.min(...wavering) / 480).toBeCloseTo(2 - 2 ** (35 / 1200), 3);
    const swings = wavering.filter((hz, i) => hz > 480 && !(wavering[i - 1] > 480)).length;
    expect(Math.abs(swings - 6)).toBeLessThanOrEqual(1);
    // More than the whole is not to be had, and the wheel adds to what the finger does.
    work.order(COMMAND.modulation, 0, 1, 0);
    expect(Math.max(...pitches(work.render(0.5))) / 480).toBeCloseTo(2 ** (35 / 1200), 3);
    work.order(COMMAND.modulation, 0, 0.25, 0);
    work.order(COMMAND.pressure, 1, 0.25);
    work.render(0.05);
    const half = Math.max(...pitches(work.render(0.5))) / 480 - 1;
    expect(half / (2 ** (35 / 1200) - 1)).toBeCloseTo(0.5, 1);
  });

  it('to reset ends the strip’s voices at once, and no other’s', () => {
    work.start(1, { strip: 0 });
    work.start(2, { strip: 1, slot: 1 });
    work.after(4);
    work.order(COMMAND.reset, 0);
    work.after();
    expect(work.voices).toBe(1);
    expect(work.after()).toBeCloseTo(0.125, 3);
  });

  it('of a timbre opens the low-pass, and shapes the voices that begin after it', () => {
    work.order(COMMAND.timbre, 0, 0, 0.5, 1, 0);
    work.start(1);
    // Half a second is added to the attack.
    expect(work.render(0.25).at(-1)).toBeCloseTo(0.25, 2);
    work.render(0.5);
    work.end(1);
    // Eight times as long as a thousandth: −60 dB after 8 ms.
    expect(20 * Math.log10(work.render(0.004)[191] / 0.5)).toBeCloseTo(-30, 0);
    work = new EngineAtWork({ brightness: 480 });
    work.load(0, sine());
    work.start(1);
    const [dark, plain, bright] = [-1, 0, 1].map((brightness) => {
      work.order(COMMAND.timbre, 0, brightness, 0, 0, 0);
      work.render(0.1);
      return Math.max(...work.render(0.05));
    });
    expect(bright).toBeGreaterThan(plain * 1.5);
    expect(dark).toBeLessThan(plain / 5);
  });
});

describe('voices beyond what a sound can play', () => {
  const two = { polyphony: 2 };

  it('cost the oldest of the instance, counted where it was heard', () => {
    work.start(1, { ...two, strip: 4 });
    work.start(2, { ...two, strip: 5 });
    work.start(9, { ...two, strip: 6, instance: 2 });
    work.after(8);
    work.start(3, { ...two, strip: 7, slot: 1 });
    work.after(8);
    expect(work.stolen(4, 5, 6, 7)).toEqual([1, 1, 0, 0, 0]);
    // What is let go already takes no place, and the voice that gets it is no older for it.
    work.end(2);
    work.start(4, { ...two, strip: 8 });
    work.after(8);
    expect([work.stolen()[0], work.voices]).toEqual([1, 3]);
    work.start(5, { ...two, strip: 8 });
    work.after(8);
    expect(work.stolen(5, 7, 8)).toEqual([2, 0, 1, 0]);
  });

  it('cost the oldest of all when there are none, counted too', () => {
    for (let voice = 1; voice <= 128; voice++) work.start(voice, { strip: voice - 1, gain: 0.01 });
    work.after(8);
    work.start(200, { strip: 50 });
    work.after(8);
    expect([work.voices, ...work.stolen(0)]).toEqual([128, 1, 1]);
  });
});

describe('a sound of one voice', () => {
  const one = { polyphony: 1 };
  const gliding = { glide: 0.1 };

  it('is taken over within its layer at no cost, and at one from another layer', () => {
    work.start(1, { ...one, strip: 2 });
    work.after(4);
    work.start(2, { ...one, strip: 2 });
    work.after(8);
    expect([work.voices, ...work.stolen()]).toEqual([1, 0]);
    work.start(3, { ...one, strip: 3 });
    work.after(8);
    expect(work.stolen(2)).toEqual([1, 1]);
    // Another instance is another sound.
    work.start(4, { ...one, strip: 3, instance: 8 });
    work.after(8);
    expect([work.voices, ...work.stolen()]).toEqual([2, 1]);
  });

  it('glides only on the strip it sounds on, strikes where it does not, and sounds there once', () => {
    work.start(1, { ...one, strip: 2, slot: 1 }, gliding);
    work.after(8);
    work.end(1);
    work.start(2, { ...one, strip: 3, slot: 1 }, gliding);
    work.after(16);
    expect([work.voices, ...work.stolen(2)]).toEqual([1, 1, 1]);
    work.end(2);
    work.after(8);
    expect(work.voices).toBe(0);
    work.start(3, { ...one, slot: 1 }, gliding);
    work.after();
    expect(work.voices).toBe(1);
  });

  it('does not take over from another, and strikes anew where it does not glide', () => {
    work = new EngineAtWork({ attack: 0.1 });
    work.load(0, still(0.5));
    work.start(1, one, gliding);
    work.start(2, { ...one, instance: 8 }, gliding);
    work.after(4);
    expect(work.voices).toBe(2);
    work.silence();
    work.after(8);
    work.start(3, one);
    work.render(0.2);
    work.start(4, one);
    // The old one is gone after 12 ms, the new one has just begun to rise.
    expect(work.render(0.02).at(-1)).toBeLessThan(0.15);
  });

  it('comes back to the note that is held, in its glide, and ends with the last', () => {
    work.load(0, sine());
    work.start(1, one, { glide: 0.05 });
    work.render(0.1);
    work.start(2, { ...one, note: 72 }, { glide: 0.05 });
    work.render(0.1);
    expect(pitches(work.render(0.02))[0]).toBeCloseTo(960, 0);
    work.end(2);
    expect(pitches(work.render(0.04))[0]).toBeGreaterThan(800);
    work.render(0.1);
    expect(pitches(work.render(0.02))[0]).toBeCloseTo(480, 0);
    expect([work.voices, ...work.stolen()]).toEqual([1, 0]);
    work.end(1);
    work.after(8);
    expect(work.voices).toBe(0);
  });

  it('forgets what was held when all is silenced', () => {
    work.start(1, one);
    work.start(2, one);
    work.after(4);
    work.silence();
    work.after(8);
    work.start(3, one);
    work.after(4);
    work.end(3);
    work.after(8);
    expect(work.voices).toBe(0);
  });

  it('goes over into the recording of the keys it has come to, at the pitch it has', () => {
    // Its own pitch is 960 Hz: as many samples a wave, at twice the rate.
    const upper = sine({ rootKey: 72, keys: { low: 66, high: 127 }, sampleRate: RATE * 2 });
    work.load(0, sine({ keys: { low: 0, high: 65 } }), upper);
    work.start(1, one, { glide: 0.4 });
    const still = curvature(work.render(0.1).subarray(2400));
    work.start(2, { ...one, note: 72 }, { glide: 0.4 });
    const heard = work.render(0.6);
    expect(curvature(heard)).toBeLessThan(still * 4 * 1.5);
    const waves = pitches(heard);
    for (let i = 1; i < waves.length; i++)
      expect(Math.abs(Math.log2(waves[i] / waves[i - 1]))).toBeLessThan(0.03);
    expect(waves.at(-1)).toBeCloseTo(960, 0);
    expect(work.voices).toBe(1);
  });

  it('chooses the recording by the velocity it was struck with', () => {
    const keys = { low: 66, high: 127 };
    work.load(
      0,
      sine({ keys: { low: 0, high: 65 } }),
      still(0.25, { rootKey: 72, keys, velocities: { low: 100, high: 127 } }),
      still(-0.25, { rootKey: 72, keys, velocities: { low: 1, high: 99 } }),
    );
    for (const velocity of [110, 90]) {
      work.start(1, { ...one, velocity }, { glide: 0.05 });
      work.render(0.05);
      work.start(2, { ...one, note: 72, velocity }, { glide: 0.05 });
      expect(work.render(0.2).at(-1)).toBeCloseTo(velocity > 99 ? 0.25 : -0.25, 2);
      work.silence();
      work.render(0.05);
    }
  });
});

describe('what comes out', () => {
  it('is made anew with each block, in the mix, the sends and the pairs', () => {
    work.order(COMMAND.send, 0, BUS.chorus, 0, 0);
    for (let way = 1; way <= PAIRS; way++) {
      work.order(COMMAND.output, way, way);
      work.start(way, { strip: way });
    }
    work.start(9);
    work.after(4);
    const { mix, buses, pairs } = work.output;
    const heights = () =>
      [mix, buses[BUS.chorus], ...pairs].flatMap(({ left, right }) => [
        ...[left[BLOCK - 1], right[BLOCK - 1]],
      ]);
    for (const height of heights()) expect(height).toBeCloseTo(0.5, 3);
    work.silence();
    work.after(8);
    expect(heights().every((height) => height === 0)).toBe(true);
    expect(work.voices).toBe(0);
  });

  it('goes on from frame to frame by itself, or from the audio clock’s', () => {
    const heard = (frame?: number) => {
      work.engine.render(work.output, frame);
      return work.output.mix.left.findIndex((sample) => sample > 0.1);
    };
    work.start(1, {}, { frame: 3 * BLOCK + 10 });
    expect([heard(), heard(), heard(), heard()]).toEqual([-1, -1, -1, 10]);
    work.silence();
    work.after(8);
    work.start(2, {}, { frame: 100_010 });
    expect([heard(99_000), heard(99_900), heard(100_028 - BLOCK)]).toEqual([-1, 110, 0]);
  });

  it('of a strip that makes no number ends its voices and leaves the others', () => {
    const broken = still(0.5);
    broken.left[2000] = Infinity;
    work.load(2, broken);
    work.start(1, { strip: 1, slot: 1 });
    work.start(2, { strip: 2, slot: 2 });
    work.after(40);
    expect(work.voices).toBe(1);
    expect(work.after()).toBeCloseTo(0.125, 3);
  });
});

describe('what is set before a voice begins', () => {
  type Set = (on: EngineAtWork) => void;
  const bend: Set = (on) => on.order(COMMAND.bend, 12, 1, 0, 0, 0);
  const tone: Set = (on) => on.order(COMMAND.tone, 0, 9, -9);
  const timbre: Set = (on) => on.order(COMMAND.timbre, 0, 1, 0, 0, 0);
  /** What an engine makes of a voice: silence of some blocks, then it begins, and goes on for some more. */
  const heard = (set: Set, { before = 0, start: at = 0, then = 0 }) => {
    const one = new EngineAtWork({ brightness: 480 });
    one.load(0, sine());
    const all: number[] = [];
    for (let block = 0; block <= at + then; block++) {
      if (block === before) set(one);
      if (block === at) one.start(1);
      one.after();
      if (block >= at) all.push(...one.output.mix.left);
    }
    return all;
  };

  it.each([
    ['a bend', bend],
    ['a tone', tone],
    ['a timbre', timbre],
  ])('is there from its first frame on, and glides while it sounds: %s', (_, set) => {
    const long = heard(set, { before: 0, start: 60, then: 4 });
    expect(heard(set, { before: 60, start: 60, then: 4 })).toEqual(long);
    // Set while it sounds it is not there with the first block, and later it is.
    const within = heard(set, { before: 10, start: 0, then: 80 });
    const without = heard(() => undefined, { before: 0, start: 0, then: 80 });
    const all = heard(set, { before: 0, start: 0, then: 80 });
    const apart = (a: readonly number[], b: readonly number[], from: number) =>
      Math.max(...a.slice(from, from + 8).map((sample, i) => Math.abs(sample - b[from + i])));
    expect(apart(within, without, 10 * BLOCK)).toBeLessThan(0.02);
    if (set !== bend) expect(apart(within, all, 78 * BLOCK)).toBeLessThan(0.02);
    else expect(pitches(Float32Array.from(within.slice(-2000)))[1]).toBeCloseTo(960, 0);
  });
});

describe('a strip that sounds already', () => {
  it('goes on as it is when another voice begins on it', () => {
    work.order(COMMAND.tone, 0, 6, 0);
    work.start(1);
    const before = work.after(60);
    expect(before).toBeCloseTo(0.5 * 10 ** (6 / 20), 2);
    work.start(2, { gain: 1e-5 });
    work.after();
    expect(Math.min(...work.output.mix.left)).toBeGreaterThan(before * 0.99);
  });

  it('glides to the frame, in whatever parts its blocks are rendered', () => {
    work.start(1);
    work.after(8);
    const from = 9 * BLOCK;
    work.ring.write(COMMAND.level, from, 0, -20, 0.5);
    const at = (frame: number) => 0.5 * 10 ** ((-20 * (frame / RATE)) / 0.5 / 20);
    for (let block = 0; block < 150; block++) {
      // Something else on another strip cuts every block in two.
      work.ring.write(COMMAND.pan, from + block * BLOCK + 40, 9, 0);
      work.after();
      if (block === 0) continue;
      expect(work.output.mix.left[BLOCK - 1]).toBeCloseTo(at(block * BLOCK), 4);
      expect(work.output.mix.left[39]).toBeCloseTo(at((block - 1) * BLOCK + 40), 4);
    }
  });
});
