import type { Patch, Saved, ShowDocument, Sound } from '@pentachord/core/model';
import { newLayer } from '@pentachord/core/model';
import { combineReducers } from '@ngrx/store';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { edits, type Edit } from './document';
import { history, undoable } from './history';
import { loading } from './loading';
import { conflictChoice, reducers, type AppState } from './reducers';
import { saving, thingKey, unsavedThings } from './saving';
import { selectSavingState, selectUnsaved } from './selectors';

const reduce = conflictChoice(undoable(combineReducers(reducers)));

const patch: Patch = {
  id: 'patch',
  songId: 'song',
  position: 0,
  name: 'A patch',
  sounds: [
    { id: 'piano', librarySoundId: 'house-felt-piano', polyphony: 'many' },
    { id: 'bells', librarySoundId: 'house-glass-bells', polyphony: 'many' },
  ],
  layers: [newLayer('a', 'Piano', 'piano'), newLayer('b', 'Bells', 'bells')],
};
const saved = <T>(value: T): Saved<T> => ({ revision: 3, value });
const document: ShowDocument = {
  show: saved({
    id: 'show',
    name: 'A show',
    date: '2027-01-01',
    place: '',
    slotSeconds: 0,
    defaultFadeSeconds: 1,
    heldNotes: 'finish',
    middleC: 4,
    order: [],
    controls: [],
  }),
  devices: [],
  songs: [],
  patches: [saved(patch)],
  cues: [],
};
const sounds = ['house-felt-piano', 'house-glass-bells'].map((id) =>
  saved({
    id,
    name: id,
    category: 'pianos',
    tags: [],
    favourite: false,
    origin: { kind: 'house', recipe: id },
    lowestNote: 0,
    highestNote: 127,
  } satisfies Sound),
);

function opened(): AppState {
  return reduce(reduce(undefined, { type: 'start' }), loading.loaded({ document, sounds }));
}
const patchIn = (state: AppState) => state.document.things.patches['patch'];
const level = (value: number, gesture?: string) =>
  edits.layerChanged({ patchId: 'patch', layerId: 'a', changes: { level: value }, gesture });

describe('undo', () => {
  it('takes a gesture back as one step, and separate changes one by one', () => {
    let state = opened();
    for (const [value, gesture] of [
      [-1, 'drag'],
      [-2, 'drag'],
      [-3, 'drag'],
      [-9, 'other'],
    ] as const)
      state = reduce(state, level(value, gesture));
    state = reduce(state, history.undo());
    expect(patchIn(state).layers[0].level).toBe(-3);
    state = reduce(state, history.undo());
    expect(patchIn(state).layers[0].level).toBe(-6);
    state = reduce(state, history.redo());
    expect(patchIn(state).layers[0].level).toBe(-3);
    state = reduce(state, level(-4, 'drag'));
    expect(state.history.past).toHaveLength(2);
    expect(state.history.future).toHaveLength(0);
  });

  it('comes back exactly to where it was, whatever was done', () => {
    const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
      fc
        .record({
          layerId: fc.constantFrom('a', 'b', 'c', 'gone'),
          value: fc.integer({ min: -60, max: 12 }),
        })
        .map(({ layerId, value }) =>
          edits.layerChanged({ patchId: 'patch', layerId, changes: { level: value } }),
        ),
      fc.constant(
        edits.layerAdded({
          patchId: 'patch',
          layerId: 'c',
          patchSoundId: 'new',
          librarySoundId: 'house-felt-piano',
          keyboardId: null,
        }),
      ),
      fc
        .constantFrom('a', 'b', 'c')
        .map((layerId) => edits.layerRemoved({ patchId: 'patch', layerId })),
      fc
        .tuple(fc.constantFrom('a', 'b'), fc.integer({ min: -2, max: 5 }))
        .map(([layerId, to]) => edits.layerMoved({ patchId: 'patch', layerId, to })),
      fc.constant(
        edits.soundSwapped({
          patchId: 'patch',
          layerId: 'a',
          patchSoundId: 'swapped',
          librarySoundId: 'house-glass-bells',
        }),
      ),
      fc.constant(edits.patchRenamed({ patchId: 'patch', name: 'Renamed' })),
    );
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 20 }), (many) => {
        let state = opened();
        for (const edit of many) state = reduce(state, edit);
        const done = patchIn(state);
        for (const layer of done.layers)
          expect(done.sounds.some((sound) => sound.id === layer.soundId)).toBe(true);
        const steps = state.history.past.length;
        for (let i = 0; i < steps; i++) state = reduce(state, history.undo());
        expect(patchIn(state)).toEqual(patch);
        for (let i = 0; i < steps; i++) state = reduce(state, history.redo());
        expect(patchIn(state)).toEqual(done);
      }),
    );
  });

  it('knows nothing to undo at either end, and nothing of edits that change nothing', () => {
    const state = opened();
    expect(reduce(state, history.undo())).toBe(state);
    expect(reduce(state, history.redo())).toBe(state);
    expect(reduce(state, level(-6))).toBe(state);
  });
});

describe('layers', () => {
  it('keep everything but the sound when it is swapped, and drop a sound nobody plays', () => {
    const swapped = reduce(
      opened(),
      edits.soundSwapped({
        patchId: 'patch',
        layerId: 'a',
        patchSoundId: 'x',
        librarySoundId: 'house-glass-bells',
      }),
    );
    const { layers, sounds: used } = patchIn(swapped);
    expect(layers[0]).toEqual({ ...patch.layers[0], soundId: 'x' });
    expect(used.map((s) => s.id)).toEqual(['bells', 'x']);
  });

  it('share their sound with their copy', () => {
    const state = reduce(
      opened(),
      edits.layerDuplicated({ patchId: 'patch', layerId: 'a', copyId: 'c' }),
    );
    const { layers, sounds: used } = patchIn(state);
    expect(layers.map((l) => [l.id, l.name, l.soundId])).toEqual([
      ['a', 'Piano', 'piano'],
      ['c', 'Piano copy', 'piano'],
      ['b', 'Bells', 'bells'],
    ]);
    expect(used).toHaveLength(2);
  });
});

describe('saving', () => {
  it('finds what differs from the server, with the revision it was made from', () => {
    const state = opened();
    expect(selectUnsaved(state)).toEqual([]);
    const edited = reduce(state, level(-9));
    expect(selectUnsaved(edited)).toEqual([
      { kind: 'patches', id: 'patch', revision: 3, value: patchIn(edited) },
    ]);
    expect(selectSavingState(edited).state).toBe('saving');
    const sent = { revision: 3, value: patchIn(edited) };
    const answered = reduce(
      edited,
      saving.done({ kind: 'patches', id: 'patch', sent, revision: 4 }),
    );
    expect(selectUnsaved(answered)).toEqual([]);
    expect(selectSavingState(answered).state).toBe('saved');
  });

  it('notices a change made while a save was on its way', () => {
    const edited = reduce(opened(), level(-9));
    const sent = { revision: 3, value: patchIn(edited) };
    const again = reduce(edited, level(-10));
    const answered = reduce(
      again,
      saving.done({ kind: 'patches', id: 'patch', sent, revision: 4 }),
    );
    expect(selectUnsaved(answered)).toMatchObject([
      { revision: 4, value: { layers: [{ level: -10 }, {}] } },
    ]);
  });

  it('creates parents before children and removes children before parents', () => {
    const { things } = opened().document;
    const key = { tonic: 0, spelling: 'usual', mode: 'major' } as const;
    const song = {
      id: 'song',
      showId: 'show',
      name: 'A song',
      lengthSeconds: 1,
      tempo: 100,
      metre: { beats: 4, unit: 4 },
      fingered: key,
      sounding: key,
    } as const;
    const withSong = { ...things, songs: { song } };
    expect(unsavedThings(withSong, {}).map((u) => u.kind)).toEqual([
      'sounds',
      'sounds',
      'songs',
      'patches',
      'shows',
    ]);
    const base = {
      [thingKey('songs', 'song')]: saved(song),
      [thingKey('patches', 'patch')]: saved(patch),
    };
    const gone = { ...things, patches: {}, songs: {}, shows: {}, sounds: {} };
    expect(unsavedThings(gone, base).map((u) => u.kind)).toEqual(['patches', 'songs']);
  });

  it('after a refusal keeps mine over the present revision, or takes theirs', () => {
    const mine = reduce(opened(), level(-9));
    const theirs = { revision: 8, value: { ...patch, name: 'Theirs' } };
    const refused = reduce(
      mine,
      saving.refused({ conflict: { kind: 'patches', id: 'patch', present: theirs } }),
    );
    expect(selectSavingState(refused).state).toBe('not saved');
    const kept = reduce(refused, saving.mineKept());
    expect(selectUnsaved(kept)).toMatchObject([{ revision: 8, value: { name: 'A patch' } }]);
    const taken = reduce(refused, saving.theirsTaken());
    expect(patchIn(taken)).toBe(theirs.value);
    expect(selectUnsaved(taken)).toEqual([]);
    const removed = reduce(
      mine,
      saving.refused({ conflict: { kind: 'patches', id: 'patch', present: null } }),
    );
    expect(reduce(removed, saving.theirsTaken()).document.things.patches).toEqual({});
    expect(selectUnsaved(reduce(removed, saving.mineKept()))).toMatchObject([{ revision: 0 }]);
  });
});
