import { Injectable, signal } from '@angular/core';

/** Milliseconds within which what is done belongs to what was said of it. */
const OF_ONE_DEED = 60;

/** What was done last, in words: the line beside the running order shows it, and tells it to those who listen. */
@Injectable({ providedIn: 'root' })
export class StatusLine {
  private readonly last = signal('');
  private saidAt = -Infinity;
  /** Empty before the first, and once something else has happened. */
  readonly words = this.last.asReadonly();

  say(words: string): void {
    this.saidAt = performance.now();
    this.last.set(words);
  }

  /** Something was done, or the player has gone elsewhere: what was said of another deed is over. */
  goOn(): void {
    if (performance.now() - this.saidAt > OF_ONE_DEED) this.last.set('');
  }
}
