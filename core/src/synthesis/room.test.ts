import { describe, expect, it } from 'vitest';
import { renderRoom } from './room.js';

const RATE = 48000;
const [left, right] = renderRoom(RATE, 2, 4);
const power = (samples: Float32Array, from: number, to: number) => {
  let sum = 0;
  for (let i = Math.round(from * RATE); i < to * RATE; i++) sum += samples[i] * samples[i];
  return sum;
};

describe('the room of the reverb', () => {
  it('gives back as much power as it takes, on both sides alike', () => {
    expect(power(left, 0, 2)).toBeCloseTo(1, 3);
    expect(power(right, 0, 2)).toBeCloseTo(1, 3);
  });

  it('dies away steadily and is all but gone at its end', () => {
    const tenths = Array.from({ length: 18 }, (_, i) => power(left, 0.1 + i * 0.1, 0.2 + i * 0.1));
    for (let i = 1; i < tenths.length; i++) expect(tenths[i]).toBeLessThan(tenths[i - 1]);
    const fallen = 10 * Math.log10(tenths[17] / tenths[0]);
    expect(fallen).toBeLessThan(-45);
  });

  it('is wide: the two sides have little in common', () => {
    let common = 0;
    for (let i = 0; i < left.length; i++) common += left[i] * right[i];
    expect(Math.abs(common)).toBeLessThan(0.15);
  });

  it('is the same room every time', () => {
    expect(renderRoom(RATE, 0.2, 4)[0]).toEqual(renderRoom(RATE, 0.2, 4)[0]);
    expect(renderRoom(RATE, 0.2, 5)[0]).not.toEqual(renderRoom(RATE, 0.2, 4)[0]);
  });
});
