import { inject } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { createEffect } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { auditTime, combineLatest, filter, tap } from 'rxjs';
import type { AppState } from '../reducers';
import { thingKey } from '../saving/saving';
import type { Unsaved } from '../show/document';
import { selectBase, selectUnsaved } from '../saving/selectors';
import { selectDatabase, selectLoading } from '../selectors';
import { DeskCopy } from './desk-copy';

/** Milliseconds until what the server has is kept: the first views come first. */
const SOON = 1000;

/** Keeps in this browser what the server has, as it comes to be known. */
export const keepBase = createEffect(
  (store = inject<Store<AppState>>(Store), copy = inject(DeskCopy)) =>
    combineLatest([
      store.select(selectBase),
      store.select(selectDatabase),
      store.select(selectLoading),
      toObservable(copy.beginnings),
    ]).pipe(
      filter(([, , { status, isKept }]) => status === 'open' && !isKept),
      auditTime(SOON),
      tap(([base, database]) => {
        if (database !== null) copy.keepBase(base, database);
      }),
    ),
  { functional: true, dispatch: false },
);

/** Keeps in this browser what is not saved yet, from the very change on. */
export const keepUnsaved = createEffect(
  (store = inject<Store<AppState>>(Store), copy = inject(DeskCopy)) => {
    let before = new Map<string, Unsaved>();
    let begun = 0;
    return combineLatest([
      store.select(selectUnsaved),
      store.select(selectLoading),
      store.select(selectDatabase),
      toObservable(copy.beginnings),
    ]).pipe(
      filter(([, { status }]) => status === 'open'),
      tap(([unsaved, , database, beginnings]) => {
        if (beginnings !== begun) before = new Map();
        begun = beginnings;
        const now = new Map(unsaved.map((one) => [thingKey(one.kind, one.id), one]));
        const changes: { key: string; unsaved: Unsaved | null }[] = [];
        for (const [key, unsaved] of now) {
          const old = before.get(key);
          if (old?.value !== unsaved.value || old.revision !== unsaved.revision)
            changes.push({ key, unsaved });
        }
        for (const key of before.keys()) if (!now.has(key)) changes.push({ key, unsaved: null });
        before = now;
        if (database !== null) copy.keepUnsaved(changes, database);
      }),
    );
  },
  { functional: true, dispatch: false },
);
