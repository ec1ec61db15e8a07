import { describe, expect, it } from 'vitest';
import type { Keepsake } from '../model/library/keepsake.js';
import { carriedFrom, renewed, renewedPatch } from '../model/library/carried-layers.js';
import { newPatchSound, patchSchema } from '../model/patch/patch.js';
import { usualManner } from '../model/patch/tie.js';
import type { Sound, SoundCategory } from '../model/library/sound.js';
import type { Place } from '../model/rig/place.js';
import { newTreatment } from '../model/patch/treatment.js';
import { layer, patchOf } from '../testing/fixtures.js';
import { EVERYTHING, searchShelf, shelf } from './shelf.js';

const sound = (name: string, category: SoundCategory, more: Partial<Sound> = {}): Sound => ({
  id: name.toLowerCase().replaceAll(' ', '-'),
  name,
  category,
  tags: [],
  favourite: false,
  origin: { kind: 'house', recipe: 'r' },
  lowestNote: 0,
  highestNote: 127,
  ...more,
});
const sounds = new Map(
  [
    sound('Felt piano', 'pianos', { tags: ['soft', 'muffled'] }),
    sound('Tine piano', 'electric pianos', { favourite: true }),
    sound('Warm pad', 'strings and pads', { tags: ['soft', 'slow'] }),
    sound('Pianissimo choir', 'strings and pads'),
  ].map((s) => [s.id, s]),
);
const kept: Keepsake = {
  id: 'kept',
  name: 'Dug-in tine',
  favourite: false,
  content: {
    kind: 'layer',
    sound: newPatchSound('tine', 'tine-piano'),
    layer: layer('left', { soundId: 'tine' }),
    ...{ treatments: [], controls: [], choosers: [] },
  },
};
const items = shelf(sounds, [kept], new Map([['warm-pad', 3]]));
const names = (search: Partial<typeof EVERYTHING>) =>
  searchShelf(items, { ...EVERYTHING, ...search }).map((item) => item.name);

describe('looking for a sound', () => {
  it('offers the most used first, then favourites, then in the order of the shelves', () => {
    expect(names({})).toEqual([
      'Warm pad',
      'Tine piano',
      'Felt piano',
      'Dug-in tine',
      'Pianissimo choir',
    ]);
  });

  it('finds parts of words in name, category and tags, in any order', () => {
    expect(names({ words: 'pad soft' })).toEqual(['Warm pad']);
    expect(names({ words: 'ELECTRIC' })).toEqual(['Tine piano', 'Dug-in tine']);
    expect(names({ words: 'kept' })).toEqual(['Dug-in tine']);
    expect(names({ words: 'tròmbone' })).toEqual([]);
  });

  it.each([
    ['warm', ['Warm pad', 'Felt piano']],
    ['quiet', ['Warm pad', 'Felt piano']],
    ['slow piano', []],
    ['keys muff', ['Felt piano']],
  ])('knows plain words for what the shelves call otherwise: %s', (words, expected) => {
    expect(names({ words })).toEqual(expected);
  });

  it('puts names that begin with what was typed before the others', () => {
    expect(names({ words: 'piani' })[0]).toBe('Pianissimo choir');
    expect(names({ words: 'pian' })[0]).toBe('Pianissimo choir');
  });

  it('filters by category, favourites and what was kept', () => {
    expect(names({ category: 'strings and pads' })).toEqual(['Warm pad', 'Pianissimo choir']);
    expect(names({ favouritesOnly: true })).toEqual(['Tine piano']);
    expect(names({ keptOnly: true })).toEqual(['Dug-in tine']);
  });

  it('still shows what was kept when its sound is gone', () => {
    const [orphan] = shelf(new Map(), [kept], new Map());
    expect([orphan.sound, orphan.category]).toEqual([null, null]);
  });
});

describe('what is carried from one patch to another', () => {
  let count = 0;
  const newId = () => `new-${++count}`;
  const here = new Set<Place>(['keys1']);
  const patch = {
    ...patchOf([
      layer('a', { soundId: 'tine', keyboards: ['keys1', 'keys9'] }),
      layer('b', { soundId: 'tine', keyboards: ['keys9'] }),
      layer('c'),
    ]),
    treatments: [newTreatment('restrike', 'r', ['a', 'b'])],
    controls: [
      {
        id: 'wheel',
        place: 'keys1' as const,
        message: { kind: 'controller' as const, controller: 1 },
        target: { kind: 'layer' as const, layerId: 'b', parameter: 'level' as const },
        ...{ from: -60, to: 0 },
        ...usualManner({ kind: 'controller', controller: 1 }),
      },
    ],
  };

  it('keeps sharing, gets ids of its own, and hears any keyboard where its own is not there', () => {
    const carried = carriedFrom(patch, new Set(['b', 'a']));
    expect(carried.sounds.map((s) => s.id)).toEqual(['tine']);
    const { sounds: taken, layers } = renewed(carried, here, newId);
    expect(layers.map((l) => l.soundId)).toEqual([taken[0].id, taken[0].id]);
    expect(layers.map((l) => l.keyboards)).toEqual([['keys1'], 'any']);
    expect(new Set([...layers, ...taken].map(({ id }) => id)).size).toBe(3);
    expect(carried.layers[0].id).toBe('a');
  });

  it('takes choosers along that still have something to pick, for the layers that it becomes', () => {
    const chooser = (id: string, ...choices: string[][]) => ({
      ...{ id, name: id, chosen: 0, controls: [] as never[] },
      choices: choices.map((layerIds, at) => ({ name: `choice ${at}`, layerIds })),
    });
    const choosers = [chooser('both', ['a', 'c'], ['b']), chooser('one', ['a'], ['c'])];
    const carried = carriedFrom({ ...patch, choosers }, new Set(['a', 'b']));
    expect(carried.choosers.map(({ id }) => id)).toEqual(['both']);
    const taken = renewed(carried, here, newId);
    expect(taken.choosers[0].choices.map(({ layerIds }) => layerIds)).toEqual([
      [taken.layers[0].id],
      [taken.layers[1].id],
    ]);
    expect(taken.choosers[0].id).not.toBe('both');
  });

  it('takes a whole patch with its treatments and controls', () => {
    const place = { id: 'copy', songId: 'other', position: 2, name: 'Copy' };
    const copy = patchSchema.parse(renewedPatch(patch, place, here, newId));
    const [first, second] = copy.layers;
    expect(copy.treatments[0].layerIds).toEqual([first.id, second.id]);
    expect(copy.controls[0].target).toEqual({
      kind: 'layer',
      layerId: second.id,
      parameter: 'level',
    });
    expect(first.soundId).toBe(second.soundId);
    const old = new Set([...patch.layers, ...patch.sounds].map(({ id }) => id));
    expect(copy.layers.some(({ id }) => old.has(id))).toBe(false);
  });
});
