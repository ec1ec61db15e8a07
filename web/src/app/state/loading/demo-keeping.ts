import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { filter, firstValueFrom } from 'rxjs';
import type { AppState } from '../reducers';
import { Api, ServerFault } from '../saving/api';
import { OtherWindows } from '../saving/other-windows';
import { selectSavingState } from '../saving/selectors';
import { selectDatabase, selectLoading, selectThings } from '../selectors';
import { StatusLine } from '../session/status-line';
import { loading } from './loading';

/** The demo show's id. */
export const DEMO_SHOW = 'demo-show';

/** Brings the demo show back and removes it whole. What is not saved yet is saved before, and everything is fetched anew. */
@Injectable({ providedIn: 'root' })
export class DemoKeeping {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly api = inject(Api);
  private readonly status = inject(StatusLine);
  private readonly others = inject(OtherWindows);
  private readonly database = this.store.selectSignal(selectDatabase);
  private readonly things = this.store.selectSignal(selectThings);
  readonly isThere = computed(() => DEMO_SHOW in this.things().shows);
  readonly busy = signal(false);

  /** Brings the demo, or what of it is not there; true when it is there then. */
  async bring(): Promise<boolean> {
    return this.exchange(async () => {
      await this.api.bringDemo(this.database());
      return 'The demo is here: Night Tide at Pier Nine.';
    });
  }

  /** Removes the demo whole, except for songs that other shows need. */
  async remove(): Promise<boolean> {
    return this.exchange(async () => {
      const kept = await this.api.removeDemo(this.database());
      const stay =
        kept.length > 0 ? ` ${kept.join(', ')} stay, since another show needs them.` : '';
      return `The demo is removed; the backup of just before holds it.${stay}`;
    });
  }

  private async exchange(work: () => Promise<string>): Promise<boolean> {
    if (this.busy()) return false;
    this.busy.set(true);
    try {
      await this.allSaved();
      const words = await work();
      this.others.tellExchanged();
      this.store.dispatch(loading.asked());
      await firstValueFrom(
        this.store.select(selectLoading).pipe(filter(({ status }) => status !== 'opening')),
      );
      this.status.say(words);
      return true;
    } catch (error) {
      this.status.say(
        error instanceof ServerFault
          ? error.message
          : 'The server does not answer. Nothing was changed; try again.',
      );
      return false;
    } finally {
      this.busy.set(false);
    }
  }

  /** Comes true once everything is saved; what cannot be saved is not waited for. */
  private async allSaved(): Promise<void> {
    const state = await firstValueFrom(
      this.store.select(selectSavingState).pipe(filter((saving) => saving.state !== 'saving')),
    );
    if (state.state === 'not saved')
      throw new ServerFault('Something is not saved yet. Nothing was changed; see the top line.');
  }
}
