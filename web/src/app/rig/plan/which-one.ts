import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { NOTE_ON } from '@pentachord/core/midi';
import { Live } from '../../live/live';

/** What was found: the port, and the channel it came on. */
export interface Found {
  port: string;
  channel: number;
}

/** Waits for whatever is played next, on any port, to find out which one it is. */
@Injectable()
export class WhichOne {
  private readonly live = inject(Live);
  private stop: (() => void) | null = null;
  readonly waiting = signal(false);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.cancel());
  }

  /** Calls back with the port of the next key, pad, knob or pedal; pressed again it waits no more. */
  wait(found: (port: Found) => void): void {
    const again = this.waiting();
    this.cancel();
    if (again) return;
    this.waiting.set(true);
    this.stop = this.live.host.tap((_time, port, _device, status, _data1, data2) => {
      const isLetGo = (status & 0xf0) < NOTE_ON || ((status & 0xf0) === NOTE_ON && data2 === 0);
      if (status >= 0xf0 || isLetGo) return;
      this.cancel();
      found({ port, channel: (status & 0x0f) + 1 });
    });
  }

  cancel(): void {
    this.stop?.();
    this.stop = null;
    this.waiting.set(false);
  }
}
