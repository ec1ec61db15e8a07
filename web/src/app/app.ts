import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { NavigationEnd, Router, RouterLink, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { filter, map } from 'rxjs';
import { Live } from './live/live';
import { DeskCopy } from './state/keeping/desk-copy';
import { loading } from './state/loading/loading';
import type { AppState } from './state/reducers';
import { selectLoading, selectSavingState } from './state/selectors';

/** The root: opens the show, turns sound on with the first click or key, and asks before unsaved work is left. */
@Component({
  selector: 'pc-root',
  imports: [MatButtonModule, RouterLink, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (state().status === 'failed' && !atBackups()) {
      <main class="failed" role="alert">
        <h1>The show could not be opened</h1>
        <p>{{ state().problem }}</p>
        <button type="button" matButton="filled" (click)="open()">Try again</button>
        <a matButton="outlined" routerLink="/backups">Look into the backups</a>
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
  private readonly copy = inject(DeskCopy);
  protected readonly state = this.store.selectSignal(selectLoading);
  private readonly saving = this.store.selectSignal(selectSavingState);

  private readonly router = inject(Router);
  /** Backups can be looked into when no show can be opened. */
  protected readonly atBackups = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects.startsWith('/backups')),
    ),
    { initialValue: false },
  );

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
    // What is not saved yet is kept in this browser; only where it keeps nothing would it be lost.
    const isKept = this.copy.problem() === '' && !this.copy.isWriting;
    if (this.saving().state !== 'saved' && !isKept) event.preventDefault();
  }
}
