import { Injectable, signal } from '@angular/core';

/** What was done last, in words: the line beside the running order shows it, and tells it to those who listen. */
@Injectable({ providedIn: 'root' })
export class StatusLine {
  private readonly last = signal('');
  /** Empty before the first. */
  readonly words = this.last.asReadonly();

  say(words: string): void {
    this.last.set(words);
  }
}
