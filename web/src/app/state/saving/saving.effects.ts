import { inject } from '@angular/core';
import { createEffect } from '@ngrx/effects';
import { Store, type Action } from '@ngrx/store';
import { dequal } from 'dequal';
import { debounceTime, exhaustMap, filter, firstValueFrom, from } from 'rxjs';
import { Api } from './api';
import type { AppState } from '../reducers';
import { saving, type Unsaved } from './saving';
import { selectConflict, selectUnsaved } from '../selectors';

/** Milliseconds without a change before it is saved. */
const QUIET = 300;
const FIRST_WAIT = 1000;
const LONGEST_WAIT = 15_000;

/** Saves whatever differs from what the server has: debounced, revision-checked, retried. */
export const saveChanges = createEffect(
  (store = inject<Store<AppState>>(Store), api = inject(Api)) =>
    store.select(selectUnsaved).pipe(
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
    const outcome = await api.save(next);
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
        yield saving.refused({ conflict: { kind, id, present: outcome.present } });
        return;
      case 'failed':
        yield saving.failed({ problem: outcome.problem });
        await new Promise((resolve) => setTimeout(resolve, wait));
        wait = Math.min(wait * 2, LONGEST_WAIT);
    }
  }
}

async function nextToSave(store: Store<AppState>): Promise<Unsaved | null> {
  if (await firstValueFrom(store.select(selectConflict))) return null;
  return (await firstValueFrom(store.select(selectUnsaved))).at(0) ?? null;
}
