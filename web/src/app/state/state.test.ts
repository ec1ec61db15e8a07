import {
  MOST_LAYERS,
  newLayer,
  newRig,
  newPatch,
  newPatchSound,
  newShow,
  newSong,
  newTreatment,
  patchSchema,
  usualManner,
  type ControlTarget,
  type Patch,
  type Tie,
  type Saved,
  type Repertoire,
  type Sound,
} from '@pentachord/core/model';
import { splitEvenly } from '@pentachord/core/range';
import { combineReducers, type Action } from '@ngrx/store';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { edits, type Edit } from './editing/edits';
import { forgetting, history, undoable } from './editing/history';
import { loading } from './loading/loading';
import { reducers, type AppState } from './reducers';
import { versionChosen } from './saving/choosing';
import { saving, thingKey, unsavedThings } from './saving/saving';
import {
  selectSavingState,
  selectSendable,
  selectSetAside,
  selectUnsaved,
} from './saving/selectors';

const reduce = versionChosen(undoable(combineReducers(reducers)));

const patch: Patch = {
  ...newPatch('patch', 'song', 0, 'A patch'),
  sounds: [newPatchSound('piano', 'house-felt-piano'), newPatchSound('bells', 'house-glass-bells')],
  layers: [newLayer('a', 'Piano', 'piano'), newLayer('b', 'Bells', 'bells')],
};
const saved = <T>(value: T): Saved<T> => ({ revision: 3, value });
const repertoire: Repertoire = {
  database: 'tested',
  rigs: [saved(newRig('rig', 'A rig'))],
  shows: [saved(newShow('show', 'A show', '2027-01-01', 'rig'))],
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
  return reduce(
    reduce(undefined, { type: 'start' }),
    loading.loaded({
      repertoire,
      sounds,
      patterns: [],
      keepsakes: [],
      showId: 'show',
      wasHere: true,
      unsaved: [],
      isKept: false,
    }),
  );
}
const halves = splitEvenly(newLayer('', '', '').keys, 2);
const patchIn = (state: AppState) => state.document.things.patches['patch'];
const tied = (target: ControlTarget, id = 'control'): Tie => ({
  id,
  place: 'keys1',
  message: { kind: 'controller', controller: 1 },
  target,
  from: 0,
  to: 1,
  ...usualManner({ kind: 'pedal' }),
});
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

  it('remembers a long drag by where it began and ended alone', () => {
    let state = opened();
    for (let i = 0; i < 500; i++) state = reduce(state, level(-i / 20, 'drag'));
    const [{ forth, back }] = state.history.past;
    expect([forth.length, back.length]).toEqual([1, 1]);
    expect(patchIn(reduce(state, history.undo())).layers[0].level).toBe(-6);
  });

  it('comes back exactly to where it was, whatever was done', () => {
    const patchId = 'patch';
    const layer = fc.constantFrom('a', 'b', 'new-0', 'new-1', 'gone');
    const sound = fc.constantFrom('piano', 'bells', 'new-0', 'new-2', 'gone');
    /** An edit, given an id that nothing has yet. */
    type Making = (fresh: string) => Edit;
    const anyEdit = fc.oneof<fc.Arbitrary<Making>[]>(
      fc.tuple(layer, fc.integer({ min: -60, max: 12 })).map(
        ([layerId, level]) =>
          () =>
            edits.layerChanged({ patchId, layerId, changes: { level } }),
      ),
      fc.constant((fresh) =>
        edits.layerAdded({
          patchId,
          layerId: fresh,
          name: 'New',
          sound: newPatchSound(fresh, 'house-felt-piano'),
          keyboard: null,
        }),
      ),
      layer.map((id) => () => edits.layersRemoved({ patchId, layerIds: [id] })),
      layer.map((id) => (copyId) => edits.layersDuplicated({ patchId, copyIds: { [id]: copyId } })),
      layer.map(
        (layerId) => (copyId) =>
          edits.layerSplit({
            patchId,
            layerId,
            parts: halves,
            names: ['Low', 'High'],
            copyIds: [copyId],
          }),
      ),
      fc.tuple(layer, fc.integer({ min: -2, max: 5 })).map(
        ([layerId, to]) =>
          () =>
            edits.layerMoved({ patchId, layerId, to }),
      ),
      layer.map(
        (layerId) => (fresh) =>
          edits.soundSwapped({
            patchId,
            layerId,
            sound: newPatchSound(fresh, 'house-glass-bells'),
          }),
      ),
      layer.map(
        (layerId) => (fresh) => edits.soundMadeOwn({ patchId, layerId, patchSoundId: fresh }),
      ),
      fc.tuple(layer, sound).map(
        ([layerId, patchSoundId]) =>
          () =>
            edits.soundShared({ patchId, layerId, patchSoundId }),
      ),
      fc.tuple(sound, sound).map(
        ([keep, drop]) =>
          () =>
            edits.soundsJoined({ patchId, keep, drop }),
      ),
      fc
        .subarray(['a', 'b', 'new-0', 'gone'], { minLength: 1 })
        .map(
          (layerIds) => (fresh) =>
            edits.treatmentAdded({ patchId, treatment: newTreatment('chord', fresh, layerIds) }),
        ),
      fc
        .constantFrom<ControlTarget>(
          { kind: 'layer', layerId: 'b', parameter: 'level' },
          { kind: 'sound', patchSoundId: 'piano', parameter: 'brightness' },
          { kind: 'treatment', treatmentId: 'new-1' },
        )
        .map((target) => (id) => edits.controlTied({ patchId, control: tied(target, id) })),
      fc.constant(() => edits.patchRenamed({ patchId, name: 'Renamed' })),
    );
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 20 }), (many) => {
        let state = opened();
        many.forEach((make, i) => (state = reduce(state, make(`new-${i}`))));
        const done = patchIn(state);
        // Whatever points to something points to what is there, and nothing is left over.
        patchSchema.parse(done);
        const played = new Set(done.layers.map((layer) => layer.soundId));
        expect(new Set(done.sounds.map(({ id }) => id))).toEqual(played);
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

  it('tells what it took back, and in which thing', () => {
    const added = reduce(opened(), edits.patchAdded({ patch: { ...patch, id: 'new' } }));
    const undone = reduce(added, history.undo());
    expect(undone.history.undoing).toEqual({
      way: 'undone',
      words: 'patch added',
      place: { kind: 'patches', id: 'new' },
    });
    const again = reduce(reduce(undone, history.redo()), edits.patchRemoved({ patchId: 'patch' }));
    expect(reduce(again, history.undo()).history.undoing).toMatchObject({
      words: 'patch removed',
      place: { id: 'patch' },
    });
  });
});

describe('layers', () => {
  it('keep everything but the sound when it is swapped, and drop a sound nobody plays', () => {
    const swapped = reduce(
      opened(),
      edits.soundSwapped({
        patchId: 'patch',
        layerId: 'a',
        sound: newPatchSound('x', 'house-glass-bells'),
      }),
    );
    const { layers, sounds: used } = patchIn(swapped);
    expect(layers[0]).toEqual({ ...patch.layers[0], soundId: 'x' });
    expect(used.map((s) => s.id)).toEqual(['bells', 'x']);
  });

  it('share their sound with their copy', () => {
    const state = reduce(
      opened(),
      edits.layersDuplicated({ patchId: 'patch', copyIds: { a: 'c' } }),
    );
    const { layers, sounds: used } = patchIn(state);
    expect(layers.map((l) => [l.id, l.name, l.soundId])).toEqual([
      ['a', 'Piano', 'piano'],
      ['c', 'Piano 2', 'piano'],
      ['b', 'Bells', 'bells'],
    ]);
    expect(used).toHaveLength(2);
  });

  it('are cut in two, and both halves are under the same treatments', () => {
    const treated = reduce(
      opened(),
      edits.treatmentAdded({ patchId: 'patch', treatment: newTreatment('restrike', 't', ['a']) }),
    );
    const cut = reduce(
      treated,
      edits.layerSplit({
        patchId: 'patch',
        layerId: 'a',
        parts: halves,
        names: ['Low', 'High'],
        copyIds: ['c'],
      }),
    );
    const { layers, treatments } = patchIn(cut);
    expect(layers.map(({ id, keys, soundId }) => [id, keys.low, keys.high, soundId])).toEqual([
      ['a', 0, 63, 'piano'],
      ['c', 64, 127, 'piano'],
      ['b', 0, 127, 'bells'],
    ]);
    expect(treatments[0].layerIds).toEqual(['a', 'c']);
  });

  it('get a sound of their own and share it again, and controls of a sound that is gone go too', () => {
    const control = tied({ kind: 'sound', patchSoundId: 'own', parameter: 'brightness' });
    const twins = reduce(
      opened(),
      edits.layersDuplicated({ patchId: 'patch', copyIds: { a: 'c' } }),
    );
    const own = reduce(
      twins,
      edits.soundMadeOwn({ patchId: 'patch', layerId: 'c', patchSoundId: 'own' }),
    );
    expect(patchIn(own).sounds.map(({ id, librarySoundId }) => [id, librarySoundId])).toEqual([
      ['piano', 'house-felt-piano'],
      ['bells', 'house-glass-bells'],
      ['own', 'house-felt-piano'],
    ]);
    const moved = reduce(own, edits.controlTied({ patchId: 'patch', control }));
    const again = patchIn(
      reduce(moved, edits.soundShared({ patchId: 'patch', layerId: 'c', patchSoundId: 'piano' })),
    );
    expect(again.layers.map(({ soundId }) => soundId)).toEqual(['piano', 'piano', 'bells']);
    expect([again.sounds.length, again.controls.length]).toEqual([2, 0]);
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
    const song = newSong('song', 'A song');
    const withSong = { ...things, songs: { song } };
    expect(unsavedThings(withSong, {}).map((u) => u.kind)).toEqual([
      'rigs',
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
    const gone = { ...things, rigs: {}, patches: {}, songs: {}, shows: {}, sounds: {} };
    expect(unsavedThings(gone, base).map((u) => u.kind)).toEqual(['patches', 'songs']);
  });

  it('after a refusal keeps mine over the present revision, or takes theirs', () => {
    const mine = reduce(opened(), level(-9));
    const theirs = { revision: 8, value: { ...patch, name: 'Theirs' } };
    const refused = reduce(
      mine,
      saving.conflictMet({ conflict: { kind: 'patches', id: 'patch', present: theirs } }),
    );
    expect(selectSavingState(refused).state).toBe('not saved');
    const kept = reduce(refused, saving.mineKept());
    expect(selectUnsaved(kept)).toMatchObject([{ revision: 8, value: { name: 'A patch' } }]);
    const taken = reduce(refused, saving.theirsTaken());
    expect(patchIn(taken)).toBe(theirs.value);
    expect(selectUnsaved(taken)).toEqual([]);
    const removed = reduce(
      mine,
      saving.conflictMet({ conflict: { kind: 'patches', id: 'patch', present: null } }),
    );
    expect(reduce(removed, saving.theirsTaken()).document.things.patches).toEqual({});
    expect(selectUnsaved(reduce(removed, saving.mineKept()))).toMatchObject([{ revision: 0 }]);
  });

  it('forgets, with a version given up, only what was done to that thing; undoing once brings it back', () => {
    const favoured = edits.soundFavoured({ librarySoundId: 'house-felt-piano', favourite: true });
    const mine = reduce(reduce(opened(), favoured), level(-9));
    const theirs = { revision: 8, value: { ...patch, name: 'Theirs' } };
    const conflict = { kind: 'patches', id: 'patch', present: theirs } as const;
    const taken = reduce(reduce(mine, saving.conflictMet({ conflict })), saving.theirsTaken());
    expect(taken.history.past.map(({ words }) => words)).toEqual([
      'favourite changed',
      'the other version taken',
    ]);
    const back = reduce(taken, history.undo());
    expect(patchIn(back)).toEqual(patchIn(mine));
    expect(selectUnsaved(back)).toContainEqual(
      expect.objectContaining({ id: 'patch', revision: 8 }),
    );
    const further = reduce(back, history.undo());
    expect(further.document.things.sounds['house-felt-piano'].favourite).toBe(false);
    expect(reduce(further, history.undo())).toBe(further);
  });

  it('sets aside what is refused for good: the rest goes on, and a mended thing is tried by itself', () => {
    const favoured = edits.soundFavoured({ librarySoundId: 'house-felt-piano', favourite: true });
    const both = reduce(reduce(opened(), level(-9)), favoured);
    const refused = {
      kind: 'patches' as const,
      id: 'patch',
      problem: 'This patch points to something that does not exist.',
      value: patchIn(both),
    };
    const aside = reduce(both, saving.setAside({ refused }));
    expect(selectSendable(aside).map(({ kind }) => kind)).toEqual(['sounds']);
    expect(selectSetAside(aside)).toEqual([refused]);
    const [sound] = selectSendable(aside);
    const rest = reduce(
      aside,
      saving.done({
        kind: 'sounds',
        id: sound.id,
        sent: { revision: 3, value: both.document.things.sounds[sound.id] },
        revision: 4,
      }),
    );
    expect(selectSavingState(rest)).toEqual({ state: 'not saved', why: '' });
    const mended = reduce(rest, level(-8));
    expect(selectSetAside(mended)).toEqual([]);
    expect(selectSendable(mended)).toMatchObject([{ kind: 'patches', revision: 3 }]);
    const again = reduce(rest, saving.triedAgain({ kind: 'patches', id: 'patch' }));
    expect(selectSendable(again)).toHaveLength(1);
    const dropped = reduce(rest, saving.dropped({ kind: 'patches', id: 'patch' }));
    expect(patchIn(dropped)).toEqual(patch);
    expect(selectSavingState(dropped).state).toBe('saved');
    expect(patchIn(reduce(dropped, history.undo())).layers[0].level).toBe(-9);
  });

  it('goes on while the player is asked about one thing, and asks about one after the other', () => {
    const favoured = edits.soundFavoured({ librarySoundId: 'house-felt-piano', favourite: true });
    const both = reduce(reduce(opened(), level(-9)), favoured);
    const present = { revision: 8, value: patch };
    const asked = reduce(
      both,
      saving.conflictMet({ conflict: { kind: 'patches', id: 'patch', present } }),
    );
    expect(selectSendable(asked).map(({ kind }) => kind)).toEqual(['sounds']);
    const other = {
      kind: 'sounds' as const,
      id: 'house-felt-piano',
      present: { revision: 5, value: opened().document.things.sounds['house-felt-piano'] },
    };
    const twice = reduce(asked, saving.conflictMet({ conflict: other }));
    expect(selectSendable(twice)).toEqual([]);
    const first = reduce(twice, saving.theirsTaken());
    expect(patchIn(first)).toEqual(patch);
    const second = reduce(first, saving.mineKept());
    expect(selectSendable(second)).toMatchObject([{ kind: 'sounds', revision: 5 }]);
  });

  it('follows another window without a word, and undoing does not mix the versions', () => {
    const edited = reduce(opened(), level(-9));
    const sent = { revision: 3, value: patchIn(edited) };
    const done = reduce(edited, saving.done({ kind: 'patches', id: 'patch', sent, revision: 4 }));
    const theirs = { ...patch, name: 'Theirs', layers: [patch.layers[1]] };
    const present = { revision: 5, value: theirs };
    const followed = reduce(
      done,
      saving.followed({ conflict: { kind: 'patches', id: 'patch', present } }),
    );
    expect(patchIn(followed)).toBe(theirs);
    expect(selectSavingState(followed).state).toBe('saved');
    expect(reduce(followed, history.undo())).toBe(followed);
  });
});

describe('what another window or the server has', () => {
  it('leaves what is new here new, and what was changed here as it is', () => {
    const fresh = { ...newPatch('fresh', 'song', 1, 'Fresh') };
    const mine = { ...patch, name: 'Mine' };
    const kept = [
      { kind: 'patches' as const, id: 'fresh', revision: 0, value: fresh },
      { kind: 'patches' as const, id: 'patch', revision: 2, value: mine },
    ];
    const state = reduce(
      reduce(undefined, { type: 'start' }),
      loading.loaded({
        ...{
          repertoire,
          sounds,
          patterns: [],
          keepsakes: [],
          showId: 'show',
          wasHere: true,
          isKept: false,
        },
        unsaved: kept,
      }),
    );
    expect(selectUnsaved(state)).toEqual(expect.arrayContaining(kept));
    // Somebody has made one of that id meanwhile: it is new all the same, and meets the other as a conflict.
    const theirs = { ...repertoire, patches: [...repertoire.patches, saved(fresh)] };
    const met = reduce(
      undefined,
      loading.loaded({
        ...{
          repertoire: theirs,
          sounds,
          patterns: [],
          keepsakes: [],
          showId: 'show',
          wasHere: true,
        },
        ...{ isKept: false, unsaved: [kept[0]] },
      }),
    );
    expect(selectUnsaved(met)).toMatchObject([{ id: 'fresh', revision: 0 }]);
  });

  it('takes from the history what was done to a thing that is replaced, ahead and behind', () => {
    const renamed = (name: string) => edits.patchRenamed({ patchId: 'patch', name });
    let state = [renamed('One'), renamed('Two')].reduce(reduce, opened());
    state = reduce(state, history.undo());
    expect([state.history.past.length, state.history.future.length]).toEqual([1, 1]);
    const forgotten = forgetting(state.history, { kind: 'patches', id: 'patch' });
    expect([forgotten.past, forgotten.future]).toEqual([[], []]);
    const other = forgetting(state.history, { kind: 'patches', id: 'other' });
    expect([other.past.length, other.future.length]).toEqual([1, 1]);
  });

  it('takes no more layers than a patch holds', () => {
    const paste = (time: string): Action => {
      const layers = Array.from({ length: 14 }, (_, i) =>
        newLayer(`${time}-${i}`, 'More', 'piano'),
      );
      const carried = { sounds: [], layers, treatments: [], controls: [], choosers: [] };
      return edits.layersPasted({ patchId: 'patch', carried, words: 'pasted' });
    };
    const full = patchIn(['first', 'second', 'third'].map(paste).reduce(reduce, opened()));
    expect(full.layers).toHaveLength(MOST_LAYERS);
    expect(patchSchema.safeParse(full).success).toBe(true);
  });
});
