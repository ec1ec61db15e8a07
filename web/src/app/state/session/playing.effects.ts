import { inject } from '@angular/core';
import { createEffect } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { createSelector, select, Store, type Action } from '@ngrx/store';
import { dequal } from 'dequal';
import {
  combineLatest,
  debounceTime,
  distinctUntilChanged,
  filter,
  interval,
  map,
  Observable,
  tap,
} from 'rxjs';
import { Live } from '../../live/live';
import type { ShowPlan } from '@pentachord/core/playing';
import type { AppState } from '../reducers';
import { selectUnmeasured } from '../machine/selectors';
import {
  selectDevices,
  selectRig,
  selectSession,
  selectShow,
  selectSoloedSet,
  selectSongs,
  selectPatterns,
  selectSounds,
  selectSteps,
  selectThings,
} from '../selectors';
import { measured } from '../machine/measured';
import { session, type HandsState } from './session';
import { StatusLine } from './status-line';

/** Milliseconds without a change after which the hand is taken to rest. */
const HAND_RESTS = 250;

/** Milliseconds between two looks at where hands have moved things. */
const HANDS_LOOKED_AT = 120;

const NO_TIES: ShowPlan['ties'] = [];

const selectPlan = createSelector(
  selectShow,
  selectDevices,
  selectRig,
  selectSongs,
  selectThings,
  selectSounds,
  selectPatterns,
  selectSteps,
  (show, devices, rig, songs, { patches, cues, rigs }, sounds, patterns, steps): ShowPlan | null =>
    show && {
      ...{ show, devices, rig, songs, patches, cues, sounds, patterns, steps },
      ties: show.rigId in rigs ? rigs[show.rigId].ties : NO_TIES,
    },
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
      tap(([plan, { entryId, songId, cueId, patchId, showtime, songOpen, balance }, soloed]) => {
        const asCue = showtime || songOpen || balance === 'cue';
        if (plan) live.follow(plan, { entryId, songId, cueId, patchId, soloed, asCue, showtime });
      }),
    ),
  { functional: true, dispatch: false },
);

/** The desk follows the player: pads, pedals and keys that go to another cue. */
export const followPlayer = createEffect(
  (live = inject(Live)) =>
    new Observable<ReturnType<typeof session.cueReached>>((subscriber) => {
      live.onStep = ({ entryId, songId, cueId }, patchId) =>
        subscriber.next(session.cueReached({ entryId, songId, cueId, patchId }));
    }),
  { functional: true },
);

/** The desk is told where hands have moved levels, picks and octaves: what it says has to be what is heard. */
export const followHands = createEffect(
  (store = inject<Store<AppState>>(Store), live = inject(Live)) =>
    interval(HANDS_LOOKED_AT).pipe(
      filter(() => live.isOpen),
      map(() => ({ changes: live.runner.changes, current: live.runner.current })),
      concatLatestFrom(() => store.select(selectDevices)),
      map(([{ current }, devices]): HandsState => {
        const octaves: Record<string, number> = {};
        const picks: Record<string, number> = {};
        devices.forEach(({ id }, at) => {
          const shift = live.player.shiftOf(at);
          if (shift) octaves[id] = shift / 12;
        });
        for (const { id } of current?.choosers ?? []) {
          const picked = live.player.pickedBy(id);
          if (picked !== null) picks[id] = picked;
        }
        return { octaves, picks, levels: live.runner.levelsNow() };
      }),
      distinctUntilChanged<HandsState>(dequal),
      map((hands) => session.handsMoved({ hands })),
    ),
  { functional: true },
);

/** What is plugged in or pulled out while playing is told by the names of the rig. */
export const tellOfPorts = createEffect(
  (store = inject<Store<AppState>>(Store), live = inject(Live), status = inject(StatusLine)) =>
    new Observable<[string, boolean]>((subscriber) => {
      live.onPort = (port, there) => subscriber.next([port, there]);
    }).pipe(
      concatLatestFrom(() => store.select(selectDevices)),
      tap(([[port, there], devices]) => {
        const names = devices.filter((d) => d.port === port && d.kind !== 'pedal');
        const name = names.map((device) => device.name).join(' and ') || `“${port}”`;
        status.say(
          there
            ? `${name} is plugged in and plays.`
            : `${name} is gone. What it held is ended; plugged in again it goes on.`,
        );
      }),
    ),
  { functional: true, dispatch: false },
);

/** What the worker measured of a sound, for plumb lines, remarks and balancing. */
export const followMeasuring = createEffect(
  (live = inject(Live)) =>
    new Observable<Action>((subscriber) => {
      live.sounds.onMeasured = (sourceId, response, voiceCost) =>
        subscriber.next(measured.sound({ sourceId, response, voiceCost }));
      live.sounds.onColoured = (key, response) =>
        subscriber.next(measured.coloured({ key, response }));
    }),
  { functional: true },
);

/** Sounds whose colour was changed are measured anew once the hand rests. */
export const measureColours = createEffect(
  (store = inject<Store<AppState>>(Store), live = inject(Live)) =>
    // Asked only once the hand rests: what is to be known is a matter of computing too.
    store.pipe(
      debounceTime(HAND_RESTS),
      select(selectUnmeasured),
      tap((unmeasured) => {
        if (live.isOpen) for (const coloured of unmeasured) live.sounds.measure(coloured);
      }),
    ),
  { functional: true, dispatch: false },
);
