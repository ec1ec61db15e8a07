import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { Live } from './live/live';
import { loading } from './state/loading/loading';
import type { AppState } from './state/reducers';
import { selectLoading, selectSavingState } from './state/selectors';

/** The root: opens the show, turns sound on with the first click or key, and asks before unsaved work is left. */
@Component({
  selector: 'pc-root',
  imports: [MatButtonModule, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (state().status === 'failed') {
      <main class="failed" role="alert">
        <h1>The show could not be opened</h1>
        <p>{{ state().problem }}. Nothing was changed.</p>
        <p>See that Pentachord’s server is running, then try again.</p>
        <button type="button" matButton="filled" (click)="open()">Try again</button>
      </main>
    } @else {
      <router-outlet />
    }
  `,
  host: {
    '(document:pointerdown)': 'startSound()',
    '(document:keydown)': 'startSound()',
    '(window:beforeunload)': 'leave($event)',
  },
})
export class App {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  protected readonly state = this.store.selectSignal(selectLoading);
  private readonly saving = this.store.selectSignal(selectSavingState);

  constructor() {
    this.open();
  }

  protected open(): void {
    this.store.dispatch(loading.asked());
  }

  protected startSound(): void {
    if (this.live.isOpen && this.live.audio.audioState !== 'on') void this.live.start();
  }

  protected leave(event: BeforeUnloadEvent): void {
    if (this.saving().state !== 'saved') event.preventDefault();
  }
}
