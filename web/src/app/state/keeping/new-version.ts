import { DestroyRef, inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { SwUpdate } from '@angular/service-worker';
import { filter, map } from 'rxjs';

/** Milliseconds after which it is looked for on the desk, and between two looks. */
const SOON = 4000;
const LATER = 1_800_000;

/** A new version of the program, which waits until the player takes it. */
@Injectable({ providedIn: 'root' })
export class NewVersion {
  private readonly updates = inject(SwUpdate);
  /** True once it is here. */
  readonly isReady = toSignal(
    this.updates.versionUpdates.pipe(
      filter(({ type }) => type === 'VERSION_READY'),
      map(() => true),
    ),
    { initialValue: false },
  );

  constructor() {
    if (!this.updates.isEnabled) return;
    const look = () => void this.updates.checkForUpdate().catch(() => undefined);
    const timers = [setTimeout(look, SOON), setInterval(look, LATER)];
    inject(DestroyRef).onDestroy(() => timers.forEach((timer) => clearTimeout(timer)));
  }

  /** Begins it: the page is opened anew at the same place. */
  take(): void {
    void this.updates.activateUpdate().finally(() => location.reload());
  }
}
