import { inject } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import {
  auditTime,
  combineLatest,
  concatMap,
  debounceTime,
  filter,
  map,
  skip,
  switchMap,
  tap,
  withLatestFrom,
} from 'rxjs';
import { history } from '../editing/history';
import { selectHistory } from '../editing/selectors';
import { loading } from '../loading/loading';
import type { AppState } from '../reducers';
import { thingKey } from '../saving/saving';
import type { Unsaved } from '../show/document';
import { selectBase, selectUnsaved } from '../saving/selectors';
import { selectDatabase, selectLoading, selectThings } from '../selectors';
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

/** Milliseconds without an edit after which what can be undone is kept. */
const AFTER_EDIT = 150;

/** Keeps in this browser what can be undone, so that it survives a reload. */
export const keepHistory = createEffect(
  (store = inject<Store<AppState>>(Store), copy = inject(DeskCopy)) =>
    store.select(selectHistory).pipe(
      skip(1),
      debounceTime(AFTER_EDIT),
      withLatestFrom(store.select(selectThings), store.select(selectDatabase)),
      filter(([, , database]) => database !== null),
      concatMap(async ([history, things, database]) => {
        const { historyToKeep } = await import('./kept-history');
        copy.keepHistory({ database, ...historyToKeep(history, things) });
      }),
    ),
  { functional: true, dispatch: false },
);

/** Brings back what could be undone before this window was loaded anew. */
export const restoreHistory = createEffect(
  (actions = inject(Actions), store = inject<Store<AppState>>(Store), copy = inject(DeskCopy)) =>
    actions.pipe(
      ofType(loading.loaded),
      switchMap(async () => ({
        read: await copy.readHistory(),
        ...(await import('./kept-history')),
      })),
      withLatestFrom(store.select(selectThings), store.select(selectDatabase)),
      map(([{ read, historyStillTrue }, things, database]) =>
        historyStillTrue(read.kept, { database, window: read.window }, things),
      ),
      filter((found) => found !== null),
      map((found) => history.restored(found)),
    ),
  { functional: true },
);
