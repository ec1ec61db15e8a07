import { inject, Injectable, signal } from '@angular/core';
import {
  playsThrough,
  TakeAgain,
  type MessageTaken,
  type PlaysAgain,
  type WholeTake,
} from '@pentachord/core/logbook';
import { NOTE_OFF, NOTE_ON } from '@pentachord/core/midi';
import { Live } from '../live';
import { Ticker } from '../ticker';

/** Hears takes again: their messages go through the same show and the same engine as those of hands. */
@Injectable({ providedIn: 'root' })
export class HeardAgain {
  private readonly live = inject(Live);
  private readonly running = signal<string | null>(null);
  /** Id of the take that is heard; null for none. */
  readonly hears = this.running.asReadonly();
  private again: TakeAgain | null = null;
  private giveBack: (() => void) | null = null;
  /** Where it stops, seconds of the take. */
  private end = 0;
  /** When the take would have begun, seconds of the page's clock. */
  private origin = 0;
  private to: PlaysAgain | null = null;
  /** Keys that went down in this tick, and those that are to come up with the next. */
  private readonly struck = new Set<number>();
  private late: MessageTaken[] = [];
  private readonly ticker = new Ticker(() => this.tick());

  /** Where it is, seconds of the take. */
  get at(): number {
    return Math.min(this.end, performance.now() / 1000 - this.origin);
  }

  /** Hears a take from a moment on, until another or its end; false when this window does not play. */
  begin(whole: WholeTake, from: number, until = whole.take.seconds): boolean {
    this.stop();
    const lent = this.live.lend();
    if (!lent) return false;
    const { plan, place, giveBack } = lent;
    this.giveBack = giveBack;
    const to = playsThrough(
      this.live.whole,
      plan,
      { ...place, soloed: new Set() },
      whole.take,
      (port, bytes, cable) => this.live.receive(port, bytes, cable),
    );
    this.to = { ...to, message: (message) => this.play(to, message) };
    this.again = new TakeAgain(whole);
    this.end = until;
    this.origin = performance.now() / 1000 - from;
    this.again.beginAt(from, this.to);
    this.running.set(whole.take.id);
    this.ticker.start();
    return true;
  }

  /** Stops: what sounds of it ends, and the desk is as it was. */
  stop(): void {
    const { giveBack } = this;
    this.again = null;
    this.to = null;
    this.late = [];
    this.struck.clear();
    this.giveBack = null;
    this.running.set(null);
    giveBack?.();
  }

  /** A key that comes up in the very tick in which it went down would not be heard: it comes up with the next. */
  private play(to: PlaysAgain, message: MessageTaken): void {
    const { status, data1, data2, sender } = message;
    const kind = status & 0xf0;
    const key = (sender * 16 + (status & 0x0f)) * 128 + data1;
    if (kind === NOTE_ON && data2 > 0) this.struck.add(key);
    else if ((kind === NOTE_OFF || kind === NOTE_ON) && this.struck.has(key)) {
      this.late.push(message);
      return;
    }
    to.message(message);
  }

  private tick(): boolean {
    const { again, to } = this;
    if (!again || !to) return false;
    this.struck.clear();
    for (const message of this.late.splice(0)) to.message(message);
    const now = performance.now() / 1000 - this.origin;
    again.playUntil(Math.min(now, this.end), to);
    if (now < this.end) return true;
    this.stop();
    return false;
  }
}
