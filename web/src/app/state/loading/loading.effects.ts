import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, from, of, switchMap } from 'rxjs';
import { Api, ServerFault } from '../saving/api';
import { rememberedBookmark } from '../session/bookmark';
import { showToOpen } from '../show/document';
import { loading } from './loading';

/** Fetches everything, and opens the show that was open last, else the newest. */
export const fetchEverything = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(loading.asked),
      switchMap(() =>
        from(open(api)).pipe(
          catchError((error: unknown) =>
            of(
              loading.failed({
                problem: inWords(error),
              }),
            ),
          ),
        ),
      ),
    ),
  { functional: true },
);

/** What went wrong, what is safe, and what to do. */
function inWords(error: unknown): string {
  if (error instanceof ServerFault) return error.message;
  return error instanceof TypeError
    ? 'The server does not answer. Nothing was changed. See that Pentachord’s server is running, then try again.'
    : 'What the server answers cannot be read. Nothing was changed. Start Pentachord again, and look into the backups if that does not help.';
}

async function open(api: Api) {
  const [repertoire, sounds, keepsakes] = await Promise.all([
    api.repertoire(),
    api.sounds(),
    api.keepsakes(),
  ]);
  const bookmark = rememberedBookmark();
  const showId = showToOpen(
    repertoire.shows.map(({ value }) => value),
    bookmark?.showId ?? null,
  );
  return loading.loaded({ repertoire, sounds, keepsakes, showId, wasHere: bookmark !== null });
}
