import { beforeEach, describe, expect, it } from 'vitest';
import type { Zone } from '../synthesis/zone.js';
import { BLOCK, blockOutput, type EngineOutput } from './block.js';
import { BUS, COMMAND, COMMAND_RING_BYTES, CommandRing, PAIRS } from './command-ring.js';
import { METER, METERS, STRIPS } from './meters.js';
import { VoiceEngine } from './voice-engine.js';

const RATE = 48_000;
const voicing = { attack: 0, release: 0.001, dynamics: 0, brightness: 20_000, darkening: 0 };

/** A recording that stands at one height, for some keys and velocities. */
function still(height: number, changes: Partial<Zone> = {}): Zone {
  const left = new Float32Array(4800).fill(height);
  return {
    ...{ rootKey: 60, keys: { low: 0, high: 127 }, velocities: { low: 1, high: 127 } },
    ...{ sampleRate: RATE, left, right: left, loopStart: 0, loopEnd: 4800, loopDecay: 0 },
    ...changes,
  };
}
/** A sine of 480 Hz at its root. */
function sine(changes: Partial<Zone> = {}): Zone {
  const left = Float32Array.from(
    { length: 4800 },
    (_, i) => 0.5 * Math.sin((2 * Math.PI * i) / 100),
  );
  return still(0, { left, right: left, ...changes });
}

let ring: CommandRing;
let engine: VoiceEngine;
let meters: Float32Array;
let output: EngineOutput;
beforeEach(() => {
  ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  meters = new Float32Array(METERS);
  engine = new VoiceEngine(RATE, ring, meters);
  output = blockOutput();
  engine.load(0, { voicing, zones: [still(0.5)] });
  engine.load(1, { voicing, zones: [still(0.125)] });
  for (let strip = 0; strip < STRIPS; strip++) ring.write(COMMAND.level, 0, strip, 0, 0);
});
const start = (
  voice: number,
  { strip = 0, slot = 0, instance = 1, polyphony = 0, note = 60, velocity = 127, gain = 1 } = {},
  glide = 0,
) =>
  ring.write(
    COMMAND.start,
    0,
    voice,
    strip,
    slot,
    instance,
    polyphony,
    note,
    velocity,
    gain,
    glide,
  );
/** Renders blocks; the heights at the end of the last one. */
function after(blocks = 1): number {
  for (let i = 0; i < blocks; i++) engine.render(output);
  return output.mix.left[BLOCK - 1];
}
const render = (seconds: number) => {
  const all: number[] = [];
  while (all.length < seconds * RATE) {
    engine.render(output);
    all.push(...output.mix.left);
  }
  return all;
};
/** Rising zero crossings, in frames. */
function crossings(samples: readonly number[]): number[] {
  const found: number[] = [];
  for (let i = 1; i < samples.length; i++)
    if (samples[i - 1] < 0 && samples[i] >= 0)
      found.push(i - samples[i] / (samples[i] - samples[i - 1]));
  return found;
}
/** Hz of every wave of a stretch. */
const pitches = (samples: readonly number[]) => {
  const at = crossings(samples);
  return at.slice(1).map((place, i) => RATE / (place - at[i]));
};

describe('a command', () => {
  it('with a number that is none does nothing, whichever of its numbers it is', () => {
    start(1);
    expect(after(4)).toBeCloseTo(0.5, 3);
    ring.write(COMMAND.level, 0, 0, NaN, 0);
    ring.write(COMMAND.level, 0, 0, -60, Infinity);
    ring.write(COMMAND.start, 0, 9, 0, 0, 1, 0, 60, 127, NaN);
    ring.write(COMMAND.start, 0, 9, 0, 0, 1, 0, 60, 127, 1, NaN);
    expect(after(4)).toBeCloseTo(0.5, 3);
    expect(meters[METER.voices]).toBe(1);
  });

  it('to start needs a sound with zones and a strip that there is', () => {
    engine.load(3, { voicing, zones: [] });
    start(1, { slot: 3 });
    start(2, { slot: 7 });
    start(3, { strip: -1 });
    start(4, { strip: STRIPS });
    after();
    expect(meters[METER.voices]).toBe(0);
    start(5, { strip: STRIPS - 1 });
    after();
    expect(meters[METER.voices]).toBe(1);
  });

  it('to start what is not there leaves a sound of one voice alone', () => {
    engine.load(3, { voicing, zones: [] });
    start(1, { polyphony: 1 });
    after(8);
    for (const slot of [3, 7]) start(2, { slot, polyphony: 1 });
    expect(after(8)).toBeCloseTo(0.5, 3);
  });

  it('that bends glides while it sounds, and one of tone is there at once where nothing does', () => {
    const left = Float32Array.from({ length: 9600 }, (_, i) => i * 1e-4);
    engine.load(0, { voicing, zones: [still(0, { left, right: left, loopEnd: 9600 })] });
    start(1);
    after(8);
    ring.write(COMMAND.bend, 0, 12, 1, 0, 0, 0);
    const slope = (blocks: number) => {
      after(blocks);
      const { left: heard } = output.mix;
      return (heard[BLOCK - 1] - heard[BLOCK - 2]) / 1e-4;
    };
    expect(slope(1)).toBeLessThan(1.8);
    expect(slope(16)).toBeCloseTo(2, 1);

    /** Sound under shelves that were turned just now, or under which another voice has sounded before. */
    const shelved = (before: boolean) => {
      engine = new VoiceEngine(RATE, ring, meters);
      engine.load(0, { voicing, zones: [sine()] });
      ring.write(COMMAND.level, 0, 0, 0, 0);
      ring.write(COMMAND.tone, 0, 0, 12, -12);
      if (before) {
        start(9);
        render(0.5);
        ring.write(COMMAND.silence, 0);
        render(0.1);
      }
      start(1);
      return render(0.02);
    };
    const [now, later] = [shelved(false), shelved(true)];
    now.forEach((sample, i) => expect(sample).toBeCloseTo(later[i], 3));
  });

  it('that finds no room to wait leaves nothing begun that would not end', () => {
    start(7);
    const later = (voice: number) =>
      ring.write(COMMAND.start, 1e5, voice, 0, 0, 1, 0, 60, 127, 1, 0);
    for (let voice = 8; voice < 8 + 2047; voice++) later(voice);
    after();
    later(3000);
    // The agenda is full: neither of these is begun, and what sounds ends now instead of never.
    later(3001);
    for (const voice of [3000, 3001, 7]) ring.write(COMMAND.end, 2e5, voice);
    for (let i = 0; i < 100; i++) after();
    expect(meters[METER.voices]).toBe(0);
    for (let voice = 8; voice < 8 + 2047; voice++) ring.write(COMMAND.takeBack, 0, voice, 0);
    for (let i = 0; i < 1000; i++) after();
    expect(meters[METER.voices]).toBe(0);
  });

  it('that comes ahead of the one who gave it begins nothing twice, and ends every voice of a note', () => {
    ring.write(COMMAND.start, 200, 1, 0, 0, 1, 0, 60, 127, 1, 0);
    ring.write(COMMAND.end, 900, 1);
    after();
    after();
    // It has begun here, and is to come for the one who writes: its end moves, its beginning does not come anew.
    ring.write(COMMAND.retime, 0, 1, 600, 1300);
    ring.write(COMMAND.start, 3000, 2, 0, 0, 1, 0, 60, 127, 1, 0);
    ring.write(COMMAND.retime, 0, 2, 2600, -1);
    // An end that is told without a time, before its beginning has come.
    ring.write(COMMAND.start, 700, 3, 0, 0, 1, 0, 60, 127, 1, 0);
    ring.write(COMMAND.end, 0, 3);
    const voices: number[] = [];
    for (let block = 2; block < 24; block++) {
      after();
      voices.push(meters[METER.voices]);
    }
    expect(Math.max(...voices)).toBe(1);
    expect(voices.slice(0, 8)).toEqual([1, 1, 1, 1, 1, 1, 1, 1]);
    ring.write(COMMAND.end, 0, 2);
    for (let i = 0; i < 200; i++) after();
    expect(meters[METER.voices]).toBe(0);
  });

  it('that bends reaches the strips of its bits, in each of its numbers', () => {
    engine.load(0, { voicing, zones: [sine()] });
    for (const [strip, neighbour] of [
      [0, 1],
      [31, 30],
      [32, 33],
      [64, 63],
      [127, 126],
    ]) {
      const bits = [0, 0, 0, 0];
      bits[strip >> 5] = 1 << (strip & 31);
      ring.write(COMMAND.reset, 0, strip);
      ring.write(COMMAND.level, 0, strip, 0, 0);
      ring.write(COMMAND.bend, 0, 12, bits[0], bits[1], bits[2], bits[3]);
      for (const other of [strip, neighbour]) {
        start(100 + other, { strip: other });
        render(0.02);
        const [pitch] = pitches(render(0.05)).slice(3);
        expect(pitch).toBeCloseTo(other === strip ? 960 : 480, 0);
        ring.write(COMMAND.silence, 0);
        render(0.02);
      }
    }
  });

  it('of pressure leans on the voice that is meant while it sounds', () => {
    engine.load(0, { voicing, zones: [sine()] });
    start(1);
    render(0.05);
    ring.write(COMMAND.pressure, 0, 1, 1);
    const wavering = pitches(render(1));
    // 35 cents to either side, about 5.4 times a second.
    expect(Math.max(...wavering) / 480).toBeCloseTo(2 ** (35 / 1200), 3);
    expect(Math.min(...wavering) / 480).toBeCloseTo(2 - 2 ** (35 / 1200), 3);
    const above = wavering.map((hz) => hz > 480);
    const swings = above.filter((is, i) => is && !above[i - 1]).length;
    expect(swings).toBeGreaterThanOrEqual(5);
    expect(swings).toBeLessThanOrEqual(7);
    // More than the whole is not to be had.
    ring.write(COMMAND.modulation, 0, 0, 1, 0);
    expect(Math.max(...pitches(render(0.5))) / 480).toBeCloseTo(2 ** (35 / 1200), 3);
    ring.write(COMMAND.modulation, 0, 0, 0.25, 0);
    ring.write(COMMAND.pressure, 0, 1, 0.25);
    render(0.05);
    const half = Math.max(...pitches(render(0.5))) / 480 - 1;
    expect(half / (2 ** (35 / 1200) - 1)).toBeCloseTo(0.5, 1);
  });

  it('to reset ends the strip’s voices at once, and no other’s', () => {
    start(1, { strip: 0 });
    start(2, { strip: 1, slot: 1 });
    after(4);
    ring.write(COMMAND.reset, 0, 0);
    after();
    expect(meters[METER.voices]).toBe(1);
    expect(after()).toBeCloseTo(0.125, 3);
  });

  it('of brightness opens and closes the low-pass of voices', () => {
    engine.load(0, { voicing: { ...voicing, brightness: 480 }, zones: [sine()] });
    const level = (brightness: number) => {
      ring.write(COMMAND.timbre, 0, 0, brightness, 0, 0, 0);
      render(0.1);
      return Math.max(...render(0.05));
    };
    start(1);
    const plain = level(0);
    expect(level(1)).toBeGreaterThan(plain * 1.5);
    expect(level(-1)).toBeLessThan(plain / 5);
  });

  it('of a timbre shapes the voices that begin after it', () => {
    ring.write(COMMAND.timbre, 0, 0, 0, 0.5, 1, 0);
    start(1);
    // Half a second is added to the attack.
    expect(render(0.25).at(-1)).toBeCloseTo(0.25, 2);
    render(0.5);
    ring.write(COMMAND.end, 0, 1);
    // Eight times as long as a thousandth: −60 dB after 8 ms.
    const release = render(0.004);
    expect(20 * Math.log10((release[191] ?? 0) / 0.5)).toBeCloseTo(-30, 0);
  });
});

describe('voices beyond what a sound can play', () => {
  it('cost the oldest of the instance, counted where it was heard', () => {
    start(1, { polyphony: 2, strip: 4 });
    start(2, { polyphony: 2, strip: 5 });
    start(9, { polyphony: 2, strip: 6, instance: 2 });
    after(8);
    start(3, { polyphony: 2, strip: 7, slot: 1 });
    after(8);
    const stolen = [4, 5, 6, 7].map((strip) => meters[METER.stolenFrom + strip]);
    expect([meters[METER.stolen], stolen]).toEqual([1, [1, 0, 0, 0]]);
    // What is let go already takes no place.
    ring.write(COMMAND.end, 0, 2);
    start(4, { polyphony: 2, strip: 7, slot: 1 });
    after(8);
    expect(meters[METER.stolen]).toBe(1);
    expect(meters[METER.voices]).toBe(3);
  });

  it('cost the oldest of all when there are none, counted too', () => {
    for (let voice = 1; voice <= 128; voice++) start(voice, { strip: voice - 1, gain: 0.01 });
    after(8);
    start(200, { strip: 50 });
    after(8);
    expect([meters[METER.stolen], meters[METER.stolenFrom]]).toEqual([1, 1]);
  });
});

describe('a sound of one voice', () => {
  const one = { polyphony: 1 };

  it('is taken over within its layer at no cost, and at one from another layer', () => {
    start(1, { ...one, strip: 2 });
    after(4);
    start(2, { ...one, strip: 2 });
    after(8);
    expect([meters[METER.voices], meters[METER.stolen]]).toEqual([1, 0]);
    start(3, { ...one, strip: 3 });
    after(8);
    expect([meters[METER.stolen], meters[METER.stolenFrom + 2]]).toEqual([1, 1]);
    // Another instance is another sound.
    start(4, { ...one, strip: 3, instance: 8 });
    after(8);
    expect([meters[METER.voices], meters[METER.stolen]]).toEqual([2, 1]);
  });

  it('glides only on the strip it sounds on, and strikes where it does not', () => {
    start(1, { ...one, strip: 2, slot: 1 }, 0.1);
    after(8);
    start(2, { ...one, strip: 3, slot: 1 }, 0.1);
    after();
    expect(meters[METER.stolenFrom + 2]).toBe(1);
    ring.write(COMMAND.end, 0, 1);
    ring.write(COMMAND.end, 0, 2);
    after(8);
    expect(meters[METER.voices]).toBe(0);
    start(3, { ...one, slot: 1 }, 0.1);
    after();
    expect(meters[METER.voices]).toBe(1);
  });

  it('that ends as another layer takes it over sounds there once', () => {
    start(1, { ...one, strip: 2 }, 0.1);
    after(8);
    ring.write(COMMAND.end, 0, 1);
    start(2, { ...one, strip: 3 }, 0.1);
    after(16);
    expect(meters[METER.voices]).toBe(1);
  });

  it('comes back to the note that is held, in its glide, and ends with the last', () => {
    engine.load(0, { voicing, zones: [sine()] });
    start(1, one, 0.05);
    render(0.1);
    start(2, { ...one, note: 72 }, 0.05);
    render(0.1);
    expect(pitches(render(0.02))[0]).toBeCloseTo(960, 0);
    ring.write(COMMAND.end, 0, 2);
    const gliding = pitches(render(0.04));
    expect(gliding[0]).toBeGreaterThan(800);
    render(0.1);
    expect(pitches(render(0.02))[0]).toBeCloseTo(480, 0);
    expect([meters[METER.voices], meters[METER.stolen]]).toEqual([1, 0]);
    ring.write(COMMAND.end, 0, 1);
    after(8);
    expect(meters[METER.voices]).toBe(0);
  });

  it('forgets what was held when all is silenced', () => {
    start(1, one);
    start(2, one);
    after(4);
    ring.write(COMMAND.silence, 0);
    after(8);
    start(3, one);
    after(4);
    ring.write(COMMAND.end, 0, 3);
    after(8);
    expect(meters[METER.voices]).toBe(0);
  });

  it('goes over into the recording of the keys it has come to, at the pitch it has', () => {
    const upper = sine({ rootKey: 72, keys: { low: 66, high: 127 }, sampleRate: RATE * 2 });
    // Its own pitch is 960 Hz: as many samples a wave, at twice the rate.
    engine.load(0, { voicing, zones: [sine({ keys: { low: 0, high: 65 } }), upper] });
    start(1, one, 0.4);
    render(0.1);
    start(2, { ...one, note: 72 }, 0.4);
    const gliding = pitches(render(0.6));
    for (let i = 1; i < gliding.length; i++)
      expect(Math.abs(Math.log2(gliding[i] / gliding[i - 1]))).toBeLessThan(0.03);
    expect(gliding.at(-1)).toBeCloseTo(960, 0);
    expect(meters[METER.voices]).toBe(1);
  });

  it('chooses the recording by the velocity it was struck with', () => {
    const zones = [
      sine({ keys: { low: 0, high: 65 } }),
      still(0.25, {
        rootKey: 72,
        keys: { low: 66, high: 127 },
        velocities: { low: 100, high: 127 },
      }),
      still(-0.25, { rootKey: 72, keys: { low: 66, high: 127 }, velocities: { low: 1, high: 99 } }),
    ];
    engine.load(0, { voicing, zones });
    for (const [velocity, height] of [
      [110, 0.25],
      [90, -0.25],
    ]) {
      start(1, { ...one, velocity }, 0.05);
      render(0.05);
      start(2, { ...one, note: 72, velocity }, 0.05);
      expect(render(0.2).at(-1)).toBeCloseTo(height, 2);
      ring.write(COMMAND.silence, 0);
      render(0.05);
    }
  });
});

describe('what comes out', () => {
  it('is made anew with each block, in the mix, the sends and the pairs', () => {
    ring.write(COMMAND.send, 0, 0, BUS.chorus, 0, 0);
    for (let way = 1; way <= PAIRS; way++) {
      ring.write(COMMAND.output, 0, way, way);
      start(way, { strip: way });
    }
    start(9);
    after(4);
    const heights = () =>
      [output.mix, output.buses[BUS.chorus], ...output.pairs].map(({ left, right }) => [
        left[BLOCK - 1],
        right[BLOCK - 1],
      ]);
    for (const [left, right] of heights()) {
      expect(left).toBeCloseTo(0.5, 3);
      expect(right).toBeCloseTo(0.5, 3);
    }
    ring.write(COMMAND.silence, 0);
    after(8);
    expect(
      heights()
        .flat()
        .every((height) => height === 0),
    ).toBe(true);
    expect(meters[METER.voices]).toBe(0);
  });

  it('goes on from frame to frame by itself, or from the audio clock’s', () => {
    const heard = (frame?: number) => {
      engine.render(output, frame);
      return output.mix.left.findIndex((sample) => sample > 0.1);
    };
    ring.write(COMMAND.start, 3 * BLOCK + 10, 1, 0, 0, 1, 0, 60, 127, 1);
    expect([heard(), heard(), heard(), heard()]).toEqual([-1, -1, -1, 10]);
    ring.write(COMMAND.silence, 0);
    for (let i = 0; i < 8; i++) heard();
    ring.write(COMMAND.start, 100_010, 2, 0, 0, 1, 0, 60, 127, 1);
    expect([heard(99_000), heard(99_900), heard(100_028 - BLOCK)]).toEqual([-1, 110, 0]);
  });

  it('of a strip that makes no number ends its voices and leaves the others', () => {
    const broken = still(0.5);
    broken.left[2000] = Infinity;
    engine.load(2, { voicing, zones: [broken] });
    start(1, { strip: 1, slot: 1 });
    start(2, { strip: 2, slot: 2 });
    after(40);
    expect(meters[METER.voices]).toBe(1);
    expect(after()).toBeCloseTo(0.125, 3);
  });
});

describe('what is set before a voice begins', () => {
  type Set = (on: CommandRing) => boolean;
  const bend: Set = (on) => on.write(COMMAND.bend, 0, 12, 1, 0, 0, 0);
  const tone: Set = (on) => on.write(COMMAND.tone, 0, 0, 9, -9);
  const timbre: Set = (on) => on.write(COMMAND.timbre, 0, 0, 1, 0, 0, 0);
  /** What an engine makes of a voice: silence of some blocks, then it begins, and goes on for some more. */
  const heard = (set: Set, { before = 0, start: at = 0, then = 0 }) => {
    const commands = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
    const one = new VoiceEngine(RATE, commands, new Float32Array(METERS));
    one.load(0, { voicing: { ...voicing, brightness: 480 }, zones: [sine()] });
    commands.write(COMMAND.level, 0, 0, 0, 0);
    const all: number[] = [];
    for (let block = 0; block <= at + then; block++) {
      if (block === before) set(commands);
      if (block === at) commands.write(COMMAND.start, 0, 1, 0, 0, 1, 0, 60, 127, 1);
      one.render(output, block * BLOCK);
      if (block >= at) all.push(...output.mix.left);
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
    const without = heard(() => true, { before: 0, start: 0, then: 80 });
    const all = heard(set, { before: 0, start: 0, then: 80 });
    const apart = (a: readonly number[], b: readonly number[], from: number) =>
      Math.max(...a.slice(from, from + 8).map((sample, i) => Math.abs(sample - b[from + i])));
    expect(apart(within, without, 10 * BLOCK)).toBeLessThan(0.02);
    if (set !== bend) expect(apart(within, all, 78 * BLOCK)).toBeLessThan(0.02);
    else expect(pitches(within.slice(-2000))[1]).toBeCloseTo(960, 0);
  });
});

describe('a strip that sounds already', () => {
  it('goes on as it is when another voice begins on it', () => {
    ring.write(COMMAND.tone, 0, 0, 6, 0);
    start(1);
    const before = after(60);
    expect(before).toBeCloseTo(0.5 * 10 ** (6 / 20), 2);
    start(2, { gain: 1e-5 });
    engine.render(output);
    expect(Math.min(...output.mix.left)).toBeGreaterThan(before * 0.99);
  });

  it('trembles alike by the wheel and by a finger', () => {
    const heard = (lean: (on: CommandRing) => boolean) => {
      const commands = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
      const one = new VoiceEngine(RATE, commands, new Float32Array(METERS));
      one.load(0, { voicing, zones: [sine()] });
      commands.write(COMMAND.level, 0, 0, 0, 0);
      commands.write(COMMAND.start, 0, 1, 0, 0, 1, 0, 60, 127, 1);
      lean(commands);
      const all: number[] = [];
      for (let block = 0; block < 40; block++) {
        one.render(output, block * BLOCK);
        all.push(...output.mix.left);
      }
      return all;
    };
    const byFinger = heard((on) => on.write(COMMAND.pressure, 0, 1, 1));
    expect(byFinger).toEqual(heard((on) => on.write(COMMAND.modulation, 0, 0, 1, 0)));
  });

  it('glides to the frame, in whatever parts its blocks are rendered', () => {
    start(1);
    after(8);
    const from = 9 * BLOCK;
    ring.write(COMMAND.level, from, 0, -20, 0.5);
    for (let block = 0; block < 150; block++) {
      // Something else on another strip cuts every block in two.
      ring.write(COMMAND.pan, from + block * BLOCK + 40, 9, 0);
      engine.render(output);
      if (block === 0) continue;
      const gone = (block * BLOCK) / RATE;
      expect(output.mix.left[BLOCK - 1]).toBeCloseTo(0.5 * 10 ** ((-20 * gone) / 0.5 / 20), 4);
      const part = ((block - 1) * BLOCK + 40) / RATE;
      expect(output.mix.left[39]).toBeCloseTo(0.5 * 10 ** ((-20 * part) / 0.5 / 20), 4);
    }
  });
});

describe('sounds of one voice on one strip', () => {
  it('do not take over from each other, and strike anew where they do not glide', () => {
    const one = { polyphony: 1 };
    start(1, one, 0.1);
    start(2, { ...one, instance: 8 }, 0.1);
    after(4);
    expect(meters[METER.voices]).toBe(2);
    ring.write(COMMAND.silence, 0);
    after(8);
    engine.load(0, { voicing: { ...voicing, attack: 0.1 }, zones: [still(0.5)] });
    start(3, one);
    render(0.2);
    start(4, one);
    // The old one is gone after 12 ms, the new one has just begun to rise.
    expect(render(0.02).at(-1)).toBeLessThan(0.15);
  });
});

describe('a place that was free in between', () => {
  it('does not make the voice in it older than it is', () => {
    const two = { polyphony: 2 };
    start(1, { ...two, strip: 1 });
    start(2, { ...two, strip: 2 });
    after(4);
    ring.write(COMMAND.end, 0, 1);
    after(4);
    start(3, { ...two, strip: 3 });
    after(4);
    start(4, { ...two, strip: 4 });
    after(4);
    expect([1, 2, 3, 4].map((strip) => meters[METER.stolenFrom + strip])).toEqual([0, 1, 0, 0]);
  });
});
