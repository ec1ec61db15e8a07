import { describe, expect, it } from 'vitest';
import { differencesOf } from './differences.js';

describe('differences of two versions', () => {
  const bass = { name: 'Bass', level: -4, keys: { low: 28, high: 54 } };
  const mine = { name: 'Verse', layers: [bass, { ...bass, name: 'Piano' }] };

  it('are named by their parts, lists by the names in them', () => {
    const theirs = {
      name: 'Chorus',
      layers: [{ ...bass, keys: { low: 28, high: 59 } }, mine.layers[1]],
    };
    expect(differencesOf(mine, theirs)).toEqual([
      { what: 'name', mine: 'Verse', theirs: 'Chorus' },
      { what: 'layers · Bass · keys · high', mine: '54', theirs: '59' },
    ]);
  });

  it('tell what one of them lacks', () => {
    expect(differencesOf(mine, { ...mine, layers: [bass] })).toEqual([
      { what: 'layers · Piano', mine: 'Piano', theirs: '—' },
    ]);
  });

  it('are none between things that are alike', () => {
    expect(differencesOf(mine, structuredClone(mine))).toEqual([]);
  });
});
