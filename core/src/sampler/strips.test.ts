import { beforeEach, describe, expect, it } from 'vitest';
import { BLOCK, blockOutput, type EngineOutput } from './block.js';
import { ARGUMENTS, BUS, BUSES, COMMAND, PAIRS, RECORD } from './command-ring.js';
import { METER, METERS } from './meters.js';
import { Strips } from './strips.js';

const RATE = 48_000;
const SECOND_OF_BLOCK = BLOCK / RATE;

let meters: Float32Array;
let mix: { both: Float32Array; left: Float32Array; right: Float32Array };
let strips: Strips;
let output: EngineOutput;
let now: number;
beforeEach(() => {
  meters = new Float32Array(METERS);
  const block = () => new Float32Array(BLOCK);
  mix = { both: block(), left: block(), right: block() };
  strips = new Strips(RATE, meters, mix);
  output = blockOutput();
  now = 0;
});

/** Gives a strip an order. */
function at(command: number, ...values: number[]) {
  const record = new Float64Array(RECORD);
  record[0] = command;
  record.set(values, ARGUMENTS);
  strips.moment[0] = now;
  strips.obey(record);
}
const wake = (s: number) => {
  strips.moment[0] = now;
  strips.wake(s);
  strips.voices[s] = 1;
};
const finish = (s: number, from: number, to: number) => {
  strips.moment[0] = now;
  return strips.finish(s, from, to, output);
};
/** What its voices are to do at a time: bend, vibrato, how far they are opened, and whether that moves. */
const turned = (s: number, time: number) => {
  strips.moment[0] = time;
  strips.turn(s);
  const { bendNow, vibratoNow, openedNow } = strips;
  return [bendNow[s], vibratoNow[s], openedNow[s], Number(strips.moves(s))];
};
/** Takes a block in which the strip's voices make these heights; what comes out by the mix. */
function block(s: number, { both = 0, left = 0, right = 0 } = {}) {
  for (const stereo of [output.mix, ...output.buses, ...output.pairs]) {
    stereo.left.fill(0);
    stereo.right.fill(0);
  }
  strips.begin(0, BLOCK);
  mix.both.fill(both);
  mix.left.fill(left);
  mix.right.fill(right);
  now += SECOND_OF_BLOCK;
  const isNumber = finish(s, 0, BLOCK);
  return { isNumber, ...output.mix };
}
const gain = (db: number) => 10 ** (db / 20);
const ends = ({ left, right }: { left: Float32Array; right: Float32Array }) => [
  left[BLOCK - 1],
  right[BLOCK - 1],
];

describe('a strip', () => {
  it('is silent until it has a level, and wakes at it without a ramp', () => {
    wake(3);
    expect(ends(block(3, { both: 1 }))).toEqual([0, 0]);
    at(COMMAND.level, 3, -6, 0);
    wake(3);
    const { left } = block(3, { both: 1 });
    for (const sample of left) expect(sample).toBeCloseTo(gain(-6), 6);
  });

  it('goes to another level within the block in a straight line, and from there on', () => {
    at(COMMAND.level, 0, 0, 0);
    wake(0);
    at(COMMAND.level, 0, -20, 0);
    const { left } = block(0, { both: 1 });
    for (const i of [0, 31, 63, 127])
      expect(left[i]).toBeCloseTo(1 + ((gain(-20) - 1) * (i + 1)) / BLOCK, 6);
    for (const sample of block(0, { both: 1 }).left) expect(sample).toBeCloseTo(gain(-20), 6);
    // Two halves of a block make the same line as one.
    at(COMMAND.level, 0, 0, 0);
    strips.begin(0, BLOCK);
    mix.both.fill(1);
    const half = BLOCK / 2;
    output.mix.left.fill(0);
    output.mix.right.fill(0);
    finish(0, 0, half);
    finish(0, half, BLOCK);
    expect(output.mix.left[BLOCK - 1]).toBeCloseTo(1, 6);
    expect(output.mix.left[half - 1]).toBeCloseTo((1 + gain(-20)) / 2, 6);
    // However little of a block is left, what is asked for at once takes the length of one.
    at(COMMAND.level, 0, -20, 0);
    at(COMMAND.pan, 0, 1);
    finish(0, BLOCK - 1, BLOCK);
    mix.both.fill(1);
    mix.left.fill(0);
    mix.right.fill(0);
    output.mix.left.fill(0);
    output.mix.right.fill(0);
    finish(0, 0, BLOCK);
    const right = gain(-20) * Math.SQRT2;
    const gone = 1 / BLOCK + (1 - 1 / BLOCK) / 2;
    expect(output.mix.left[half - 1]).toBeCloseTo(1 - gone, 6);
    expect(output.mix.right[half - 1]).toBeCloseTo(1 + (right - 1) * gone, 6);
    expect(output.mix.right[BLOCK - 1]).toBeCloseTo(right, 6);
  });

  it('adds what is the same on both sides to what is not', () => {
    at(COMMAND.level, 0, 0, 0);
    wake(0);
    const [left, right] = ends(block(0, { both: 0.5, left: 0.25, right: -0.125 }));
    expect([left, right]).toEqual([expect.closeTo(0.75, 6), expect.closeTo(0.375, 6)]);
  });

  it('is placed with constant power, at once while it rests', () => {
    at(COMMAND.level, 0, 0, 0);
    for (const [pan, angle] of [
      [-1, 0],
      [-0.5, Math.PI / 8],
      [0, Math.PI / 4],
      [1, Math.PI / 2],
    ]) {
      at(COMMAND.pan, 0, pan);
      wake(0);
      const { left, right } = block(0, { both: 1 });
      for (const i of [0, BLOCK - 1]) {
        expect(left[i]).toBeCloseTo(Math.SQRT2 * Math.cos(angle), 6);
        expect(right[i]).toBeCloseTo(Math.SQRT2 * Math.sin(angle), 6);
      }
    }
    at(COMMAND.pan, 0, -1);
    const { left, right } = block(0, { both: 1 });
    expect(left[BLOCK / 2 - 1]).toBeCloseTo(Math.SQRT2 / 2, 6);
    expect(right[BLOCK / 2 - 1]).toBeCloseTo(Math.SQRT2 / 2, 6);
  });

  it('has expression beside its level', () => {
    at(COMMAND.level, 0, -6, 0);
    at(COMMAND.expression, 0, 0.5, 0);
    wake(0);
    expect(ends(block(0, { both: 1 }))[0]).toBeCloseTo(gain(-6) * 0.5, 6);
    at(COMMAND.expression, 0, 1, 10 * SECOND_OF_BLOCK);
    for (let i = 0; i < 5; i++) block(0, { both: 1 });
    expect(ends(block(0, { both: 1 }))[0]).toBeCloseTo(gain(-6) * 0.8, 6);
  });

  it('sends to each effect by itself, in both channels, after its level and place', () => {
    at(COMMAND.level, 2, -6, 0);
    at(COMMAND.pan, 2, 1);
    at(COMMAND.send, 2, BUS.delay, -12, 0);
    at(COMMAND.send, 3, BUS.chorus, 0, 0);
    wake(2);
    block(2, { both: 1 });
    const heard = output.buses.map(ends);
    const sent = gain(-6) * gain(-12) * Math.SQRT2;
    expect(heard[BUS.reverb]).toEqual([0, 0]);
    expect(heard[BUS.delay]).toEqual([expect.closeTo(0, 6), expect.closeTo(sent, 6)]);
    expect(heard[BUS.chorus]).toEqual([0, 0]);
    expect(output.buses[BUS.delay].right[0]).toBeCloseTo(sent, 6);
    // It is turned up in a straight line within the block, and goes on gliding in dB.
    at(COMMAND.pan, 2, 0);
    block(2, { both: 1 });
    at(COMMAND.send, 2, BUS.delay, 0, 4 * SECOND_OF_BLOCK);
    block(2, { both: 1 });
    const { left } = output.buses[BUS.delay];
    expect(left[BLOCK - 1]).toBeCloseTo(gain(-6) * gain(-9), 6);
    expect(left[63]).toBeCloseTo((gain(-6) * (gain(-12) + gain(-9))) / 2, 6);
    for (let i = 0; i < 4; i++) block(2, { both: 1 });
    expect(left[0]).toBeCloseTo(gain(-6), 6);
  });

  it('begins and ends to be sent in a straight line, in whatever part of a block', () => {
    at(COMMAND.level, 100, 0, 0);
    wake(100);
    const sent = output.buses[BUS.chorus].left;
    at(COMMAND.send, 100, BUS.chorus, 0, 0);
    block(100, { both: 1 });
    expect([sent[63], sent[BLOCK - 1]]).toEqual([expect.closeTo(0.5, 6), expect.closeTo(1, 6)]);
    at(COMMAND.send, 100, BUS.chorus, -60, 0);
    block(100, { both: 1 });
    expect([sent[63], sent[BLOCK - 1]]).toEqual([expect.closeTo(0.5, 6), expect.closeTo(0, 6)]);
    strips.begin(0, BLOCK);
    mix.both.fill(1);
    sent.fill(0);
    finish(100, 0, BLOCK / 2);
    at(COMMAND.send, 100, BUS.chorus, 0, 0);
    finish(100, BLOCK / 2, BLOCK);
    expect([sent[63], sent[95], sent[BLOCK - 1]]).toEqual([
      ...[expect.closeTo(0, 6), expect.closeTo(0.25, 6), expect.closeTo(0.5, 6)],
    ]);
    block(100, { both: 1 });
    expect([sent[63], sent[BLOCK - 1]]).toEqual([expect.closeTo(0.75, 6), expect.closeTo(1, 6)]);
  });

  it('leaves by the mix or by one of the pairs, never by both', () => {
    at(COMMAND.level, 0, 0, 0);
    wake(0);
    const heard = (way: number) => {
      at(COMMAND.output, 0, way);
      block(0, { both: 1 });
      return [output.mix, ...output.pairs].map(({ left }) => Math.round(left[BLOCK - 1]));
    };
    for (let way = 0; way <= PAIRS; way++)
      expect(heard(way)).toEqual(Array.from({ length: PAIRS + 1 }, (_, i) => Number(i === way)));
    for (const none of [PAIRS + 1, -1]) expect(heard(none)).toEqual([1, 0, 0, 0]);
  });

  it('shows its peak, the larger side, which falls by some 20 dB a second', () => {
    at(COMMAND.level, 0, 0, 0);
    wake(0);
    block(0, { left: -0.75, right: 0.5 });
    expect(meters[0]).toBeCloseTo(0.75, 6);
    block(0, { both: 0.1, right: -0.2 });
    expect(meters[0]).toBeCloseTo(0.75, 6);
    for (let i = 0; i < RATE / BLOCK; i++) strips.fallMeters();
    expect(20 * Math.log10(meters[0] / 0.75)).toBeGreaterThan(-22);
    expect(20 * Math.log10(meters[0] / 0.75)).toBeLessThan(-18);
    block(0, { both: 0.01, right: -0.9 });
    expect(meters[0]).toBeCloseTo(0.89, 6);
    expect(meters[1]).toBe(0);
    for (let i = 0; i < 20 * (RATE / BLOCK); i++) strips.fallMeters();
    expect(meters[0]).toBe(0);
  });

  it('tells of what is no number, lets none of it out, and forgets it', () => {
    at(COMMAND.level, 0, 0, 0);
    at(COMMAND.tone, 0, 6, 6);
    wake(0);
    for (const broken of [{ left: NaN }, { right: NaN }, { both: Infinity }]) {
      const { isNumber, left, right } = block(0, broken);
      expect(isNumber).toBe(false);
      expect([...left, ...right].every((sample) => sample === 0)).toBe(true);
      const after = block(0, { both: 0.25 });
      expect(after.isNumber).toBe(true);
      expect([...after.left].every(Number.isFinite)).toBe(true);
    }
    // In the midst of a block, too, and where it would go out again.
    strips.voices[0] = 0;
    at(COMMAND.tone, 0, 0, 0);
    for (const place of [0, 50, BLOCK - 2]) {
      strips.begin(0, BLOCK);
      mix.both.fill(0.1);
      mix.right[place] = NaN;
      expect(finish(0, 0, BLOCK)).toBe(false);
    }
  });
});

describe('what a strip does to its voices', () => {
  it('bends and opens at once while it rests, smoothly while it sounds', () => {
    expect(turned(0, 0)).toEqual([1, 0, 1, 0]);
    at(COMMAND.bend, 12, 1);
    at(COMMAND.timbre, 0, 1, 0.5, -0.5, 0);
    expect(turned(0, 0)).toEqual([2, 0, 8, 0]);
    expect([strips.attack[0], strips.release[0]]).toEqual([0.5, -0.5]);
    strips.voices[0] = 1;
    now = 1;
    at(COMMAND.bend, 0, 1);
    expect(turned(0, 1)).toEqual([2, 0, 8, 1]);
    at(COMMAND.timbre, 0, -1, 0, 0, 0);
    expect(turned(0, 1.006)).toEqual([expect.closeTo(Math.SQRT2, 6), 0, expect.closeTo(1, 6), 1]);
    expect(turned(0, 1.013)).toEqual([1, 0, 1 / 8, 0]);
    // Each strip has a bit of its own.
    for (const s of [0, 31, 32, 64, 127]) {
      const bits = [0, 0, 0, 0];
      bits[s >> 5] = 1 << (s & 31);
      at(COMMAND.bend, 12 + s, ...bits);
      const bent = Array.from(
        { length: 128 },
        (_, other) => turned(other, 2)[0] === 2 ** (1 + s / 12),
      );
      expect([bent.indexOf(true), bent.lastIndexOf(true)]).toEqual([s, s]);
    }
  });

  it('wavers by wheel and timbre together, at most wholly', () => {
    at(COMMAND.modulation, 0, 0.25, 0);
    at(COMMAND.timbre, 0, 0, 0, 0, 0.5);
    expect(turned(0, 0)).toEqual([1, 0.75, 1, 1]);
    now = 1;
    at(COMMAND.modulation, 0, 0.9, 2);
    expect(turned(0, 1.2)[1]).toBeCloseTo(0.25 + 0.065 + 0.5, 6);
    expect(turned(0, 5)[1]).toBe(1);
  });

  it('turns its shelves at once while it rests, smoothly while it sounds', () => {
    at(COMMAND.level, 0, 0, 0);
    const settled = () => {
      let last = 0;
      for (let i = 0; i < 40; i++) last = ends(block(0, { both: 0.1 }))[0];
      return 20 * Math.log10(last / 0.1);
    };
    at(COMMAND.tone, 0, 6, 0);
    wake(0);
    expect(settled()).toBeCloseTo(6, 1);
    at(COMMAND.tone, 0, -6, 0);
    const first = 20 * Math.log10(ends(block(0, { both: 0.1 }))[0] / 0.1);
    expect(first).toBeGreaterThan(0);
    settled();
    expect(settled()).toBeCloseTo(-6, 1);
    // The highs are another shelf: a constant knows nothing of it.
    at(COMMAND.tone, 0, 0, 12);
    settled();
    expect(settled()).toBeCloseTo(0, 1);
  });

  it('is all at rest again when it is reset', () => {
    at(COMMAND.level, 1, 0, 0);
    at(COMMAND.pan, 1, 1);
    at(COMMAND.expression, 1, 0.5, 0);
    at(COMMAND.modulation, 1, 1, 0);
    at(COMMAND.timbre, 1, 1, 1, 1, 1);
    at(COMMAND.bend, 7, 2);
    at(COMMAND.tone, 1, 12, 12);
    at(COMMAND.output, 1, 2);
    for (let bus = 0; bus < BUSES; bus++) at(COMMAND.send, 1, bus, 0, 0);
    wake(1);
    block(1, { both: 1 });
    meters[METER.stolenFrom + 1] = 4;
    at(COMMAND.reset, 1);
    expect(turned(1, now)).toEqual([1, 0, 1, 0]);
    expect([strips.attack[1], strips.release[1]]).toEqual([0, 0]);
    expect([meters[1], meters[METER.stolenFrom + 1]]).toEqual([0, 0]);
    // What was sent is nothing at once, not on its way there.
    at(COMMAND.level, 1, 0, 0);
    block(1, { both: 1 });
    expect(output.buses.every(({ left }) => left.every((sample) => sample === 0))).toBe(true);
    at(COMMAND.reset, 1);
    const silent = block(1, { both: 1 });
    expect(ends(silent)).toEqual([0, 0]);
    expect(output.buses.map(ends)).toEqual(Array.from({ length: BUSES }, () => [0, 0]));
    at(COMMAND.level, 1, 0, 0);
    wake(1);
    const after = block(1, { both: 1 });
    for (const i of [0, BLOCK - 1]) {
      expect(after.left[i]).toBeCloseTo(1, 6);
      expect(after.right[i]).toBeCloseTo(1, 6);
    }
    expect(output.buses.map(ends)).toEqual(Array.from({ length: BUSES }, () => [0, 0]));
  });
});
