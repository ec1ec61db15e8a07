import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, from, of, switchMap } from 'rxjs';
import { Api, ServerFault } from '../saving/api';
import { loading } from './loading';
import { rememberedBookmark } from '../session/bookmark';

/** Opens the show that was open last, else the newest. */
export const openShow = createEffect(
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
  const shows = await api.shows();
  const last = rememberedBookmark()?.showId;
  const show = shows.find((s) => s.id === last) ?? shows.at(0);
  if (!show)
    throw new ServerFault(
      'There is no show that can be opened. Nothing was changed; look into the backups.',
    );
  const [document, sounds, keepsakes] = await Promise.all([
    api.document(show.id),
    api.sounds(),
    api.keepsakes(),
  ]);
  return loading.loaded({ document, sounds, keepsakes });
}
