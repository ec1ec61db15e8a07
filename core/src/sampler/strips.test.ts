import { beforeEach, describe, expect, it } from 'vitest';
import { BLOCK, blockOutput, type EngineOutput } from './block.js';
import { BUS, BUSES, PAIRS } from './command-ring.js';
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

const finish = (s: number, from: number, to: number) => {
  strips.moment[0] = now;
  return strips.finish(s, from, to, output);
};
const moves = (s: number, at: number) => {
  strips.moment[0] = at;
  return strips.moves(s);
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
    strips.wake(3, now);
    expect(ends(block(3, { both: 1 }))).toEqual([0, 0]);
    strips.setLevel(3, -6, 0, now);
    strips.wake(3, now);
    const { left } = block(3, { both: 1 });
    for (const sample of left) expect(sample).toBeCloseTo(gain(-6), 6);
  });

  it('goes to another level within the block in a straight line, and from there on', () => {
    strips.setLevel(0, 0, 0, now);
    strips.wake(0, now);
    strips.setLevel(0, -20, 0, now);
    const { left } = block(0, { both: 1 });
    for (const i of [0, 31, 63, 127])
      expect(left[i]).toBeCloseTo(1 + ((gain(-20) - 1) * (i + 1)) / BLOCK, 6);
    for (const sample of block(0, { both: 1 }).left) expect(sample).toBeCloseTo(gain(-20), 6);
    // Two halves of a block make the same line as one.
    strips.setLevel(0, 0, 0, now);
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
    strips.setLevel(0, -20, 0, now);
    strips.setPan(0, 1);
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
    strips.setLevel(0, 0, 0, now);
    strips.wake(0, now);
    const [left, right] = ends(block(0, { both: 0.5, left: 0.25, right: -0.125 }));
    expect([left, right]).toEqual([expect.closeTo(0.75, 6), expect.closeTo(0.375, 6)]);
  });

  it('is placed with constant power, at once while it rests', () => {
    strips.setLevel(0, 0, 0, now);
    for (const [pan, angle] of [
      [-1, 0],
      [-0.5, Math.PI / 8],
      [0, Math.PI / 4],
      [1, Math.PI / 2],
    ]) {
      strips.setPan(0, pan);
      strips.wake(0, now);
      const { left, right } = block(0, { both: 1 });
      for (const i of [0, BLOCK - 1]) {
        expect(left[i]).toBeCloseTo(Math.SQRT2 * Math.cos(angle), 6);
        expect(right[i]).toBeCloseTo(Math.SQRT2 * Math.sin(angle), 6);
      }
    }
    strips.setPan(0, -1);
    const { left, right } = block(0, { both: 1 });
    expect(left[BLOCK / 2 - 1]).toBeCloseTo(Math.SQRT2 / 2, 6);
    expect(right[BLOCK / 2 - 1]).toBeCloseTo(Math.SQRT2 / 2, 6);
  });

  it('has expression beside its level', () => {
    strips.setLevel(0, -6, 0, now);
    strips.setExpression(0, 0.5, 0, now);
    strips.wake(0, now);
    expect(ends(block(0, { both: 1 }))[0]).toBeCloseTo(gain(-6) * 0.5, 6);
    strips.setExpression(0, 1, 10 * SECOND_OF_BLOCK, now);
    for (let i = 0; i < 5; i++) block(0, { both: 1 });
    expect(ends(block(0, { both: 1 }))[0]).toBeCloseTo(gain(-6) * 0.8, 6);
  });

  it('sends to each effect by itself, in both channels, after its level and place', () => {
    strips.setLevel(2, -6, 0, now);
    strips.setPan(2, 1);
    strips.setSend(2, BUS.delay, -12, 0, now);
    strips.setSend(3, BUS.chorus, 0, 0, now);
    strips.wake(2, now);
    block(2, { both: 1 });
    const heard = output.buses.map(ends);
    const sent = gain(-6) * gain(-12) * Math.SQRT2;
    expect(heard[BUS.reverb]).toEqual([0, 0]);
    expect(heard[BUS.delay]).toEqual([expect.closeTo(0, 6), expect.closeTo(sent, 6)]);
    expect(heard[BUS.chorus]).toEqual([0, 0]);
    expect(output.buses[BUS.delay].right[0]).toBeCloseTo(sent, 6);
    // It is turned up in a straight line within the block, and goes on gliding in dB.
    strips.setPan(2, 0);
    block(2, { both: 1 });
    strips.setSend(2, BUS.delay, 0, 4 * SECOND_OF_BLOCK, now);
    block(2, { both: 1 });
    const { left } = output.buses[BUS.delay];
    expect(left[BLOCK - 1]).toBeCloseTo(gain(-6) * gain(-9), 6);
    expect(left[63]).toBeCloseTo((gain(-6) * (gain(-12) + gain(-9))) / 2, 6);
    for (let i = 0; i < 4; i++) block(2, { both: 1 });
    expect(left[0]).toBeCloseTo(gain(-6), 6);
  });

  it('begins and ends to be sent in a straight line, in whatever part of a block', () => {
    strips.setLevel(100, 0, 0, now);
    strips.wake(100, now);
    const sent = output.buses[BUS.chorus].left;
    strips.setSend(100, BUS.chorus, 0, 0, now);
    block(100, { both: 1 });
    expect([sent[63], sent[BLOCK - 1]]).toEqual([expect.closeTo(0.5, 6), expect.closeTo(1, 6)]);
    strips.setSend(100, BUS.chorus, -60, 0, now);
    block(100, { both: 1 });
    expect([sent[63], sent[BLOCK - 1]]).toEqual([expect.closeTo(0.5, 6), expect.closeTo(0, 6)]);
    strips.begin(0, BLOCK);
    mix.both.fill(1);
    sent.fill(0);
    finish(100, 0, BLOCK / 2);
    strips.setSend(100, BUS.chorus, 0, 0, now);
    finish(100, BLOCK / 2, BLOCK);
    expect([sent[63], sent[95], sent[BLOCK - 1]]).toEqual([
      ...[expect.closeTo(0, 6), expect.closeTo(0.25, 6), expect.closeTo(0.5, 6)],
    ]);
    block(100, { both: 1 });
    expect([sent[63], sent[BLOCK - 1]]).toEqual([expect.closeTo(0.75, 6), expect.closeTo(1, 6)]);
  });

  it('leaves by the mix or by one of the pairs, never by both', () => {
    strips.setLevel(0, 0, 0, now);
    strips.wake(0, now);
    const heard = (way: number) => {
      strips.setWay(0, way);
      block(0, { both: 1 });
      return [output.mix, ...output.pairs].map(({ left }) => Math.round(left[BLOCK - 1]));
    };
    for (let way = 0; way <= PAIRS; way++)
      expect(heard(way)).toEqual(Array.from({ length: PAIRS + 1 }, (_, i) => Number(i === way)));
    for (const none of [PAIRS + 1, -1]) expect(heard(none)).toEqual([1, 0, 0, 0]);
  });

  it('shows its peak, the larger side, which falls by some 20 dB a second', () => {
    strips.setLevel(0, 0, 0, now);
    strips.wake(0, now);
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
    strips.setLevel(0, 0, 0, now);
    strips.setTone(0, 6, 6, true);
    strips.wake(0, now);
    for (const broken of [{ left: NaN }, { right: NaN }, { both: Infinity }]) {
      const { isNumber, left, right } = block(0, broken);
      expect(isNumber).toBe(false);
      expect([...left, ...right].every((sample) => sample === 0)).toBe(true);
      const after = block(0, { both: 0.25 });
      expect(after.isNumber).toBe(true);
      expect([...after.left].every(Number.isFinite)).toBe(true);
    }
    // In the midst of a block, too, and where it would go out again.
    strips.setTone(0, 0, 0, true);
    for (const place of [0, 50, BLOCK - 2]) {
      strips.begin(0, BLOCK);
      mix.both.fill(0.1);
      mix.right[place] = NaN;
      expect(finish(0, 0, BLOCK)).toBe(false);
    }
  });
});

describe('what a strip does to its voices', () => {
  it('bends at once while it rests, smoothly while it sounds', () => {
    expect(strips.bendOf(0, 0)).toBe(1);
    strips.setBend(0, 12, true, 0);
    expect(strips.bendOf(0, 0)).toBe(2);
    expect(moves(0, 0)).toBe(false);
    strips.setBend(0, 0, false, 1);
    expect(strips.bendOf(0, 1)).toBe(2);
    expect(moves(0, 1)).toBe(true);
    expect(strips.bendOf(0, 1.006)).toBeCloseTo(Math.SQRT2, 6);
    expect(strips.bendOf(0, 1.012)).toBe(1);
    expect(moves(0, 1.013)).toBe(false);
  });

  it('opens and closes by its brightness, likewise', () => {
    strips.setTimbre(0, 1, 0.5, -0.5, 0, true, 0);
    expect(strips.openedOf(0, 0)).toBe(8);
    expect([strips.attack[0], strips.release[0]]).toEqual([0.5, -0.5]);
    strips.setTimbre(0, -1, 0, 0, 0, false, 1);
    expect(moves(0, 1.001)).toBe(true);
    expect(strips.openedOf(0, 1.006)).toBeCloseTo(1, 6);
    expect(strips.openedOf(0, 1.1)).toBeCloseTo(1 / 8, 6);
    expect(moves(0, 1.1)).toBe(false);
  });

  it('wavers by wheel and timbre together, at most wholly', () => {
    strips.setModulation(0, 0.25, 0, 0);
    strips.setTimbre(0, 0, 0, 0, 0.5, true, 0);
    expect(strips.vibratoOf(0, 0)).toBe(0.75);
    expect(moves(0, 0)).toBe(true);
    strips.setModulation(0, 0.9, 2, 1);
    expect(strips.vibratoOf(0, 1.2)).toBeCloseTo(0.25 + 0.065 + 0.5, 6);
    expect(strips.vibratoOf(0, 5)).toBe(1);
  });

  it('turns its shelves at once while it rests, smoothly while it sounds', () => {
    strips.setLevel(0, 0, 0, now);
    const settled = () => {
      let last = 0;
      for (let i = 0; i < 40; i++) last = ends(block(0, { both: 0.1 }))[0];
      return 20 * Math.log10(last / 0.1);
    };
    strips.setTone(0, 6, 0, true);
    strips.wake(0, now);
    expect(settled()).toBeCloseTo(6, 1);
    strips.setTone(0, -6, 0, false);
    const first = 20 * Math.log10(ends(block(0, { both: 0.1 }))[0] / 0.1);
    expect(first).toBeGreaterThan(0);
    settled();
    expect(settled()).toBeCloseTo(-6, 1);
    // The highs are another shelf: a constant knows nothing of it.
    strips.setTone(0, 0, 12, true);
    settled();
    expect(settled()).toBeCloseTo(0, 1);
  });

  it('is all at rest again when it is reset', () => {
    strips.setLevel(1, 0, 0, now);
    strips.setPan(1, 1);
    strips.setExpression(1, 0.5, 0, now);
    strips.setModulation(1, 1, 0, now);
    strips.setTimbre(1, 1, 1, 1, 1, true, now);
    strips.setBend(1, 7, true, now);
    strips.setTone(1, 12, 12, true);
    strips.setWay(1, 2);
    for (let bus = 0; bus < BUSES; bus++) strips.setSend(1, bus, 0, 0, now);
    strips.wake(1, now);
    block(1, { both: 1 });
    meters[METER.stolenFrom + 1] = 4;
    strips.reset(1, now);
    expect([strips.bendOf(1, now), strips.vibratoOf(1, now), strips.openedOf(1, now)]).toEqual([
      1, 0, 1,
    ]);
    expect([strips.attack[1], strips.release[1], moves(1, now)]).toEqual([0, 0, false]);
    expect([meters[1], meters[METER.stolenFrom + 1]]).toEqual([0, 0]);
    // What was sent is nothing at once, not on its way there.
    strips.setLevel(1, 0, 0, now);
    block(1, { both: 1 });
    expect(output.buses.every(({ left }) => left.every((sample) => sample === 0))).toBe(true);
    strips.reset(1, now);
    const silent = block(1, { both: 1 });
    expect(ends(silent)).toEqual([0, 0]);
    expect(output.buses.map(ends)).toEqual(Array.from({ length: BUSES }, () => [0, 0]));
    strips.setLevel(1, 0, 0, now);
    strips.wake(1, now);
    const after = block(1, { both: 1 });
    for (const i of [0, BLOCK - 1]) {
      expect(after.left[i]).toBeCloseTo(1, 6);
      expect(after.right[i]).toBeCloseTo(1, 6);
    }
    expect(output.buses.map(ends)).toEqual(Array.from({ length: BUSES }, () => [0, 0]));
  });
});
