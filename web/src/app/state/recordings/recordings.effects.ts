import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, EMPTY, filter, from, map, switchMap, tap } from 'rxjs';
import { Live } from '../../live/live';
import type { AppState } from '../reducers';
import { loading } from '../loading/loading';
import { recordings } from './recordings';
import { RecordingsApi } from './recordings-api';
import { selectUnknownRecordings } from './selectors';

/** Asks which recordings there are: once the desk is open, whenever the server is back, and when they are looked at, since others bring some in too. */
export const listRecordings = createEffect(
  (actions = inject(Actions), api = inject(RecordingsApi)) =>
    actions.pipe(
      ofType(loading.loaded, loading.caughtUp, recordings.keepingAsked),
      switchMap(() =>
        from(api.list()).pipe(
          map((all) => recordings.listed({ recordings: all })),
          // What plays them asks for their bytes itself; the lists stay empty until the server is back.
          catchError(() => EMPTY),
        ),
      ),
    ),
  { functional: true },
);

export const lookAtKeeping = createEffect(
  (actions = inject(Actions), api = inject(RecordingsApi)) =>
    actions.pipe(
      ofType(recordings.keepingAsked),
      switchMap(() =>
        from(api.keeping()).pipe(
          map((keeping) => recordings.keepingKnown({ keeping })),
          catchError(() => EMPTY),
        ),
      ),
    ),
  { functional: true },
);

/** A sound that another window has made may need recordings that were brought in there. */
export const listWhatOthersBrought = createEffect(
  (store = inject<Store<AppState>>(Store)) =>
    store.select(selectUnknownRecordings).pipe(
      filter((unknown) => unknown !== ''),
      map(() => recordings.keepingAsked()),
    ),
  { functional: true },
);

/** What could not be had while the server was away is asked for again when it is back. */
export const fetchAgain = createEffect(
  (actions = inject(Actions), live = inject(Live)) =>
    actions.pipe(
      ofType(loading.caughtUp),
      tap(() => live.sounds.recorded.again()),
    ),
  { functional: true, dispatch: false },
);
