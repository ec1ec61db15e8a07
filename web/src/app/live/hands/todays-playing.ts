import { DestroyRef, inject, Injectable } from '@angular/core';
import * as z from 'zod';
import { Live } from '../live';

const KEY = 'pentachord playing today';
const rememberedSchema = z.object({
  day: z.string(),
  counts: z.array(z.number().int().min(0)).length(128),
});

/** How often each velocity has been played today, on any keyboard; kept over a reload. */
@Injectable({ providedIn: 'root' })
export class TodaysPlaying {
  private readonly live = inject(Live);
  private day = today();
  private counts = new Uint32Array(128);

  constructor() {
    try {
      const remembered = rememberedSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? 'null'));
      if (remembered.day === this.day) this.counts = Uint32Array.from(remembered.counts);
    } catch {
      // Nothing was played yet today, or it cannot be read: begin anew.
    }
    const stop = this.live.host.listenToKeys((_key, velocity) => {
      // What is heard again was played before.
      if (!this.live.isLent) this.count(velocity);
    });
    const keep = () => this.keep();
    addEventListener('pagehide', keep);
    inject(DestroyRef).onDestroy(() => {
      stop();
      removeEventListener('pagehide', keep);
    });
  }

  /** Notes counted so far, so that views know when to look again. */
  get total(): number {
    return this.counts.reduce((sum, count) => sum + count, 0);
  }

  /** Velocities that were played, each with how often. */
  velocities(): { velocity: number; count: number }[] {
    return [...this.counts].flatMap((count, velocity) => (count > 0 ? { velocity, count } : []));
  }

  private count(velocity: number): void {
    if (this.day !== today()) {
      this.day = today();
      this.counts.fill(0);
    }
    this.counts[velocity]++;
  }

  private keep(): void {
    try {
      localStorage.setItem(KEY, JSON.stringify({ day: this.day, counts: [...this.counts] }));
    } catch {
      // A browser without room counts from now on anew.
    }
  }
}

function today(): string {
  return new Date().toDateString();
}
