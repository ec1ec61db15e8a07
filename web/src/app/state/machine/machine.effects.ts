import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, concatMap, EMPTY, exhaustMap, filter, from, of, skip, take, tap } from 'rxjs';
import { Live } from '../../live/live';
import { machine, machineSchema, type MachineState } from './machine';
import type { AppState } from '../reducers';

/** Where the browser keeps it. */
const KEY = 'pentachord machine';

function rememberedMachine(): MachineState | null {
  try {
    return machineSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? 'null'));
  } catch {
    return null;
  }
}

/** Measures the machine once, after the first show has been opened; from then on what was measured is remembered. */
export const knowMachine = createEffect(
  (store = inject<Store<AppState>>(Store), live = inject(Live)) =>
    store
      .select((state) => state.loading.status)
      .pipe(
        filter((status) => status === 'open'),
        take(1),
        concatMap(() => {
          const remembered = rememberedMachine();
          if (remembered) return of(machine.remembered({ machine: remembered }));
          return measured(live);
        }),
      ),
  { functional: true },
);

/** Measures anew when the player asks for it. */
export const measureAgain = createEffect(
  (actions = inject(Actions), live = inject(Live)) =>
    actions.pipe(
      ofType(machine.measuringAsked),
      exhaustMap(() => measured(live)),
    ),
  { functional: true },
);

/** What this machine can bear; nothing when that cannot be measured, and what was known goes on. */
function measured(live: Live) {
  return from(live.whenOpen.then(() => measure(live))).pipe(
    catchError(() => EMPTY),
    filter((known) => known !== null),
  );
}

async function measure(live: Live) {
  const budget = await live.sounds.gauge();
  if (budget === null) return null;
  const { measureEffects } = await import('../../live/audio/measured-effects');
  return machine.measured({ budget, effects: await measureEffects() });
}

/** Remembers what was measured and chosen. */
export const rememberMachine = createEffect(
  (store = inject<Store<AppState>>(Store)) =>
    store
      .select((state) => state.machine)
      .pipe(
        skip(1),
        tap((known) => {
          try {
            localStorage.setItem(KEY, JSON.stringify(known));
          } catch {
            // It is measured anew next time.
          }
        }),
      ),
  { functional: true, dispatch: false },
);
