import { expect, it } from 'vitest';
import { newAccompanist, placedPattern } from '../patch/accompanist.js';
import { newLayer } from '../patch/layer.js';
import { newPatch, newPatchSound, patchSchema, type Patch } from '../patch/patch.js';
import { usualManner } from '../patch/tie.js';
import { bandFor, keptBandOf } from './band-elsewhere.js';
import { renewedPatch } from './carried-layers.js';

const bass = {
  ...newAccompanist('bass', 'Ebb bass', 'keys2'),
  ...{ layerIds: ['low'], patterns: [placedPattern('push', 'house-push', 41)] },
};
const patch: Patch = {
  ...newPatch('ebb', 'song', 0, 'Ebb'),
  sounds: [newPatchSound('round', 'house-bass'), newPatchSound('kit', 'house-kit')],
  layers: [newLayer('low', 'Ebb bass', 'round'), newLayer('beat', 'Drums', 'kit')],
  accompanists: [bass, { ...newAccompanist('drums', 'Drums', 'keys2'), layerIds: ['beat'] }],
  bandKeys: [
    {
      ...{ id: 'go', does: 'start', place: 'keys2', starters: 'notes', key: 50 },
      starts: { bass: 'push' },
    },
  ],
  controls: [
    {
      ...{ id: 'knob', place: 'pads1', message: { kind: 'knob', knob: 1 }, from: -1, to: 1 },
      target: { kind: 'accompanist', accompanistId: 'bass', setting: 'weight' },
      ...usualManner({ kind: 'knob', knob: 1 }),
    },
  ],
};
const kept = keptBandOf(patch, (id) => (id === 'round' ? 'basses' : 'drums and percussion'));
let count = 0;
const newId = () => `new-${++count}`;

it('goes into another patch with its sounds: by name, else by kind, else without', () => {
  const there = [
    { id: 'piano', name: 'Piano', category: 'pianos' as const },
    { id: 'keel', name: 'Keel', category: 'basses' as const },
    { id: 'other', name: 'drums', category: null },
  ];
  const { accompanists, bandKeys, controls } = bandFor(kept, there, newId);
  expect(accompanists.map(({ layerIds }) => layerIds)).toEqual([['keel'], ['other']]);
  expect(bandFor(kept, there.slice(0, 1), newId).accompanists[0].layerIds).toEqual([]);
  // What points to one another still does, by ids that are nobody else’s.
  const [{ id, patterns }] = accompanists;
  expect(bandKeys[0].starts).toEqual({ [id]: patterns[0].id });
  expect(controls[0].target).toMatchObject({ accompanistId: id });
  expect(
    [id, patterns[0].id, bandKeys[0].id, controls[0].id].every((one) => one.startsWith('new-')),
  ).toBe(true);
});

it('of a whole kept patch is moved by its own controls', () => {
  const place = { id: 'copy', songId: 'song', position: 1, name: 'Copy' };
  const copy = renewedPatch(patch, place, new Set(['keys2']), newId);
  expect(patchSchema.parse(copy)).toEqual(copy);
  expect(copy.controls[0].target).toMatchObject({ accompanistId: copy.accompanists[0].id });
});
