import { describe, expect, it } from 'vitest';
import { differencesOf } from './differences.js';
import { newCue } from './show/cue.js';
import { newShow, songEntry } from './show/show.js';

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

  it('names places, layers and treatments where there is only an id', () => {
    const cue = {
      ...newCue('c', 's', 0, 'lift', 'p'),
      balance: { 'x-1': { level: -4 } },
      treatments: { 'y-1': true },
    };
    const other = { ...cue, atSeconds: 90, balance: { 'x-1': { level: -9 } }, treatments: {} };
    expect(differencesOf(cue, other)).toEqual([
      { what: 'time', mine: '0:00', theirs: '1:30' },
      { what: 'balance · a layer · level', mine: '−4.0 dB', theirs: '−9.0 dB' },
      { what: 'treatments · a treatment', mine: 'yes', theirs: '—' },
    ]);
    const show = { ...newShow('s', 'S', '2027-01-01', 'r'), order: [songEntry('e', 'one')] };
    const tonight = { leftOut: ['a', 'b'], tempo: 90 };
    const night = { ...show, order: [{ ...show.order[0], tonight }] };
    const changed = { ...night, order: [{ ...show.order[0], tonight: { leftOut: ['a'] } }] };
    expect(differencesOf(night, changed)).toEqual([
      { what: 'order · place 1 · tonight · cues left out', mine: '2', theirs: '1' },
      { what: 'order · place 1 · tonight · tempo', mine: '90 beats a minute', theirs: '—' },
    ]);
  });
});
