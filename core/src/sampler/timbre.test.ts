import { describe, expect, it } from 'vitest';
import { attackSeconds, brightnessFactor, releaseSeconds } from './timbre.js';

const voicing = { attack: 0.02, release: 0.4, dynamics: 20, brightness: 4000, darkening: 1 };

describe('a timbre', () => {
  it('leaves a sound as it is at 0', () => {
    expect(attackSeconds(voicing, { attack: 0 })).toBe(0.02);
    expect(releaseSeconds(voicing, { release: 0 })).toBe(0.4);
    expect(brightnessFactor(0)).toBe(1);
  });

  it('shortens the attack down to a sixteenth', () => {
    expect(attackSeconds(voicing, { attack: -1 })).toBeCloseTo(0.02 / 16, 12);
    expect(attackSeconds(voicing, { attack: -0.5 })).toBeCloseTo(0.02 / 4, 12);
  });

  it('adds up to two seconds to the attack, slowly at first', () => {
    expect(attackSeconds(voicing, { attack: 1 })).toBeCloseTo(2.02, 12);
    expect(attackSeconds(voicing, { attack: 0.5 })).toBeCloseTo(0.52, 12);
    expect(attackSeconds(voicing, { attack: 0.1 })).toBeCloseTo(0.04, 12);
  });

  it('makes the release an eighth to eight times as long', () => {
    expect(releaseSeconds(voicing, { release: 1 })).toBeCloseTo(3.2, 12);
    expect(releaseSeconds(voicing, { release: -1 })).toBeCloseTo(0.05, 12);
  });

  it('opens and closes the low-pass by three octaves', () => {
    expect(brightnessFactor(1)).toBe(8);
    expect(brightnessFactor(-1 / 3)).toBeCloseTo(0.5, 12);
  });
});
