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
      { what: 'layers · Bass · keys · highest', mine: 'F♯3', theirs: 'B3' },
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

  it('tell of ids only that they differ, and of a thing’s own nothing', () => {
    const layer = { id: 'a', name: 'Bass', soundId: '5d1f' };
    const other = { id: 'b', name: 'Bass', soundId: '77aa' };
    expect(differencesOf({ layers: [layer] }, { layers: [other] })).toEqual([
      { what: 'layers · Bass · sound', mine: 'one', theirs: 'another' },
    ]);
  });

  it('are told in a player’s units', () => {
    const key = { tonic: 4, spelling: 'usual', mode: 'major' };
    const song = {
      layers: [{ name: 'Bass', level: -4, pan: 0, muted: false, sends: { reverb: -18 } }],
      fadeSeconds: 1.5,
      lengthSeconds: 260,
      fingered: key,
    };
    const other = {
      layers: [{ name: 'Bass', level: -9.5, pan: -0.3, muted: true, sends: { reverb: -60 } }],
      fadeSeconds: 2,
      lengthSeconds: 255,
      fingered: { ...key, tonic: 3 },
    };
    expect(
      differencesOf(song, other).map(({ what, mine, theirs }) => [what, mine, theirs]),
    ).toEqual([
      ['layers · Bass · level', '−4.0 dB', '−9.5 dB'],
      ['layers · Bass · pan', 'centre', '30 % left'],
      ['layers · Bass · muted', 'no', 'yes'],
      ['layers · Bass · sends · reverb', '−18.0 dB', '−∞ dB'],
      ['fade', '1.5 s', '2 s'],
      ['length', '4:20', '4:15'],
      ['fingered', 'E', 'E♭'],
    ]);
  });
});
