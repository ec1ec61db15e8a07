import { createEnvironmentInjector, Injector, type EnvironmentInjector } from '@angular/core';
import { newNight, newShow, newSong, type Night } from '@pentachord/core/model';
import { provideStore, Store } from '@ngrx/store';
import { beforeEach, describe, expect, it } from 'vitest';
import { Live } from '../../live/live';
import { showEdits } from '../editing/show-edits';
import { DeskCopy } from '../keeping/desk-copy';
import { loading } from '../loading/loading';
import { metaReducers, reducers, type AppState } from '../reducers';
import { selectThings } from '../selectors';
import { NightDesk } from './night-desk';
import { StatusLine } from './status-line';
import { Undoing } from './undoing';

const saved = <T>(value: T) => ({ revision: 1, value });
const trim = (layerId: string) => ({
  ...{ entryId: 'e', patchId: 'p', layerId, cueId: 'c', by: 2 },
});

describe('what was given up of a night', () => {
  let desk: NightDesk;
  let undoing: Undoing;
  let store: Store<AppState>;
  const trims = () => desk.night().trims.map(({ layerId }) => layerId);
  const tempo = () => store.selectSignal(selectThings)().songs['song'].tempo;
  const edit = (tempo: number) =>
    store.dispatch(showEdits.songChanged({ songId: 'song', changes: { tempo } }));
  beforeEach(() => {
    const runner = {
      night: newNight('none'),
      takeNight: (night: Night) => (runner.night = night),
    };
    const injector = createEnvironmentInjector(
      [
        provideStore(reducers, { metaReducers }),
        ...[NightDesk, StatusLine, Undoing],
        { provide: Live, useValue: { runner } },
        { provide: DeskCopy, useValue: { keepNight: () => undefined } },
      ],
      Injector.create({ providers: [] }) as EnvironmentInjector,
    );
    [desk, undoing, store] = [injector.get(NightDesk), injector.get(Undoing), injector.get(Store)];
    store.dispatch(
      loading.loaded({
        repertoire: {
          ...{ database: 'tested', rigs: [], devices: [], patches: [], cues: [] },
          ...{ shows: [saved(newShow('show', 'Show', '2027-01-01', 'home'))] },
          songs: [saved({ ...newSong('song', 'Song'), tempo: 100 })],
        },
        ...{
          sounds: [],
          patterns: [],
          keepsakes: [],
          showId: 'show',
          wasHere: true,
          unsaved: [],
          isKept: false,
        },
      }),
    );
    desk.open('show', [{ ...newNight('show'), trims: [trim('a'), trim('b')] }]);
  });

  it('comes back in the turn in which it and edits were done', () => {
    desk.dropTrim(trim('a'));
    edit(110);
    desk.dropTrim(trim('b'));
    undoing.undo();
    expect([trims(), tempo()]).toEqual([['b'], 110]);
    undoing.undo();
    expect([trims(), tempo()]).toEqual([['b'], 100]);
    undoing.undo();
    expect([trims(), tempo()]).toEqual([['a', 'b'], 100]);
  });

  it('comes back together with the edit that took it over, and goes with it again', () => {
    edit(110);
    edit(120);
    desk.dropTrim(trim('a'), true);
    undoing.undo();
    expect([trims(), tempo()]).toEqual([['a', 'b'], 110]);
    undoing.redo();
    expect([trims(), tempo()]).toEqual([['b'], 120]);
    undoing.undo();
    undoing.undo();
    undoing.redo();
    expect([trims(), tempo()]).toEqual([['a', 'b'], 110]);
  });
});
