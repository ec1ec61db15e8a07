import { describe, expect, it } from 'vitest';
import { newAccompanist, placedPattern, type Accompanist } from '../model/patch/accompanist.js';
import type { Patch } from '../model/patch/patch.js';
import type { Sound } from '../model/library/sound.js';
import { HOUSE_PATTERNS } from '../patterns/house/index.js';
import { compilePatch, compileRig } from '../routing/compile.js';
import { demoRig, keyboard, keys, layer, patchOf } from '../testing/fixtures.js';
import { coverage } from './coverage.js';
import { mendOf, withMend } from './mends.js';
import { remarks } from './remarks.js';

const patterns = new Map(HOUSE_PATTERNS.map((one) => [one.id, one]));
const [first] = demoRig;
const accompanist = (id: string, low: number, count: number, more: Partial<Accompanist> = {}) => ({
  ...newAccompanist(id, id, first.place),
  layerIds: ['a'],
  patterns: HOUSE_PATTERNS.slice(0, count).map((one, i) =>
    placedPattern(`${id}-${i}`, one.id, low + i),
  ),
  ...more,
});
function played(...accompanists: Accompanist[]) {
  const patch = { ...patchOf([layer('a', { keys: keys(60, 127) })]), accompanists };
  return compilePatch(patch, { rig: compileRig(demoRig), songShift: 0, patterns });
}
const said = (...accompanists: Accompanist[]) =>
  remarks(played(...accompanists), { devices: demoRig, sounds: new Map(), middleC: 4 })
    .filter(({ keyboardId }) => keyboardId === null || keyboardId === first.id)
    .map(({ text }) => text);

it('patterns that share a key, or lie beyond the keyboard, go to free keys by a mend', () => {
  const all = [accompanist('bass', 28, 3), accompanist('drums', 30, 2), accompanist('pad', 103, 3)];
  const patch = { ...patchOf([layer('a')]), accompanists: all };
  const told = (accompanists: Accompanist[]) =>
    remarks(played(...accompanists), { devices: demoRig, sounds: new Map(), middleC: 4 }).filter(
      ({ kind }) => kind === 'twoStarts' || kind === 'beyondRun',
    );
  let mended: Patch = patch;
  for (const remark of told(all)) {
    const mend = mendOf(remark, mended, demoRig);
    if (mend) mended = withMend(mended, mend);
  }
  expect(told(all).length).toBe(2);
  expect(told(mended.accompanists)).toEqual([]);
  const keysOf = mended.accompanists.map(({ patterns: those }) => those.map(({ key }) => key));
  expect(keysOf).toEqual([
    [28, 29, 30],
    [32, 31],
    [103, 33, 34],
  ]);
});

it('an accompanist that nothing is heard of, and pieces that its kit does not have, have their mends', () => {
  const drums = HOUSE_PATTERNS.filter(({ key }) => !key).slice(0, 1);
  const silent = {
    ...accompanist('drums', 28, 0),
    patterns: [placedPattern('d', drums[0].id, 28)],
  };
  const kit = Int8Array.from({ length: 128 }, (_, key) => (key === 36 ? 60 : -1));
  const told = (all: Accompanist[]) => {
    const patch = played(...all);
    const layers = patch.layers.map((one) => ({ ...one, kit, librarySoundId: 'kit' }));
    const sound = { id: 'kit', category: 'drums and percussion' } as Sound;
    return remarks(
      { ...patch, layers },
      { devices: demoRig, sounds: new Map([['kit', sound]]), middleC: 4 },
    ).filter(({ kind }) => kind === 'silentBand' || kind === 'missingPieces');
  };
  let all: Accompanist[] = [{ ...silent, layerIds: [] }];
  const words = [];
  for (let [remark] = told(all); remark; [remark] = told(all)) {
    const mend = mendOf(remark, { ...patchOf([layer('a')]), accompanists: all }, demoRig);
    if (!mend) break;
    words.push(remark.kind, mend.words);
    all = withMend({ ...patchOf([layer('a')]), accompanists: all }, mend).accompanists;
  }
  expect(words).toEqual(['silentBand', 'have it play a', 'missingPieces', 'leave them out']);
  expect(told(all)).toEqual([]);
});

describe('keys that start patterns', () => {
  it('are no silent ground, and belong to no layer', () => {
    expect(said()).toEqual(['32 silent keys: E1–B3']);
    expect(said(accompanist('bass', 28, 32))).toEqual([]);
    expect(said(accompanist('bass', 29, 3))).toEqual([
      '1 silent key: E1',
      '28 silent keys: A♭1–B3',
    ]);
    const { cells, keys: strip } = coverage(
      played(accompanist('bass', 62, 2, { stopKey: 64 })),
      keyboard(first.id),
    );
    expect(cells.filter(({ starts }) => starts)).toMatchObject([
      { keys: { low: 62, high: 64 }, layers: [] },
    ]);
    expect(strip.find(({ key }) => key === 61)).toMatchObject({ layers: [0], starts: false });
    expect(strip.find(({ key }) => key === 63)).toMatchObject({ layers: [], partlySilent: false });
  });

  it.each<[string, Accompanist[], RegExp]>([
    [
      'two on one key',
      [accompanist('bass', 28, 32), accompanist('drums', 30, 1)],
      /^F♯1 of .+ does two things: “.+” of bass, on the bar and “low tide” of drums, on the bar$/,
    ],
    [
      'a run beyond the keyboard',
      [accompanist('bass', 28, 32), accompanist('drums', 103, 3)],
      /^2 patterns of drums lie beyond the upper keys: half tide, springs$/,
    ],
    [
      'no layer',
      [accompanist('bass', 28, 32), accompanist('drums', 70, 1, { layerIds: [] })],
      /^drums plays no layer/,
    ],
  ])('are remarked on: %s', (_what, all, words) => {
    expect(said(...all)).toEqual([expect.stringMatching(words)]);
  });
});
