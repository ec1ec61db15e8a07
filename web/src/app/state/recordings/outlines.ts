import { inject, Injectable, signal } from '@angular/core';
import { URGENCY } from '../../live/audio/recording-workers';
import { Live } from '../../live/live';

/** How recordings look from afar, made when one is to be seen and remembered while the page is there. */
@Injectable({ providedIn: 'root' })
export class Outlines {
  private readonly live = inject(Live);
  private readonly known = signal<ReadonlyMap<string, Int8Array>>(new Map());
  private readonly asked = new Set<string>();

  /** The outline of a recording; null until it is made. Read within a computation, it is read anew then. */
  of(recordingId: string): Int8Array | null {
    const known = this.known().get(recordingId);
    if (!known && !this.asked.has(recordingId)) {
      this.asked.add(recordingId);
      void this.make(recordingId);
    }
    return known ?? null;
  }

  know(recordingId: string, outline: Int8Array): void {
    this.asked.add(recordingId);
    this.known.update((all) => new Map(all).set(recordingId, outline));
  }

  private async make(recordingId: string): Promise<void> {
    const { workers } = this.live.sounds.recorded;
    try {
      const { outline } = await workers.ask({ kind: 'look', recordingId }, URGENCY.measured);
      this.know(recordingId, outline);
    } catch {
      // It is not there; it is told elsewhere, and looked for again when it is shown anew.
      this.asked.delete(recordingId);
    }
  }
}
