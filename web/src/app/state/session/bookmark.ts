import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { concatLatestFrom } from '@ngrx/operators';
import { combineLatest, filter, map, tap } from 'rxjs';
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
import { bookmarkSchema, session, type Bookmark } from './session';

const KEY = 'pentachord place';

/** Where the player was before the reload, if that can be read. */
export function rememberedBookmark(): Bookmark | null {
  try {
    return bookmarkSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? 'null'));
  } catch {
    return null;
  }
}

/** After opening a show: back to where the player was, else to its first step. */
export const restorePlace = createEffect(
  (actions = inject(Actions), store = inject<Store<AppState>>(Store)) =>
    actions.pipe(
      ofType(loading.loaded, session.showOpened),
      concatLatestFrom(() => [
        store.select(selectThings),
        store.select(selectShowId),
        store.select(selectSteps),
      ]),
      map(([{ type }, things, showId, steps]) => {
        // Another show begins at its beginning: what is remembered is the place in the one before.
        const last = type === loading.loaded.type ? rememberedBookmark() : null;
        if (showId !== null && last?.showId === showId && last.songId && things.songs[last.songId])
          return session.placeRestored(stillThere(last, things));
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
  (store = inject<Store<AppState>>(Store)) =>
    combineLatest([
      store.select(selectLoading),
      store.select(selectShowId),
      store.select(selectSession),
    ]).pipe(
      filter(([{ status }, showId, { songId }]) => status === 'open' && !!showId && !!songId),
      tap(([, showId, { entryId, songId, cueId, patchId, keyboardId }]) =>
        localStorage.setItem(
          KEY,
          JSON.stringify({ showId, entryId, songId, cueId, patchId, keyboardId }),
        ),
      ),
    ),
  { functional: true, dispatch: false },
);
