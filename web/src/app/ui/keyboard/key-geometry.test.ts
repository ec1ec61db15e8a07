import { describe, expect, it } from 'vitest';
import { keyAt, keyShapes } from './key-geometry';

describe('where keys lie', () => {
  it('fills the whole width with white keys, without gap or overlap', () => {
    for (const [low, high] of [
      [21, 108],
      [28, 103],
      [36, 96],
    ]) {
      const white = keyShapes(low, high).filter((k) => !k.black);
      expect(white[0].left).toBe(0);
      expect(white.at(-1)?.right).toBe(high - low + 1);
      for (let i = 1; i < white.length; i++)
        expect(white[i].left).toBeCloseTo(white[i - 1].right, 9);
    }
  });

  it('lays every black key over the joint of its neighbours', () => {
    const shapes = keyShapes(21, 108);
    for (const black of shapes.filter((k) => k.black)) {
      const below = shapes.find((k) => k.key === black.key - 1);
      expect(below && below.right > black.left && below.right < black.right).toBe(true);
    }
  });

  it('finds the key under a hand: black ones at the back, white ones in front', () => {
    expect(keyAt(60, 72, 1.5, 0.2)).toBe(61);
    expect(keyAt(60, 72, 1.5, 0.9)).toBe(60);
    expect(keyAt(60, 72, 12.9, 0.9)).toBe(72);
    expect(keyAt(60, 72, 13, 0.5)).toBeNull();
    expect(keyAt(60, 72, -0.1, 0.5)).toBeNull();
  });
});
