import { keyRangeSchema } from '@pentachord/core/range';
import { describe, expect, it } from 'vitest';
import {
  boxOf,
  contours,
  keyBoundaryAt,
  keyUnder,
  velocityBoundaryAt,
  xOfKey,
  yOfVelocity,
  type FieldScale,
} from './field-geometry';

const scale: FieldScale = {
  ground: { keys: { low: 28, high: 103 }, velocities: { low: 1, high: 127 } },
  width: 760,
  height: 254,
};

describe('the field’s scale', () => {
  it('finds under the hand the boundary that it drew there, and the nearest one beside it', () => {
    for (let key = 28; key <= 104; key++) {
      expect(keyBoundaryAt(scale, xOfKey(scale, key))).toBe(key);
      expect(keyBoundaryAt(scale, xOfKey(scale, key) + 4)).toBe(key);
    }
    for (let v = 1; v <= 128; v++) expect(velocityBoundaryAt(scale, yOfVelocity(scale, v))).toBe(v);
    expect([keyBoundaryAt(scale, -5000), keyBoundaryAt(scale, 5000)]).toEqual([0, 128]);
    expect([velocityBoundaryAt(scale, -50), velocityBoundaryAt(scale, 900)]).toEqual([128, 1]);
  });

  it('knows the column under the hand', () => {
    for (let key = 28; key <= 103; key++) expect(keyUnder(scale, xOfKey(scale, key) + 1)).toBe(key);
    expect([keyUnder(scale, -9), keyUnder(scale, 9999)]).toEqual([28, 103]);
  });

  it('cuts territories at the edges, and leaves out what is not on the field', () => {
    const velocities = { low: 1, high: 127 };
    expect(boxOf(scale, { keys: { low: 0, high: 127 }, velocities })).toEqual({
      x: 0,
      y: 0,
      width: 760,
      height: 254,
    });
    expect(boxOf(scale, { keys: { low: 110, high: 127 }, velocities })).toBeNull();
  });

  it('draws contours inside the fade, climbing with the level', () => {
    const range = keyRangeSchema.parse({ low: 60, high: 90, fadeIn: 12, fadeOut: 0 });
    const lines = contours(range);
    expect(lines).toHaveLength(3);
    expect(lines[0]).toBeGreaterThan(60);
    expect(lines[0]).toBeLessThan(lines[1]);
    expect(lines[2]).toBeLessThan(72);
  });
});
