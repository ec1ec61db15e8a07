import { describe, expect, it } from 'vitest';
import { keys, layer } from '../../testing/fixtures.js';
import { changedTogether } from './together.js';

const layers = [
  layer('a', { level: -6, transpose: 0 }),
  layer('b', { level: -20, transpose: 12 }),
  layer('c', { level: 10 }),
];
const all = new Set(['a', 'b', 'c']);

describe('changing several layers together', () => {
  it('moves levels, pans and transpositions by as much, within their limits', () => {
    expect(changedTogether(layers, all, 'a', { level: -2 })).toEqual({
      a: { level: -2 },
      b: { level: -16 },
      c: { level: 12 },
    });
    expect(changedTogether(layers, new Set(['a', 'b']), 'b', { transpose: 0 })).toEqual({
      a: { transpose: -12 },
      b: { transpose: 0 },
    });
  });

  it('makes everything else the same, but leaves names and ranges to each', () => {
    expect(changedTogether(layers, all, 'a', { muted: true })['c']).toEqual({ muted: true });
    expect(changedTogether(layers, all, 'a', { name: 'x', keys: keys(1, 2) })).toEqual({
      a: { name: 'x', keys: keys(1, 2) },
    });
  });

  it('changes only the one that is not among the selected, and nothing that is not there', () => {
    expect(changedTogether(layers, new Set(['b', 'c']), 'a', { level: 0 })).toEqual({
      a: { level: 0 },
    });
    expect(changedTogether(layers, all, 'gone', { level: 0 })).toEqual({});
  });
});
