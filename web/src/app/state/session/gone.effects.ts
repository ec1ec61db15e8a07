import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { EMPTY, filter, of, switchMap, tap } from 'rxjs';
import { history } from '../editing/history';
import { showEdits } from '../editing/show-edits';
import { loading } from '../loading/loading';
import type { AppState } from '../reducers';
import { saving } from '../saving/saving';
import {
  selectLoading,
  selectSession,
  selectShow,
  selectShowId,
  selectSteps,
  selectThings,
} from '../selectors';
import { showToOpen } from '../show/document';
import { placeInSong, placeOfStep } from './places';
import { session } from './session';

/** After anything that may have taken away what is open: another show, or another place, takes over. */
export const leaveGonePlace = createEffect(
  (actions = inject(Actions), store = inject<Store<AppState>>(Store)) =>
    actions.pipe(
      ofType(
        history.undo,
        history.redo,
        saving.theirsTaken,
        saving.followed,
        saving.dropped,
        showEdits.songRemoved,
        showEdits.orderChanged,
        showEdits.cueRemoved,
        showEdits.tonightKept,
      ),
      concatLatestFrom(() => [
        store.select(selectThings),
        store.select(selectShowId),
        store.select(selectShow),
        store.select(selectSession),
        store.select(selectSteps),
      ]),
      switchMap(([, things, showId, show, place, steps]) => {
        if (showId !== null && !show)
          return of(session.showOpened({ showId: showToOpen(Object.values(things.shows), null) }));
        const { keyboardId, songId, entryId, cueId } = place;
        if (songId !== null && !(songId in things.songs))
          return of(session.placeRestored({ ...placeOfStep(things, steps.at(0)), keyboardId }));
        const stands = show?.order.some((entry) => entry.id === entryId);
        const isCueGone = cueId !== null && !(cueId in things.cues);
        if (songId === null || (!isCueGone && (entryId === null || stands))) return EMPTY;
        const other = show?.order.find((e) => e.kind === 'song' && e.songId === songId);
        const entry = stands ? entryId : (other?.id ?? null);
        return of(
          isCueGone
            ? session.placeRestored({ ...placeInSong(things, songId, entry), keyboardId })
            : session.placeRestored({ ...place, entryId: entry }),
        );
      }),
    ),
  { functional: true },
);

/** Where there is no show at all, the first page offers one. */
export const goToBeginning = createEffect(
  (actions = inject(Actions), store = inject<Store<AppState>>(Store), router = inject(Router)) =>
    actions.pipe(
      ofType(loading.loaded, session.showOpened),
      concatLatestFrom(() => [store.select(selectShowId), store.select(selectLoading)]),
      filter(([, showId, { status }]) => showId === null && status === 'open'),
      filter(() => !router.url.startsWith('/shows') && !router.url.startsWith('/backups')),
      tap(() => void router.navigateByUrl('/')),
    ),
  { functional: true, dispatch: false },
);
