import { inject } from '@angular/core';
import { createEffect } from '@ngrx/effects';
import { createSelector, Store } from '@ngrx/store';
import { combineLatest, filter, Observable, tap } from 'rxjs';
import { Live } from '../live/live';
import type { ShowPlan } from '../live/show-runner';
import type { AppState } from './reducers';
import {
  selectDevices,
  selectRig,
  selectSession,
  selectShow,
  selectSoloedSet,
  selectSongs,
  selectSounds,
  selectSteps,
  selectThings,
} from './selectors';
import { measured } from './measured';
import { session } from './session';

const selectPlan = createSelector(
  selectShow,
  selectDevices,
  selectRig,
  selectSongs,
  selectThings,
  selectSounds,
  selectSteps,
  (show, devices, rig, songs, { patches, cues }, sounds, steps): ShowPlan | null =>
    show && { show, devices, rig, songs, patches, cues, sounds, steps },
);

/** The player follows the desk: whatever is edited or chosen is heard at once. */
export const followDesk = createEffect(
  (store = inject<Store<AppState>>(Store), live = inject(Live)) =>
    combineLatest([
      store.select(selectPlan),
      store.select(selectSession),
      store.select(selectSoloedSet),
    ]).pipe(
      filter(([plan]) => plan !== null),
      tap(([plan, { songId, cueId, patchId, showtime }, soloed]) => {
        if (plan) live.follow(plan, { songId, cueId, patchId, soloed, showtime });
      }),
    ),
  { functional: true, dispatch: false },
);

/** The desk follows the player: pads, pedals and keys that go to another cue. */
export const followPlayer = createEffect(
  (live = inject(Live)) =>
    new Observable<ReturnType<typeof session.cueReached>>((subscriber) => {
      live.runner.onStep = ({ songId, cueId }, patchId) =>
        subscriber.next(session.cueReached({ songId, cueId, patchId }));
    }),
  { functional: true },
);

/** What the worker measured of a sound, for plumb lines, remarks and balancing. */
export const followMeasuring = createEffect(
  (live = inject(Live)) =>
    new Observable<ReturnType<typeof measured.sound>>((subscriber) => {
      live.sounds.onMeasured = (recipe, response, voiceCost) =>
        subscriber.next(measured.sound({ recipe, response, voiceCost }));
    }),
  { functional: true },
);
