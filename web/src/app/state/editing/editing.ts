import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import type { AppState } from '../reducers';
import type { Edit } from './edits';

/** The one door through which edits of the show and the library leave for the store. */
@Injectable({ providedIn: 'root' })
export class Editing {
  private readonly store = inject<Store<AppState>>(Store);

  /** Carries out an edit, as a step of undo. */
  do(edit: Edit): void {
    this.store.dispatch(edit);
  }
}
