import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { history } from '../editing/history';
import type { AppState } from '../reducers';
import { NightDesk } from './night-desk';
import { StatusLine } from './status-line';

/** Takes back, and does again, what was done last: an edit, or giving up what was changed while playing. */
@Injectable({ providedIn: 'root' })
export class Undoing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly night = inject(NightDesk);
  private readonly status = inject(StatusLine);

  undo(): void {
    if (this.night.undo() === true)
      this.status.say('Undone: what was changed while playing is back.');
    else this.store.dispatch(history.undo());
  }

  redo(): void {
    this.store.dispatch(history.redo());
    this.night.redone();
  }
}
