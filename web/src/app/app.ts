import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { NavigationEnd, Router, RouterLink, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { filter, map } from 'rxjs';
import { Live } from './live/live';
import { MissingPart } from './missing-part';
import { DeskCopy } from './state/keeping/desk-copy';
import { loading } from './state/loading/loading';
import type { AppState } from './state/reducers';
import { selectSavingState } from './state/saving/selectors';
import { selectLoading } from './state/selectors';

/** Letters that are taken into a field of one line at once. */
const LONGEST_PASTED = 500;

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
    @if (parts.isMissing()) {
      <aside class="missing" role="alert">
        <p>
          A part of the program could not be fetched: Pentachord has been renewed since this page
          was opened, or its server is away. What you changed is safe. Load the page anew, between
          songs if you play.
        </p>
        <button type="button" matButton="filled" (click)="loadAnew()">Load anew</button>
        <button type="button" matButton="outlined" (click)="parts.dismiss()">Not now</button>
      </aside>
    }
  `,
  styles: `
    .missing {
      position: fixed;
      z-index: 950;
      left: 50%;
      bottom: 16px;
      transform: translateX(-50%);
      display: flex;
      align-items: center;
      gap: 12px;
      width: min(720px, 94vw);
      padding: 8px 16px;
      border: 2px solid var(--alarm);
      border-radius: 6px;
      background: #fff;
      color: #16243a;
    }
  `,
  host: {
    '(document:pointerdown)': 'startSound()',
    '(document:keydown)': 'startSound()',
    '(document:paste)': 'bound($event)',
    '(document:drop)': 'bound($event)',
    '(window:beforeunload)': 'leave($event)',
  },
})
export class App {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly copy = inject(DeskCopy);
  protected readonly parts = inject(MissingPart);
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

  /** A field of one line takes no novel: as much as any of them holds, so that nobody waits for the rest. */
  protected bound(event: ClipboardEvent | DragEvent): void {
    const { target } = event;
    if (!(target instanceof HTMLInputElement)) return;
    const data = event instanceof DragEvent ? event.dataTransfer : event.clipboardData;
    const text = data?.getData('text/plain') ?? '';
    if (text.length <= LONGEST_PASTED) return;
    event.preventDefault();
    target.focus();
    const [from, to] = [target.selectionStart ?? 0, target.selectionEnd ?? 0];
    target.setRangeText(text.slice(0, LONGEST_PASTED), from, to, 'end');
    target.dispatchEvent(new Event('input', { bubbles: true }));
  }

  protected loadAnew(): void {
    location.reload();
  }

  protected startSound(): void {
    // A touch that comes before this window knows that it plays is not lost: sound begins with that.
    if (this.live.audio.audioState !== 'on') void this.live.start();
  }

  protected leave(event: BeforeUnloadEvent): void {
    // What is not saved yet is kept in this browser; only where it keeps nothing would it be lost.
    const isKept = this.copy.problem() === '' && !this.copy.isWriting;
    if (this.saving().state !== 'saved' && !isKept) event.preventDefault();
  }
}
