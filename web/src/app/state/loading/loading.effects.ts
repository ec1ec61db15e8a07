import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, from, of, switchMap } from 'rxjs';
import { Api } from '../saving/api';
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
                problem: error instanceof Error ? error.message : 'the server does not answer',
              }),
            ),
          ),
        ),
      ),
    ),
  { functional: true },
);

async function open(api: Api) {
  const shows = await api.shows();
  const last = rememberedBookmark()?.showId;
  const show = shows.find((s) => s.id === last) ?? shows.at(0);
  if (!show) throw new Error('there is no show on the server');
  const [document, sounds, keepsakes] = await Promise.all([
    api.document(show.id),
    api.sounds(),
    api.keepsakes(),
  ]);
  return loading.loaded({ document, sounds, keepsakes });
}
