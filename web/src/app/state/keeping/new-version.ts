import { inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { SwUpdate } from '@angular/service-worker';
import { filter, map } from 'rxjs';

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

  /** Begins it: the page is opened anew at the same place. */
  take(): void {
    void this.updates.activateUpdate().finally(() => location.reload());
  }
}
