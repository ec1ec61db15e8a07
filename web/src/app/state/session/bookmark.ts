import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { concatLatestFrom } from '@ngrx/operators';
import { dequal } from 'dequal';
import {
  combineLatest,
  concatMap,
  distinctUntilChanged,
  EMPTY,
  filter,
  map,
  switchMap,
  tap,
} from 'rxjs';
import { DeskCopy } from '../keeping/desk-copy';
import { patchesOfSong, type Things } from '../show/document';
import { placeOfStep } from './places';
import { loading } from '../loading/loading';
import type { AppState } from '../reducers';
import {
  selectLoading,
  selectSession,
  selectShowId,
  selectSteps,
  selectThings,
} from '../selectors';
import { NightDesk } from './night-desk';
import { session, type Bookmark } from './session';
import { StatusLine } from './status-line';

/** After opening a show: back to where the player was, else to its first step. */
export const restorePlace = createEffect(
  (
    actions = inject(Actions),
    store = inject<Store<AppState>>(Store),
    copy = inject(DeskCopy),
    night = inject(NightDesk),
    status = inject(StatusLine),
  ) =>
    actions.pipe(
      ofType(loading.loaded, session.showOpened),
      concatLatestFrom(() => [
        store.select(selectThings),
        store.select(selectShowId),
        store.select(selectSteps),
      ]),
      concatMap(async (found) => ({ found, kept: await copy.readPlace() })),
      map(({ found: [{ type }, things, showId, steps], kept }) => {
        night.open(showId, kept.nights);
        // Another show begins at its beginning: what is remembered is the place in the one before.
        const last = type === loading.loaded.type ? kept.bookmark : null;
        if (showId !== null && last?.showId === showId && last.songId && things.songs[last.songId])
          return session.placeRestored(stillThere(last, things));
        if (last?.songId && last.showId === showId)
          status.say('The song that was open is not there any more: this is the first one.');
        return session.placeRestored({ ...placeOfStep(things, steps.at(0)), keyboardId: null });
      }),
    ),
  { functional: true },
);

function stillThere(place: Bookmark, things: Things): Omit<Bookmark, 'showId'> {
  const known = (id: string | null, among: Record<string, unknown>) =>
    id && among[id] ? id : null;
  const patchId = known(place.patchId, things.patches);
  return {
    entryId: place.entryId,
    songId: place.songId,
    cueId: known(place.cueId, things.cues),
    patchId: patchId ?? (place.songId && patchesOfSong(things, place.songId).at(0)?.id) ?? null,
    keyboardId: known(place.keyboardId, things.devices),
  };
}

/** Remembers the place over a reload. */
export const rememberPlace = createEffect(
  (actions = inject(Actions), store = inject<Store<AppState>>(Store), copy = inject(DeskCopy)) =>
    actions.pipe(
      ofType(loading.loaded, session.showOpened, session.placeRestored),
      // While a show is being opened the place is still the one in the show before.
      switchMap(({ type }) =>
        type === session.placeRestored.type
          ? combineLatest([
              store.select(selectLoading),
              store.select(selectShowId),
              store.select(selectSession),
            ])
          : EMPTY,
      ),
      filter(([{ status }, showId]) => status === 'open' && !!showId),
      map(([, showId, { entryId, songId, cueId, patchId, keyboardId }]): Bookmark => ({
        showId: showId ?? '',
        ...{ entryId, songId, cueId, patchId, keyboardId },
      })),
      distinctUntilChanged((a, b) => dequal(a, b)),
      tap((bookmark) => copy.keepPlace(bookmark)),
    ),
  { functional: true, dispatch: false },
);
