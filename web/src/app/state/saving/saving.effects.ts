import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store, type Action } from '@ngrx/store';
import { dequal } from 'dequal';
import {
  combineLatest,
  concatMap,
  debounceTime,
  exhaustMap,
  filter,
  firstValueFrom,
  from,
  map,
  tap,
} from 'rxjs';
import { Api } from './api';
import type { AppState } from '../reducers';
import { OtherWindows, type SavedThing } from './other-windows';
import { saving, thingKey } from './saving';
import type { Unsaved } from '../show/document';
import { selectBase, selectSendable, selectUnsaved } from './selectors';
import { selectDatabase, selectLoading } from '../selectors';
import { loading } from '../loading/loading';

/** Milliseconds without a change before it is saved. */
const QUIET = 300;
const FIRST_WAIT = 1000;
const LONGEST_WAIT = 15_000;

/** Saves whatever differs from what the server has: debounced, revision-checked, retried. */
export const saveChanges = createEffect(
  (store = inject<Store<AppState>>(Store), api = inject(Api)) =>
    store.select(selectSendable).pipe(
      filter((unsaved) => unsaved.length > 0),
      debounceTime(QUIET),
      exhaustMap(() => from(saveAll(store, api))),
    ),
  { functional: true },
);

async function* saveAll(store: Store<AppState>, api: Api): AsyncGenerator<Action> {
  let wait = FIRST_WAIT;
  for (;;) {
    const next = await nextToSave(store);
    if (!next) return;
    yield saving.begun();
    const { kind, id, revision, value } = next;
    const database = await firstValueFrom(store.select(selectDatabase));
    const outcome = await api.save(next, database);
    switch (outcome.kind) {
      case 'saved':
        if (value)
          yield saving.done({ kind, id, sent: { revision, value }, revision: outcome.revision });
        wait = FIRST_WAIT;
        break;
      case 'removed':
        yield saving.removed({ kind, id });
        break;
      case 'stale':
        // The answer to an earlier try was lost on the way: what is there now is what was sent.
        if (value && outcome.present && dequal(outcome.present.value, value)) {
          const now = outcome.present.revision;
          yield saving.done({ kind, id, sent: { revision, value }, revision: now });
          break;
        }
        yield saving.conflictMet({ conflict: { kind, id, present: outcome.present } });
        break;
      case 'refused':
        yield saving.setAside({ refused: { kind, id, problem: outcome.problem, value } });
        break;
      case 'failed':
        yield saving.failed({ problem: outcome.problem });
        await new Promise((resolve) => setTimeout(resolve, wait));
        wait = Math.min(wait * 2, LONGEST_WAIT);
    }
  }
}

async function nextToSave(store: Store<AppState>): Promise<Unsaved | null> {
  return (await firstValueFrom(store.select(selectSendable))).at(0) ?? null;
}

/** Tells the other windows what was saved here. */
export const tellWindows = createEffect(
  (actions = inject(Actions), others = inject(OtherWindows)) =>
    actions.pipe(
      ofType(saving.done, saving.removed),
      tap(({ kind, id }) => others.tell({ kind, id })),
    ),
  { functional: true, dispatch: false },
);

/** Follows what another window saves, as long as nothing of it is changed here. */
export const followWindows = createEffect(
  (store = inject<Store<AppState>>(Store), api = inject(Api), others = inject(OtherWindows)) =>
    others.saved.pipe(concatMap((thing) => from(followed(store, api, thing)))),
  { functional: true },
);

/** Opens everything anew when another window has brought a backup back or removed the demo, if nothing is unsaved here. */
export const followExchange = createEffect(
  (store = inject<Store<AppState>>(Store), others = inject(OtherWindows)) =>
    others.exchanged.pipe(
      concatMap(() =>
        firstValueFrom(combineLatest([store.select(selectUnsaved), store.select(selectLoading)])),
      ),
      filter(([unsaved, { status }]) => unsaved.length === 0 && status === 'open'),
      map(() => loading.asked()),
    ),
  { functional: true },
);

async function* followed(
  store: Store<AppState>,
  api: Api,
  { kind, id }: SavedThing,
): AsyncGenerator<Action> {
  const present = await api.find(kind, id).catch(() => undefined);
  if (present === undefined) return;
  const unsaved = await firstValueFrom(store.select(selectUnsaved));
  const base = await firstValueFrom(store.select(selectBase));
  const key = thingKey(kind, id);
  // What is changed here too is a matter for the player, when it is saved.
  if (unsaved.some((thing) => thingKey(thing.kind, thing.id) === key)) return;
  if ((present?.revision ?? 0) === (base[key]?.revision ?? 0)) return;
  yield saving.followed({ conflict: { kind, id, present } });
}
