import { inject } from '@angular/core';
import { NavigationStart, Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { filter, merge, tap } from 'rxjs';
import { isEdit } from '../editing/edits';
import { history } from '../editing/history';
import { session } from './session';
import { StatusLine } from './status-line';

/** What was said last ends when something else is done, or the player goes elsewhere. */
export const endStatus = createEffect(
  (actions = inject(Actions), status = inject(StatusLine), router = inject(Router)) =>
    merge(
      actions.pipe(filter(isEdit)),
      actions.pipe(
        ofType(
          history.undo,
          history.redo,
          session.cueReached,
          session.patchOpened,
          session.showOpened,
        ),
      ),
      router.events.pipe(filter((event) => event instanceof NavigationStart)),
    ).pipe(tap(() => status.goOn())),
  { functional: true, dispatch: false },
);
