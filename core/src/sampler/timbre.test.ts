import { describe, expect, it } from 'vitest';
import { RECORD, START } from './command-ring.js';
import { strike } from './strike.js';
import { attackSeconds, brightnessFactor, releaseSeconds } from './timbre.js';
import { newVoiceStart } from './voice-start.js';

const voicing = { attack: 0.02, release: 0.4, dynamics: 20, brightness: 4000, darkening: 1 };

describe('a timbre', () => {
  it('leaves a sound as it is at 0', () => {
    expect(attackSeconds(voicing, 0)).toBe(0.02);
    expect(releaseSeconds(voicing, 0)).toBe(0.4);
    expect(brightnessFactor(0)).toBe(1);
  });

  it('shortens the attack down to a sixteenth', () => {
    expect(attackSeconds(voicing, -1)).toBeCloseTo(0.02 / 16, 12);
    expect(attackSeconds(voicing, -0.5)).toBeCloseTo(0.02 / 4, 12);
  });

  it('adds up to two seconds to the attack, slowly at first', () => {
    expect(attackSeconds(voicing, 1)).toBeCloseTo(2.02, 12);
    expect(attackSeconds(voicing, 0.5)).toBeCloseTo(0.52, 12);
    expect(attackSeconds(voicing, 0.1)).toBeCloseTo(0.04, 12);
  });

  it('makes the release an eighth to eight times as long', () => {
    expect(releaseSeconds(voicing, 1)).toBeCloseTo(3.2, 12);
    expect(releaseSeconds(voicing, -1)).toBeCloseTo(0.05, 12);
  });

  it('opens and closes the low-pass by three octaves', () => {
    expect(brightnessFactor(1)).toBe(8);
    expect(brightnessFactor(-1 / 3)).toBeCloseTo(0.5, 12);
  });
});

describe('a struck voice', () => {
  const zone = {
    ...{ rootKey: 60, keys: { low: 0, high: 127 }, velocities: { low: 1, high: 127 } },
    ...{ sampleRate: 48_000, left: new Float32Array(1), right: new Float32Array(1) },
    ...{ loopStart: -1, loopEnd: -1, loopDecay: 6 },
  };
  const struck = (velocity: number, gain: number, own = voicing, slower = 0) => {
    const start = newVoiceStart();
    const record = new Float64Array(RECORD);
    record[START.note] = 72;
    record[START.velocity] = velocity;
    record[START.gain] = gain;
    const timbre = new Float64Array([slower]);
    strike(start, record, own, zone, { attack: timbre, release: timbre }, 48_000);
    return start;
  };

  it('is as strong and as bright as its velocity makes it', () => {
    expect(struck(127, 0.5)).toMatchObject({
      ...{ gain: 0.5, step: 2, attackFrames: 960, releaseFrames: 19_200, cutoff: 4000 },
      loopFall: expect.closeTo(10 ** (-6 / 20 / 48_000), 12) as number,
    });
    const half = struck(63.5, 1);
    expect(20 * Math.log10(half.gain)).toBeCloseTo(-10, 9);
    expect(half.cutoff).toBeCloseTo(4000 / Math.SQRT2, 9);
  });

  it('is never silent, however soft', () => {
    const softest = struck(1, 1, { ...voicing, dynamics: 200 });
    expect(20 * Math.log10(softest.gain)).toBeCloseTo(-59, 9);
  });

  it('has the attack and release of its timbre', () => {
    const slow = struck(127, 1, voicing, 1);
    expect([slow.attackFrames, slow.releaseFrames]).toEqual([
      expect.closeTo(48 * 2020, 6),
      expect.closeTo(48 * 3200, 6),
    ]);
  });
});
