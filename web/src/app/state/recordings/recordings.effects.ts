import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, EMPTY, from, map, switchMap } from 'rxjs';
import { loading } from '../loading/loading';
import { recordings } from './recordings';
import { RecordingsApi } from './recordings-api';

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
