import { Injectable, signal } from '@angular/core';

/** What was done last, in words: the line beside the running order shows it, and tells it to those who listen. */
@Injectable({ providedIn: 'root' })
export class StatusLine {
  private readonly last = signal('');
  /** True in the turn in which something was said: what is done in it is what the words are about. */
  private isFresh = false;
  /** Empty before the first, and once something else has happened. */
  readonly words = this.last.asReadonly();

  say(words: string): void {
    this.isFresh = true;
    setTimeout(() => (this.isFresh = false));
    this.last.set(words);
  }

  /** Something was done, or the player has gone elsewhere: what was said of another deed is over. */
  goOn(): void {
    if (!this.isFresh) this.last.set('');
  }
}
