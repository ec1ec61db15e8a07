import { Injectable, signal } from '@angular/core';
import { remembered, remember } from '../browser/storage';

/** The lock of this browser that the window holds which plays. */
const LOCK = 'pentachord plays';
/** Where it says which view of it plays. */
const VIEW = 'pentachord playing view';
/** Milliseconds for which a window that was just closed or crashed may still hold it, and between two tries. */
const LETS_GO = 1500;
const BETWEEN_TRIES = 250;
/** Milliseconds between two looks of a silent window, and looks after which a lock that nobody holds is taken. */
const BETWEEN_LOOKS = 2000;
const FREE_FOR = 3;

/** What a window does while it plays, and when it has to stop. */
export interface Playing {
  begin(): void;
  stop(): void;
}

/**
 * Which window of this browser plays: one at a time, or a desk that is left open would play its own patch into the show. It holds
 * a lock of the browser, which ends with the window however that ends; the others are silent, say so, and take over when asked.
 */
@Injectable({ providedIn: 'root' })
export class PlayingWindow {
  private readonly mine = signal(false);
  private readonly others = signal('');
  private part: Playing | null = null;
  /** Which view this window shows, in words. */
  private view = '';
  private letGo: (() => void) | null = null;
  private looks: ReturnType<typeof setInterval> | undefined;
  private free = 0;

  /** True while this window plays. */
  readonly plays = this.mine.asReadonly();
  /** Which view of another window plays, in words; empty while this one does, or none. */
  readonly elsewhere = this.others.asReadonly();

  /** Plays as soon as nobody else does. */
  async open(part: Playing): Promise<void> {
    this.part = part;
    const locks = lockManager();
    if (!locks) {
      // A browser without such locks tells no window of the others.
      this.begin();
      return;
    }
    for (let waited = 0; waited <= LETS_GO; waited += BETWEEN_TRIES) {
      if (await this.take({ ifAvailable: true })) return;
      await new Promise((resolve) => setTimeout(resolve, BETWEEN_TRIES));
    }
    this.stayOut();
  }

  /** Takes over from whoever plays. */
  async takeOver(): Promise<void> {
    if (this.mine()) return;
    // Before it is taken: the one it is taken from looks at once who plays now.
    this.writeView();
    await this.take({ steal: true });
  }

  /** Says which view this window shows, for the others while this one plays. */
  sayView(view: string): void {
    this.view = view;
    if (this.mine()) this.writeView();
  }

  private writeView(): void {
    if (this.view) remember(VIEW, this.view);
  }

  /** Asks for the lock; true once it is held, which lasts until it is let go or taken away. */
  private take(options: LockOptions): Promise<boolean> {
    return new Promise((resolve) => {
      lockManager()
        ?.request(LOCK, options, (lock) => {
          if (!lock) {
            resolve(false);
            return undefined;
          }
          resolve(true);
          this.begin();
          return new Promise<void>((end) => (this.letGo = end));
        })
        .catch(() => {
          // Taken away by another window that was asked to play.
          if (this.letGo) {
            this.end();
            return;
          }
          // Refused, as where no site data may be kept: as without such locks, no window knows of the others.
          this.begin();
          resolve(true);
        });
    });
  }

  private begin(): void {
    clearInterval(this.looks);
    this.mine.set(true);
    this.others.set('');
    this.writeView();
    this.part?.begin();
  }

  private end(): void {
    this.letGo = null;
    this.mine.set(false);
    this.part?.stop();
    this.stayOut();
  }

  private stayOut(): void {
    this.free = 0;
    this.look();
    clearInterval(this.looks);
    this.looks = setInterval(() => this.look(), BETWEEN_LOOKS);
  }

  private look(): void {
    this.others.set(remembered(VIEW) ?? 'Pentachord');
    void lockManager()
      ?.query()
      .then(({ held }) => {
        const isHeld = held?.some(({ name }) => name === LOCK) ?? false;
        this.free = isHeld ? 0 : this.free + 1;
        if (this.free >= FREE_FOR) void this.take({ ifAvailable: true });
      })
      .catch(() => undefined);
  }
}

function lockManager(): LockManager | null {
  return 'locks' in navigator ? navigator.locks : null;
}
