import { inject, Injectable, signal } from '@angular/core';
import { LiveAnnouncer } from '@angular/cdk/a11y';

/** What was done last, in words, for the line over the running order and for those who listen. */
@Injectable({ providedIn: 'root' })
export class StatusLine {
  private readonly announcer = inject(LiveAnnouncer);
  private readonly last = signal('');
  /** Empty before the first. */
  readonly words = this.last.asReadonly();

  say(words: string): void {
    this.last.set(words);
    void this.announcer.announce(words);
  }
}
