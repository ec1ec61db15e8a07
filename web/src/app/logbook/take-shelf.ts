import { computed, inject, Injectable, signal } from '@angular/core';
import { takeInShort, type TakeInShort, type TakeWords } from '@pentachord/core/model';
import type { WholeTake } from '@pentachord/core/logbook';
import { KeptTakes } from '../live/logbook/kept-takes';
import { TakesApi } from './takes-api';

/** A take as the list shows it. */
export interface ShelvedTake extends TakeInShort {
  /** Whether the server keeps it for good. */
  isKept: boolean;
  /** Whether it has gone on here since it was kept. */
  isBehind: boolean;
  /** Until when this browser has it, milliseconds of the day's clock; null for one that is not here. */
  until: number | null;
}

const wordsOf = (fault: unknown): string =>
  fault instanceof Error ? fault.message : String(fault);

/** All takes: those that this browser still has, and those that the server keeps. */
@Injectable()
export class TakeShelf {
  private readonly here = inject(KeptTakes);
  private readonly api = inject(TakesApi);
  private readonly present = signal<ShelvedTake[] | null>(null);
  /** The latest first; null until they are known. */
  readonly takes = this.present.asReadonly();
  private readonly unseen = signal('');
  private readonly trouble = signal('');
  /** What went wrong last, in words, and why not all that is kept is seen; empty for nothing. */
  readonly problem = computed(() => this.trouble() || this.unseen());
  private readonly lastRemoved = signal<{ whole: WholeTake; isKept: boolean } | null>(null);
  /** What was removed last and can be brought back. */
  readonly removed = this.lastRemoved.asReadonly();

  /** Looks at what there is. Without the server there is what this browser has. */
  async look(): Promise<void> {
    this.unseen.set('');
    const [here, kept] = await Promise.all([
      this.here.all().catch(() => []),
      this.api.list().catch((fault: unknown) => {
        this.unseen.set(`What is kept for good is not shown. ${wordsOf(fault)}`);
        return [];
      }),
    ]);
    const takes = new Map<string, ShelvedTake>();
    for (const one of kept)
      takes.set(one.id, { ...one, isKept: true, isBehind: false, until: null });
    for (const { until, ...one } of here) {
      const known = takes.get(one.id);
      // What a player has said of it is the same in both; the roll may have gone on here.
      const isBehind = known !== undefined && known.seconds < one.seconds;
      takes.set(one.id, { ...one, isKept: known !== undefined, isBehind, until });
    }
    this.present.set([...takes.values()].sort((a, b) => b.began - a.began));
  }

  /** A take with its roll; null where it cannot be had, which is told. */
  async find({ id, until }: ShelvedTake): Promise<WholeTake | null> {
    let found: WholeTake | null = null;
    await this.doing(async () => {
      const here = until === null ? null : await this.here.find(id).catch(() => null);
      found = here ?? (await this.api.find(id));
    });
    return found;
  }

  /** Has the server keep a take for good. */
  async keep(whole: WholeTake): Promise<boolean> {
    const isDone = await this.doing(() => this.api.keep(whole));
    if (isDone) this.change(whole.take.id, (one) => ({ ...one, isKept: true, isBehind: false }));
    return isDone;
  }

  /** Takes over what a player says of a take. */
  async say(take: ShelvedTake, words: TakeWords): Promise<boolean> {
    return this.doing(async () => {
      if (take.isKept) await this.api.say(take.id, words);
      if (take.until !== null) await this.here.say(take.id, words);
      this.change(take.id, (one) => ({ ...one, ...words }));
    });
  }

  /** Removes a take everywhere; it can be brought back as long as the view is open. */
  async remove(take: ShelvedTake): Promise<boolean> {
    const whole = await this.find(take);
    return this.doing(async () => {
      if (take.isKept) await this.api.remove(take.id);
      await this.here.remove(take.id).catch(() => undefined);
      if (whole) this.lastRemoved.set({ whole, isKept: take.isKept });
      this.present.update((all) => all && all.filter(({ id }) => id !== take.id));
    });
  }

  /** Takes in what was brought from elsewhere; this browser has it like what was played in it. */
  async takeIn({ take, roll }: WholeTake): Promise<ShelvedTake | null> {
    await this.doing(() => this.here.add(take, new Uint8Array(roll)));
    await this.look();
    return this.present()?.find(({ id }) => id === take.id) ?? null;
  }

  /** Says why something could not be taken in. */
  refuse(words: string): void {
    this.trouble.set(words);
  }

  /** Brings back what was removed last. */
  async bringBack(): Promise<void> {
    const last = this.lastRemoved();
    if (!last) return;
    const { whole, isKept } = last;
    await this.doing(async () => {
      if (isKept) await this.api.keep(whole);
      else await this.here.add(whole.take, new Uint8Array(whole.roll));
      this.lastRemoved.set(null);
      const until = isKept ? null : Date.now();
      const one: ShelvedTake = { ...takeInShort(whole.take), isKept, isBehind: false, until };
      this.present.update((all) => [...(all ?? []), one].sort((a, b) => b.began - a.began));
      await this.look();
    });
  }

  private change(id: string, to: (one: ShelvedTake) => ShelvedTake): void {
    this.present.update((all) => all && all.map((one) => (one.id === id ? to(one) : one)));
  }

  private async doing(work: () => Promise<unknown>): Promise<boolean> {
    this.trouble.set('');
    try {
      await work();
      return true;
    } catch (fault) {
      this.trouble.set(wordsOf(fault));
      return false;
    }
  }
}
