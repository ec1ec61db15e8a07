import {
  newAccompanist,
  newLayer,
  newPatch,
  newPatchSound,
  usualManner,
  type Patch,
  type Pattern,
  type Tie,
} from '@pentachord/core/model';
import { produce } from 'immer';
import { expect, it } from 'vitest';
import { EMPTY_DOCUMENT, type Things } from '../show/document';
import { carryOut } from './carrying-out';
import { edits, type Edit } from './edits';
import { libraryEdits } from './library-edits';

const bass = { ...newAccompanist('bass', 'Ebb bass', 'keys2'), layerIds: ['low', 'high'] };
const patch: Patch = {
  ...newPatch('ebb', 'song', 0, 'Ebb'),
  sounds: [newPatchSound('round', 'house-bass')],
  layers: [newLayer('low', 'Low', 'round'), newLayer('high', 'High', 'round')],
  accompanists: [bass],
};
const things: Things = { ...EMPTY_DOCUMENT.things, patches: { ebb: patch } };
const after = (...all: Edit[]): Things =>
  all.reduce((now, edit) => produce(now, (draft) => carryOut(draft, edit)), things);
const weight: Tie = {
  ...{ id: 'knob', place: 'pads1', message: { kind: 'knob', knob: 1 }, from: -1, to: 1 },
  target: { kind: 'accompanist', accompanistId: 'bass', setting: 'weight' },
  ...usualManner({ kind: 'knob', knob: 1 }),
};
const band = (accompanists: (typeof bass)[], controls?: Tie[]) =>
  edits.bandChanged({
    ...{ patchId: 'ebb', words: 'band', controls },
    band: { accompanists, bandKeys: [] },
  });

it('an accompanist plays no layer that is gone, and nothing moves one that is', () => {
  const [left] = after(edits.layersRemoved({ patchId: 'ebb', layerIds: ['high'] })).patches['ebb']
    .accompanists;
  expect(left.layerIds).toEqual(['low']);
  const tied = after(edits.controlTied({ patchId: 'ebb', control: weight }), band([bass]));
  expect(tied.patches['ebb'].controls).toEqual([weight]);
  expect(after(band([bass], [weight]), band([])).patches['ebb'].controls).toEqual([]);
});

it('a band that is taken brings its own controls instead of those that moved the one before', () => {
  const other = { ...weight, id: 'other', from: 0 };
  const { controls } = after(band([bass], [weight]), band([bass], [other])).patches['ebb'];
  expect(controls).toEqual([other]);
});

it('patterns come, are mended and go', () => {
  const pattern: Pattern = {
    ...{ id: 'walk', name: 'walk', category: 'basses', tags: [], favourite: false, length: 4 },
    ...{ metre: { beats: 4, unit: 4 }, tempo: 90, key: null, quantise: null, notes: [] },
  };
  const mended = { ...pattern, length: 8 };
  const added = libraryEdits.patternsAdded({ patterns: [pattern], words: 'added' });
  const saved = libraryEdits.patternSaved({ pattern: mended, words: 'longer' });
  expect(after(added, saved).patterns['walk']).toEqual(mended);
  const gone = libraryEdits.patternRemoved({ patternId: 'walk' });
  expect(after(added, gone).patterns).toEqual({});
});
