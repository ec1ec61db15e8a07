import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { of, tap, withLatestFrom } from 'rxjs';
import { Live } from '../../live/live';
import type { AppState } from '../reducers';
import { preferences, rememberedPreferences, rememberPreferences } from './preferences';

/** Takes over what was preferred last, as soon as there is a desk. */
export const takePreferences = createEffect(
  () => of(preferences.remembered({ preferences: rememberedPreferences() })),
  { functional: true },
);

/** Remembers what is preferred. */
export const keepPreferences = createEffect(
  (actions = inject(Actions), store = inject<Store<AppState>>(Store)) =>
    actions.pipe(
      ofType(preferences.changed),
      withLatestFrom(store.select((state) => state.preferences)),
      tap(([, preferred]) => rememberPreferences(preferred)),
    ),
  { functional: true, dispatch: false },
);

/** Sound comes out where it is preferred. */
export const leadSound = createEffect(
  (store = inject<Store<AppState>>(Store), live = inject(Live)) =>
    store
      .select((state) => state.preferences)
      .pipe(
        tap(({ outputDevice, latency, pairs }) => {
          live.audio.setOutput({ deviceId: outputDevice, latency });
          live.audio.setPairs(pairs);
        }),
      ),
  { functional: true, dispatch: false },
);
