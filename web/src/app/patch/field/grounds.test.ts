import type { Coverage } from '@pentachord/core/coverage';
import { describe, expect, it } from 'vitest';
import { groundsOf } from './grounds';

const ground = { keys: { low: 0, high: 99 }, velocities: { low: 1, high: 127 } };
const scale = { ground, width: 1000, height: 300 };
/** A field of which one layer more sounds on each tenth than on the one to its left. */
const covered: Coverage = {
  ground,
  cells: Array.from({ length: 10 }, (_, i) => ({
    keys: { low: i * 10, high: i * 10 + 9 },
    velocities: ground.velocities,
    layers: Array.from({ length: i }, (_, layer) => layer),
    starts: false,
  })),
  silent: [],
  keys: [],
};

describe('the grounds of a field', () => {
  it('bear two hatches at most, however many layers share them', () => {
    const drawn = groundsOf(scale, covered, new Set());
    expect(drawn.map(({ hatched }) => hatched.length)).toEqual([1, 2, 2, 2, 2, 2, 2, 2, 2]);
  });

  it('leave one hatch to the layer that is drawn plain, where it lies and only there', () => {
    const drawn = groundsOf(scale, covered, new Set([4]));
    // The fifth layer lies on the grounds from the fifth on.
    expect(drawn.map(({ hatched }) => hatched.length)).toEqual([1, 2, 2, 2, 1, 1, 1, 1, 1]);
    expect(drawn.some(({ hatched }) => hatched.includes(4))).toBe(false);
  });

  it('are named by the letters of all their layers from three on', () => {
    const letters = groundsOf(scale, covered, new Set([0])).map((drawn) => drawn.letters);
    expect(letters.slice(0, 4)).toEqual(['', '', 'A B C', 'A B C D']);
  });

  it('are left out where nothing sounds', () => {
    expect(groundsOf(scale, covered, new Set())[0].id).toBe('10 1');
  });
});
