import { newSong, type Repertoire, type Song } from '@pentachord/core/model';
import type { Action, Store } from '@ngrx/store';
import { combineReducers } from '@ngrx/store';
import { BehaviorSubject, firstValueFrom, map, of, toArray, type Observable } from 'rxjs';
import { expect, it } from 'vitest';
import { loading } from '../loading/loading';
import { reducers, type AppState } from '../reducers';
import type { Unsaved } from '../show/document';
import type { Api, SaveOutcome } from './api';
import type { OtherWindows } from './other-windows';
import { saving } from './saving';
import { followExchange, followWindows, saveChanges } from './saving.effects';

const reduce = combineReducers(reducers);
const song = (name: string): Song => newSong('song', name);
/** A desk that has opened a song at revision 3, and has changed it since if it is given another. */
function desk(mine: Song | null = null) {
  const repertoire: Repertoire = {
    ...{ database: 'one', rigs: [], shows: [], devices: [], patches: [], cues: [] },
    songs: [{ revision: 3, value: song('Saved') }],
  };
  const unsaved: Unsaved[] = mine ? [{ kind: 'songs', id: 'song', revision: 3, value: mine }] : [];
  const opened = loading.loaded({
    ...{
      repertoire,
      sounds: [],
      patterns: [],
      keepsakes: [],
      showId: null,
      wasHere: true,
      isKept: false,
      unsaved,
    },
  });
  const state = new BehaviorSubject<AppState>(reduce(reduce(undefined, { type: 'start' }), opened));
  const select = <T>(selector: (state: AppState) => T): Observable<T> => state.pipe(map(selector));
  return { state, store: { select } as unknown as Store<AppState> };
}
const theirs = { revision: 4, value: song('Theirs') };

it('another window’s save is followed where nothing is changed here, and never laid over a change', async () => {
  const others = { saved: of({ kind: 'songs', id: 'song' }) } as unknown as OtherWindows;
  const api = { find: () => Promise.resolve(theirs) } as unknown as Api;
  const told = (mine: Song | null) =>
    firstValueFrom(followWindows(desk(mine).store, api, others).pipe(toArray()));
  expect(await told(null)).toEqual([
    saving.followed({ conflict: { kind: 'songs', id: 'song', present: theirs } }),
  ]);
  expect(await told(song('Mine'))).toEqual([]);
});

it('everything is opened anew when another window has exchanged it, unless something here is not saved', async () => {
  const others = { exchanged: of({}) } as unknown as OtherWindows;
  const told = (mine: Song | null) =>
    firstValueFrom(
      (followExchange(desk(mine).store, others) as Observable<Action>).pipe(toArray()),
    );
  expect(await told(null)).toEqual([loading.asked()]);
  expect(await told(song('Mine'))).toEqual([]);
});

it.each<[string, SaveOutcome, string]>([
  [
    'whose answer was lost is recognised',
    { kind: 'stale', present: { revision: 4, value: song('Mine') } },
    'done',
  ],
  ['that meets another version is a conflict', { kind: 'stale', present: theirs }, 'refused'],
  ['that is refused for good is set aside', { kind: 'refused', problem: 'no' }, 'setAside'],
])('a save %s', async (_what, outcome, ends) => {
  const { state, store } = desk(song('Mine'));
  let database: string | null = '';
  const api = {
    save: (_unsaved: Unsaved, meant: string | null) => {
      database = meant;
      return Promise.resolve(outcome);
    },
  } as unknown as Api;
  const told: Action[] = [];
  const effect = saveChanges(store, api);
  await new Promise<void>((resolve) =>
    effect.subscribe((action) => {
      told.push(action);
      state.next(reduce(state.value, action));
      if (told.length === 2) resolve();
    }),
  );
  const types = {
    done: saving.done.type,
    refused: saving.conflictMet.type,
    setAside: saving.setAside.type,
  };
  expect(told.map(({ type }) => type)).toEqual([
    saving.begun.type,
    types[ends as keyof typeof types],
  ]);
  expect(database).toBe('one');
});
