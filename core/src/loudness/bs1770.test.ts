import { describe, expect, it } from 'vitest';
import { integratedLoudness, kWeighted, kWeighting, lufsOf, momentaryMaximum } from './bs1770.js';

const RATE = 8000;

/** A sine of stretches [dBFS, seconds] at 1 kHz. */
function tone(stretches: [level: number, seconds: number][], sampleRate = RATE): Float32Array {
  const levels = stretches.flatMap(([level, seconds]) =>
    Array.from({ length: Math.round(seconds * sampleRate) }, () => 10 ** (level / 20)),
  );
  return Float32Array.from(
    levels,
    (level, i) => level * Math.sin((2 * Math.PI * 1000 * i) / sampleRate),
  );
}
const both = (samples: Float32Array) => ({ left: samples, right: samples, sampleRate: RATE });

describe('the K weighting', () => {
  it('is the one that the recommendation tabulates, in every coefficient', () => {
    const [shelf, highPass] = kWeighting(48_000);
    const tabulated = {
      b0: 1.53512485958697,
      b1: -2.69169618940638,
      b2: 1.19839281085285,
      a1: -1.69065929318241,
      a2: 0.73248077421585,
    };
    for (const name of ['b0', 'b1', 'b2', 'a1', 'a2'] as const)
      expect(shelf[name]).toBeCloseTo(tabulated[name], 8);
    expect([highPass.b0, highPass.b1, highPass.b2]).toEqual([1, -2, 1]);
  });

  it('answers an impulse as its two filters say, one after the other', () => {
    const [shelf, highPass] = kWeighting(48_000);
    const impulse = new Float32Array(6);
    impulse[0] = 1;
    const filter = (x: readonly number[], { b0, b1, b2, a1, a2 }: typeof shelf) => {
      const y: number[] = [];
      for (let i = 0; i < x.length; i++)
        y.push(
          b0 * x[i] +
            b1 * (x[i - 1] ?? 0) +
            b2 * (x[i - 2] ?? 0) -
            a1 * (y[i - 1] ?? 0) -
            a2 * (y[i - 2] ?? 0),
        );
      return y;
    };
    const expected = filter(filter([...impulse], shelf), highPass);
    kWeighted(impulse, 48_000).forEach((value, i) => expect(value).toBeCloseTo(expected[i], 12));
  });
});

describe('a whole signal', () => {
  it('counts both channels, each by itself', () => {
    const left = tone([[-20, 2]]);
    const silent = new Float32Array(left.length);
    const one = integratedLoudness({ left, right: silent, sampleRate: RATE });
    expect(integratedLoudness(both(left)) - one).toBeCloseTo(10 * Math.log10(2), 6);
    expect(integratedLoudness({ left: silent, right: left, sampleRate: RATE })).toBeCloseTo(one, 9);
  });

  it('is heard even if it is shorter than a block, and nothing is −∞', () => {
    const short = both(tone([[-20, 0.2]]));
    expect(integratedLoudness(short)).toBeCloseTo(momentaryMaximum(short), 9);
    expect(Math.abs(integratedLoudness(short) + 20)).toBeLessThan(1);
    expect(integratedLoudness(both(new Float32Array(0)))).toBe(-Infinity);
    expect(momentaryMaximum(both(new Float32Array(0)))).toBe(-Infinity);
  });

  it('counts its last block, and blocks that overlap by three quarters', () => {
    // One block of silence, one of sound: five blocks in all, of which four have some of the sound.
    const signal = both(tone([[-200, 0.4]].concat([[-20, 0.4]]) as [number, number][]));
    const full = 10 ** (momentaryMaximum(signal) / 10);
    const expected = 10 * Math.log10((full * (0.25 + 0.5 + 0.75 + 1)) / 4);
    expect(integratedLoudness(signal)).toBeCloseTo(expected, 1);
  });

  it('leaves out what is 10 LU below the mean, and below −70 LUFS', () => {
    const loud = integratedLoudness(both(tone([[-20, 4]])));
    expect(
      integratedLoudness(
        both(
          tone([
            [-20, 4],
            [-45, 40],
          ]),
        ),
      ),
    ).toBeCloseTo(loud, 0);
    const near = integratedLoudness(
      both(
        tone([
          [-20, 4],
          [-26, 40],
        ]),
      ),
    );
    expect(near).toBeLessThan(loud - 3);
    expect(integratedLoudness(both(tone([[-72, 2]])))).toBe(-Infinity);
    expect(integratedLoudness(both(tone([[-68, 2]])))).toBeGreaterThan(-70);
  });
});

describe('the loudest 400 ms', () => {
  it('are measured over 400 ms even where a sound is shorter', () => {
    const long = momentaryMaximum(both(tone([[-20, 1]])));
    const padded = new Float32Array(RATE);
    padded.set(tone([[-20, 0.1]]), 3000);
    expect(momentaryMaximum(both(padded))).toBeCloseTo(long - 6.02, 0);
    expect(lufsOf(0)).toBe(-Infinity);
    expect(lufsOf(-1e-18)).toBe(-Infinity);
    expect(lufsOf(1)).toBeCloseTo(-0.691, 9);
  });

  it('are the loudest, not the last and not the first', () => {
    const peak = momentaryMaximum(both(tone([[-10, 1]])));
    const between = tone([
      [-30, 1],
      [-10, 0.6],
      [-30, 1],
    ]);
    expect(momentaryMaximum(both(between))).toBeCloseTo(peak, 1);
    expect(momentaryMaximum(both(between.slice(0, between.length - RATE)))).toBeCloseTo(peak, 1);
  });
});
