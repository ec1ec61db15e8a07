import {
  newCue,
  newRig,
  newPatch,
  newShow,
  newSong,
  songEntry,
  type Repertoire,
  type Saved,
} from '@pentachord/core/model';
import { combineReducers } from '@ngrx/store';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { loading } from '../loading/loading';
import { reducers, type AppState } from '../reducers';
import { versionChosen } from '../saving/choosing';
import { unsavedThings } from '../saving/saving';
import type { AnyThing } from '../show/document';
import { edits, type Edit } from './edits';
import { history, undoable } from './history';
import { showEdits } from './show-edits';

const reduce = versionChosen(undoable(combineReducers(reducers)));
const saved = <T>(value: T): Saved<T> => ({ revision: 1, value });

const songs = ['one', 'two', 'three'].map((id) => newSong(id, `Song ${id}`));
const patches = songs.map(({ id }) => newPatch(`patch-${id}`, id, 0, 'A patch'));
const cues = ['a', 'b', 'c'].map((id, at) => ({
  ...newCue(id, 'one', at, `cue ${id}`, 'patch-one'),
  atSeconds: at * 60,
}));
const tonight = { leftOut: ['b'], tempo: 90, note: 'no drums' };
const shows = [
  {
    ...newShow('night', 'A night', '2027-08-14', 'rig'),
    order: [{ ...songEntry('e1', 'one'), tonight }, songEntry('e2', 'two')],
  },
  { ...newShow('other', 'Another', '2027-08-15', 'rig'), order: [songEntry('o1', 'one')] },
];
const repertoire: Repertoire = {
  database: 'tested',
  rigs: [saved(newRig('rig', 'A rig'))],
  shows: shows.map(saved),
  devices: [],
  songs: songs.map(saved),
  patches: patches.map(saved),
  cues: cues.map(saved),
};

function opened(): AppState {
  return reduce(
    reduce(undefined, { type: 'start' }),
    loading.loaded({
      repertoire,
      sounds: [],
      patterns: [],
      keepsakes: [],
      showId: 'night',
      wasHere: true,
      unsaved: [],
      isKept: false,
    }),
  );
}
const after = (...made: Edit[]) =>
  made.reduce<AppState>((state, edit) => reduce(state, edit), opened());
const things = (state: AppState) => state.document.things;

describe('a song that is removed', () => {
  it('goes with its patches and cues, and out of the order of the show', () => {
    const state = after(showEdits.songRemoved({ songId: 'two', showId: 'night' }));
    expect(Object.keys(things(state).songs)).toEqual(['one', 'three']);
    expect(Object.keys(things(state).patches)).toEqual(['patch-one', 'patch-three']);
    expect(things(state).shows['night'].order.map(({ id }) => id)).toEqual(['e1']);
    // The order is saved before the song goes, or the server would refuse it.
    const kinds = unsavedThings(things(state), state.saving.base).map(({ kind, value }) =>
      value === null ? `-${kind}` : kind,
    );
    expect(kinds).toEqual(['shows', '-patches', '-songs']);
    expect(things(reduce(state, history.undo()))).toEqual(things(opened()));
  });

  it('stays with all that belongs to it where another show needs it', () => {
    const state = after(showEdits.songRemoved({ songId: 'one', showId: 'night' }));
    expect(things(state).songs['one']).toBeTruthy();
    expect(Object.keys(things(state).cues)).toHaveLength(3);
    expect(things(state).shows['night'].order).toHaveLength(1);
    expect(things(state).shows['other'].order).toHaveLength(1);
  });
});

it('an import of many things is one step of undo, each saved behind what it needs', () => {
  const what: AnyThing[] = [
    { kind: 'cues', value: newCue('c', 's', 0, 'cue', 'p') },
    { kind: 'patches', value: newPatch('p', 's', 0, 'A patch') },
    { kind: 'shows', value: newShow('came', 'Came in', '2027-08-16', 'box') },
    { kind: 'songs', value: newSong('s', 'Song') },
    { kind: 'rigs', value: newRig('box', 'A box') },
  ];
  const state = after(edits.thingsImported({ things: what, words: 'show brought in' }));
  const kinds = (of: AppState) =>
    unsavedThings(things(of), of.saving.base).map(({ kind, value }) => [kind, value !== null]);
  expect(kinds(state)).toEqual(
    ['rigs', 'songs', 'patches', 'cues', 'shows'].map((kind) => [kind, true]),
  );
  expect(state.history.past.at(-1)?.words).toBe('show brought in');
  expect(things(reduce(state, history.undo()))).toEqual(things(opened()));
});

describe('tonight made permanent', () => {
  const state = after(showEdits.tonightKept({ showId: 'night', entryId: 'e1' }));

  it('is in the song, and so in every show; cues left out are gone, the others counted anew', () => {
    expect(things(state).songs['one']).toMatchObject({ tempo: 90, notes: 'no drums' });
    expect(things(state).shows['night'].order[0]).toMatchObject({ tonight: null });
    const left = Object.values(things(state).cues).map(({ id, position }) => [id, position]);
    expect(left).toEqual([
      ['a', 0],
      ['c', 1],
    ]);
  });

  it('is one step of undo', () => {
    expect(things(reduce(state, history.undo()))).toEqual(things(opened()));
  });
});

describe('cues', () => {
  it('make room for a new one, and close up behind one that goes', () => {
    const cue = { ...newCue('new', 'one', 1, 'new', 'patch-one'), atSeconds: 30 };
    const places = { b: { position: 2, atSeconds: 60 }, c: { position: 3, atSeconds: 120 } };
    const added = after(showEdits.cuesAdded({ cues: [cue], places, words: 'cue added' }));
    const inOrder = (state: AppState) =>
      Object.values(things(state).cues)
        .sort((x, y) => x.position - y.position)
        .map(({ id }) => id);
    expect(inOrder(added)).toEqual(['a', 'new', 'b', 'c']);
    const removed = reduce(added, showEdits.cueRemoved({ cueId: 'a' }));
    expect(
      Object.values(things(removed).cues)
        .map(({ position }) => position)
        .sort(),
    ).toEqual([0, 1, 2]);
    expect(inOrder(removed)).toEqual(['new', 'b', 'c']);
  });

  it('are not made for a patch that has gone meanwhile', () => {
    const cue = newCue('new', 'one', 3, 'new', 'gone');
    const state = after(showEdits.cuesAdded({ cues: [cue], places: {}, words: 'cue added' }));
    expect(things(state)).toEqual(things(opened()));
    expect(state.history.past).toEqual([]);
  });

  it('keep what their balance says of a layer when some more of it is said', () => {
    const balanced = (balance: object) =>
      showEdits.cueBalanced({ cueId: 'a', balance: { layer: balance } });
    const state = after(
      balanced({ level: -9, sends: { reverb: -12 } }),
      balanced({ muted: true }),
      balanced({ sends: { delay: -20 } }),
    );
    expect(things(state).cues['a'].balance).toEqual({
      layer: { level: -9, muted: true, sends: { reverb: -12, delay: -20 } },
    });
  });
});

it('an order with a song that is not there any more is put in order without it', () => {
  const order = [songEntry('x', 'gone'), songEntry('e2', 'two')];
  const whole = { song: newSong('new', 'New'), patches: [], cues: [] };
  const state = after(
    showEdits.orderChanged({
      showId: 'night',
      order: [...order, songEntry('n', 'new')],
      words: 'written',
      songs: [whole],
    }),
  );
  expect(things(state).shows['night'].order.map(({ id }) => id)).toEqual(['e2', 'n']);
  expect(things(state).songs['new'].name).toBe('New');
});

it('whatever is done to shows, songs and cues: undone, everything is as it was, and redone as it came', () => {
  const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
    fc
      .constantFrom('one', 'two', 'three')
      .map((songId) => showEdits.songRemoved({ songId, showId: 'night' })),
    fc.constantFrom('a', 'b', 'c', 'gone').map((cueId) => showEdits.cueRemoved({ cueId })),
    fc
      .constantFrom('e1', 'e2', 'gone')
      .map((entryId) => showEdits.tonightKept({ showId: 'night', entryId })),
    fc
      .integer({ min: 40, max: 200 })
      .map((tempo) => showEdits.songChanged({ songId: 'one', changes: { tempo } })),
    fc.constantFrom('night', 'other', 'gone').map((showId) => showEdits.showRemoved({ showId })),
    fc.constant(showEdits.orderChanged({ showId: 'night', order: [], words: 'emptied' })),
    fc.constant(
      showEdits.tonightChanged({ showId: 'night', entryId: 'e2', tonight, words: 'tonight' }),
    ),
  );
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 12 }), (edits) => {
      let state = after(...edits);
      const done = things(state);
      const steps = state.history.past.length;
      for (let i = 0; i < steps; i++) state = reduce(state, history.undo());
      expect(things(state)).toEqual(things(opened()));
      for (let i = 0; i < steps; i++) state = reduce(state, history.redo());
      expect(things(state)).toEqual(done);
    }),
  );
});
