import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { concatLatestFrom } from '@ngrx/operators';
import { combineLatest, filter, map, tap } from 'rxjs';
import { patchesOfSong, type Things } from '../show/document';
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
      ofType(loading.loaded),
      concatLatestFrom(() => [store.select(selectThings), store.select(selectSteps)]),
      map(([{ document }, things, steps]) => {
        const last = rememberedBookmark();
        if (last?.showId === document.show.value.id && last.songId && things.songs[last.songId])
          return session.placeRestored(stillThere(last, things));
        const first = steps.at(0);
        const songId = first?.songId ?? null;
        const cue = first?.cueId ? things.cues[first.cueId] : null;
        const patchId = cue?.patchId ?? (songId && patchesOfSong(things, songId).at(0)?.id) ?? null;
        return session.placeRestored({
          songId,
          cueId: cue?.id ?? null,
          patchId,
          keyboardId: null,
        });
      }),
    ),
  { functional: true },
);

function stillThere(place: Bookmark, things: Things): Omit<Bookmark, 'showId'> {
  const known = (id: string | null, among: Record<string, unknown>) =>
    id && among[id] ? id : null;
  return {
    songId: place.songId,
    cueId: known(place.cueId, things.cues),
    patchId: known(place.patchId, things.patches),
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
      tap(([, showId, { songId, cueId, patchId, keyboardId }]) =>
        localStorage.setItem(KEY, JSON.stringify({ showId, songId, cueId, patchId, keyboardId })),
      ),
    ),
  { functional: true, dispatch: false },
);
