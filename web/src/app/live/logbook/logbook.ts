import { inject, Injectable, signal } from '@angular/core';
import { goneOnWith, newTake, TakeRecorder } from '@pentachord/core/logbook';
import type { Take } from '@pentachord/core/model';
import { ownStorage } from '../browser/storage';
import { WRITING } from '../browser/writing-down';
import { Live } from '../live';
import { KeptTakes } from './kept-takes';

/** Milliseconds between two takings away, and how many of them are written at once. */
const LOOKED_AT = 250;
const WRITTEN_AFTER = 8;
/** Milliseconds since a take was written last within which a page that was loaded anew goes on with it. */
const GOES_ON_WITHIN = 30 * 60_000;
/** Hours after which a take that goes on is begun anew all the same. */
const LONGEST = 12 * 3600_000;

/** What is being written, for whoever shows it. */
export interface Writing {
  id: string;
  where: Take['where'];
  seconds: number;
  keys: number;
  lost: number;
}

/** Writes down what is played in this window: in Showtime by itself, on the desk when it is asked to. */
@Injectable({ providedIn: 'root' })
export class Logbook {
  private readonly live = inject(Live);
  private readonly kept = inject(KeptTakes);
  private readonly recorder = new TakeRecorder(this.live.whole, () => performance.now() / 1000);
  private readonly present = signal<Writing | null>(null);
  /** What is being written; null while nothing is. */
  readonly writing = this.present.asReadonly();
  private readonly trouble = signal('');
  /** Why this browser keeps nothing of it, in words; empty while it does. */
  readonly problem = this.trouble.asReadonly();
  private timer: ReturnType<typeof setInterval> | undefined;
  /** What was taken away and is not written yet. */
  private parts: Uint8Array<ArrayBuffer>[] = [];
  private take: Take | null = null;
  /** True while it is not known yet whether the take goes on with another. */
  private isLookedFor = false;
  private looks = 0;
  private works: Promise<void> = Promise.resolve();
  /** Counts what was begun, so that what comes late is known as such. */
  private begun = 0;

  constructor() {
    addEventListener('pagehide', () => {
      this.look();
      this.write();
    });
  }

  /** Begins a take, unless one of the same show is being written. */
  async follow(where: Take['where'], showId: string, show: string): Promise<void> {
    const { take } = this;
    if (take?.where === where && take.showId === showId) return;
    await this.begin(where, showId, show);
  }

  /**
   * Begins a take at once, so that not a key is missed; where one of the same show was written here before the page was loaded
   * anew, it turns out to be that one, which goes on.
   */
  async begin(where: Take['where'], showId: string | null, show: string): Promise<void> {
    this.end();
    const turn = ++this.begun;
    const name = where === 'desk' ? 'On the desk' : show || 'A night';
    const about = { id: crypto.randomUUID(), name, where, began: Date.now(), showId, show };
    this.recorder.begin(newTake(about));
    this.timer = setInterval(() => this.look(), LOOKED_AT);
    this.isLookedFor = true;
    this.look();
    const before = await this.interrupted(where, showId);
    if (turn !== this.begun) return;
    if (before) this.goOnWith(before);
    this.isLookedFor = false;
    this.look();
    if (this.take) this.remember(this.take);
    void this.kept.tidy(this.take?.id ?? null).catch(() => undefined);
  }

  private goOnWith(before: Take): void {
    this.look();
    const { take } = this;
    if (!take) return;
    const elapsed = (Date.now() - before.began) / 1000;
    const later = { take, roll: joined(this.parts.splice(0)) };
    const whole = goneOnWith(before, later, (take.began - before.began) / 1000);
    this.parts.push(new Uint8Array(whole.roll));
    this.recorder.begin(whole.take, elapsed);
  }

  /** Ends the take: what was played is kept in this browser. */
  end(): void {
    this.begun++;
    clearInterval(this.timer);
    this.isLookedFor = false;
    this.look();
    this.write();
    this.recorder.end();
    this.present.set(null);
    if (this.take) this.remember(null);
    this.take = null;
  }

  /** Comes true once everything that was written is on disk. */
  async written(): Promise<void> {
    await this.works;
  }

  private look(): void {
    const found = this.recorder.takeAway();
    if (!found) return;
    const { take, roll } = found;
    this.take = take;
    if (roll.length > 0) this.parts.push(roll);
    const { id, where, seconds, keys, lost } = take;
    this.present.set({ id, where, seconds, keys, lost });
    if (++this.looks % WRITTEN_AFTER === 0) this.write();
  }

  /** Puts on disk what came since; nothing before the first key. */
  private write(): void {
    const { take } = this;
    if (!take || take.keys === 0 || this.parts.length === 0 || this.isLookedFor) return;
    const roll = joined(this.parts.splice(0));
    this.works = this.works.then(async () => {
      try {
        await this.kept.add(take, roll);
        this.trouble.set('');
      } catch {
        // Of a take that is over it is no part of the next one.
        if (this.take?.id === take.id) this.parts.unshift(roll);
        this.trouble.set(
          'This browser has no room for what is played: it is kept until the page goes.',
        );
      }
    });
  }

  private remember(take: Take | null): void {
    try {
      const store = ownStorage();
      if (take) store?.setItem(WRITING, `${take.where} ${take.id}`);
      else store?.removeItem(WRITING);
    } catch {
      // Then a page that is loaded anew begins another take.
    }
  }

  /** The take that was being written when the page was loaded anew; null for none. */
  private async interrupted(where: Take['where'], showId: string | null): Promise<Take | null> {
    try {
      const id = ownStorage()?.getItem(WRITING)?.split(' ').at(1);
      const take = id ? await this.kept.heading(id) : null;
      if (take?.where !== where || take.showId !== showId) return null;
      const since = Date.now() - take.began;
      const rested = since - take.seconds * 1000;
      return rested >= 0 && rested < GOES_ON_WITHIN && since < LONGEST ? take : null;
    } catch {
      return null;
    }
  }
}

function joined(parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
