import { inject, Injectable, signal } from '@angular/core';
import {
  nightSchema,
  type Kind,
  type Night,
  type Saved,
  type ValueOf,
} from '@pentachord/core/model';
import { openDB, type IDBPDatabase } from 'idb';
import * as z from 'zod';
import { ownStorage } from '../../live/browser/storage';
import { PlayingWindow } from '../../live/window/playing-window';
import type { Unsaved } from '../show/document';
import type { DeskStores } from './desk-stores';
import { puttingOf, readUnsaved, wholeOnes } from './kept-things';
import { forgetSettled, isSettled, settle, type Putting } from './settled';
import { putHistory, readHistory } from './window-histories';
import { bookmarkSchema, type Bookmark } from '../session/session';

/** What the server had when it was last heard, and what was changed here and not saved yet. */
export interface KeptDesk {
  /** Name of the server's database. */
  database: string;
  /** What the server had, by kind and id; checked only when it is asked for. */
  base: () => Record<string, Saved<ValueOf<Kind>>>;
  /** Changes that belong to this database; those of another one wait for it. */
  unsaved: Unsaved[];
}

/** Shows whose nights are remembered. */
const MOST_NIGHTS = 12;

/** What is remembered apart, each with when it was written, milliseconds of the day's clock. */
const remembered = {
  place: z.object({ at: z.number(), value: bookmarkSchema }),
  /** Of the shows played last, the latest first. */
  nights: z.object({ at: z.number(), value: z.array(nightSchema).max(MOST_NIGHTS) }),
};
type Remembered = keyof typeof remembered;

/** Where the player is, and the nights as they are played. */
export interface KeptPlace {
  bookmark: Bookmark | null;
  nights: Night[];
}

/** What stands before a name in the browser's own store. */
const PREFIX = 'pentachord ';
const NOTHING_KNOWN: ReadonlyMap<string, number> = new Map();
/** Milliseconds for which a browser's storage is waited for. */
const PATIENCE = 1500;
/** Milliseconds from one writing of what is not saved to the next: a hand that drags changes it in every frame. */
const BREATH = 400;
/** Milliseconds between two tries to keep everything where there was no room. */
const BETWEEN_TRIES = 30_000;

/** How keeping stands, in words for the player; empty while all is well. */
export type KeepingProblem = '' | 'no storage' | 'storage full';

/**
 * A copy of the whole desk in this browser, so that a show goes on when the server is gone and the page is opened anew: what
 * the server had, what is not saved yet, and where the player is. Writing goes one after the other and never throws.
 */
@Injectable({ providedIn: 'root' })
export class DeskCopy {
  private readonly window: Pick<PlayingWindow, 'plays'> = inject(PlayingWindow);
  private database: Promise<IDBPDatabase<DeskStores> | null> | null = null;
  private writing: Promise<void> = Promise.resolve();
  private writes = 0;
  /** This page among those of the browser, and how many changes it has kept. */
  private readonly page = crypto.randomUUID();
  private puts = 0;
  /** What is to be written next. */
  private readonly waiting = new Map<string, (Unsaved & Putting) | null>();
  /** What was to be written last, if it was not. */
  private unwritten: ReadonlyMap<string, (Unsaved & Putting) | null> = new Map();
  /** Until when the next change waits, milliseconds of the page's clock, and what waits for it. */
  private restUntil = 0;
  private resting: ReturnType<typeof setTimeout> | undefined;
  private readonly remembering = new Map<Remembered, unknown>();
  /** Revisions that this page has written of a database: what an earlier version kept may have had another shape. */
  private known: { database: string | null; revisions: ReadonlyMap<string, number> } = {
    ...{ database: null, revisions: NOTHING_KNOWN },
  };
  private readonly trouble = signal<KeepingProblem>('');
  /** What was remembered of this page, for a browser that keeps nothing. */
  private place: KeptPlace = { bookmark: null, nights: [] };

  constructor() {
    // A hand that has just let go may close the page: what waits for its turn is written now.
    globalThis.addEventListener?.('pagehide', () => {
      if (this.resting !== undefined) this.writeUnsaved();
    });
  }

  /** Why this browser keeps nothing, or not everything. */
  readonly problem = this.trouble.asReadonly();

  private readonly begun = signal(0);
  /** Rises when the browser's storage is there late, anew and empty, or has room again: then everything has to be kept once more. */
  readonly beginnings = this.begun.asReadonly();
  private wasOpen = false;
  /** Whether something could not be written: with the next writing that succeeds everything is kept once more. */
  private missed = false;
  /** When that may be tried again, milliseconds of the page's clock: nobody who plays is kept busy by a full disk. */
  private triedAgainAt = 0;

  /** True while something is still being written. */
  get isWriting(): boolean {
    return this.writes > 0 || this.resting !== undefined;
  }

  /** The kept desk; null when there is none, or it cannot be read. */
  async read(): Promise<KeptDesk | null> {
    if (this.resting !== undefined) this.writeUnsaved();
    await this.writing;
    try {
      const database = await this.open();
      if (!database) return null;
      const transaction = database.transaction(['about', 'base', 'unsaved']);
      const [name, baseKeys, base, keys, unsaved] = await Promise.all([
        transaction.objectStore('about').get('database'),
        transaction.objectStore('base').getAllKeys(),
        transaction.objectStore('base').getAll(),
        transaction.objectStore('unsaved').getAllKeys(),
        transaction.objectStore('unsaved').getAll(),
      ]);
      if (typeof name !== 'string') return null;
      const found: KeptDesk = {
        database: name,
        base: () => wholeOnes(baseKeys, base),
        unsaved: [],
      };
      keys.forEach((key, i) => {
        const own = key.startsWith(`${name} `) ? key.slice(name.length + 1) : null;
        const one = own === null ? null : readUnsaved(own, unsaved[i]);
        const put = puttingOf(unsaved[i]);
        if (isSettled(key, put)) this.takeOut(key, put);
        else if (one) found.unsaved.push(one);
      });
      return found;
    } catch {
      this.trouble.set('no storage');
      return null;
    }
  }

  /** Takes out what is no news any more, unless it has been kept anew since. */
  private takeOut(key: string, { page, n }: Partial<Putting>): void {
    this.write(async (connection) => {
      const transaction = connection.transaction('unsaved', 'readwrite');
      const now = await transaction.store.get(key);
      if (now?.page === page && now?.n === n) await transaction.store.delete(key);
      await transaction.done;
      if (page !== undefined) forgetSettled(new Set([key]), page);
    });
  }

  /** Keeps what the server has: what is of another revision is written, what is gone is taken out. */
  keepBase(base: Record<string, Saved<ValueOf<Kind>>>, database: string): void {
    const isAnother = this.known.database !== database;
    const before = isAnother ? NOTHING_KNOWN : this.known.revisions;
    const revisions = new Map(Object.entries(base).map(([key, { revision }]) => [key, revision]));
    const written = [...revisions].filter(([key, revision]) => before.get(key) !== revision);
    const gone = [...before.keys()].filter((key) => !revisions.has(key));
    this.known = { database, revisions };
    if (!isAnother && written.length === 0 && gone.length === 0) return;
    this.write(async (connection) => {
      const transaction = connection.transaction(['about', 'base'], 'readwrite');
      const store = transaction.objectStore('base');
      const asked: Promise<unknown>[] = [];
      if (isAnother)
        asked.push(transaction.objectStore('about').put(database, 'database'), store.clear());
      for (const [key] of written) asked.push(store.put(base[key], key));
      for (const key of gone) asked.push(store.delete(key));
      await Promise.all([...asked, transaction.done]);
    });
  }

  /**
   * Keeps changes of a database that the server does not have yet; null for one that it has now. The first is written at once,
   * those that follow it fast together, a little later.
   */
  keepUnsaved(changes: { key: string; unsaved: Unsaved | null }[], database: string): void {
    if (changes.length === 0) return;
    const isWaiting = this.waiting.size > 0;
    for (const { key, unsaved } of changes) {
      const name = `${database} ${key}`;
      if (unsaved === null) settle(name, { page: this.page, n: this.puts });
      this.waiting.set(name, unsaved && { ...unsaved, page: this.page, n: ++this.puts });
    }
    if (isWaiting) return;
    const rest = this.restUntil - performance.now();
    if (rest <= 0) this.writeUnsaved();
    else this.resting = setTimeout(() => this.writeUnsaved(), rest);
  }

  private writeUnsaved(): void {
    clearTimeout(this.resting);
    this.resting = undefined;
    this.restUntil = performance.now() + BREATH;
    this.write(async (connection) => {
      const now = new Map([...this.unwritten, ...this.waiting]);
      this.waiting.clear();
      this.unwritten = now;
      const transaction = connection.transaction('unsaved', 'readwrite', { durability: 'strict' });
      const asked = [...now].map(([key, unsaved]) =>
        unsaved ? transaction.store.put(toKeep(unsaved), key) : transaction.store.delete(key),
      );
      await Promise.all([...asked, transaction.done]);
      this.unwritten = new Map();
      const gone = [...now].filter(([key, put]) => !put && !this.waiting.has(key));
      forgetSettled(new Set(gone.map(([key]) => key)), this.page);
    });
  }

  /** Remembers a night. */
  keepNight(night: Night): void {
    const others = this.place.nights.filter(({ showId }) => showId !== night.showId);
    const nights = [night, ...others].slice(0, MOST_NIGHTS);
    this.place = { ...this.place, nights };
    // What is played is the business of the window that plays.
    if (this.window.plays()) this.remember('nights', nights);
  }

  /** Keeps what can be undone in this window. */
  keepHistory(kept: object): void {
    this.write((connection) => putHistory(connection, kept));
  }

  /** What was kept of that, unread, with the name of this window, whose it should be. */
  async readHistory(): Promise<{ kept: unknown; window: string }> {
    try {
      return await readHistory(await this.open());
    } catch {
      return readHistory(null);
    }
  }

  /** Remembers where the player is. */
  keepPlace(bookmark: Bookmark): void {
    this.place = { ...this.place, bookmark };
    this.rememberHere(bookmark);
    // Where the show is played is for the window that plays to say.
    if (this.window.plays()) this.remember('place', bookmark);
  }

  /** For this window alone: it comes back to its own place after a reload. */
  private rememberHere(bookmark: Bookmark): void {
    try {
      ownStorage()?.setItem(PREFIX + 'place', JSON.stringify(bookmark));
    } catch {
      // Then it comes back to where the show is played.
    }
  }

  private rememberedHere(): Bookmark | null {
    try {
      const kept: unknown = JSON.parse(ownStorage()?.getItem(PREFIX + 'place') ?? 'null');
      return bookmarkSchema.safeParse(kept).data ?? null;
    } catch {
      return null;
    }
  }

  /** Where the player was and what the nights are, as far as they can be read. */
  async readPlace(): Promise<KeptPlace> {
    const [bookmark, nights] = await Promise.all([
      this.recall('place', remembered.place),
      this.recall('nights', remembered.nights),
    ]);
    this.place = {
      bookmark: this.rememberedHere() ?? bookmark?.value ?? this.place.bookmark,
      nights: nights?.value ?? this.place.nights,
    };
    return this.place;
  }

  /** At once, for the next page that is opened, and on disk as soon as may be. */
  private remember(name: Remembered, value: unknown): void {
    const kept = { at: Date.now(), value };
    try {
      localStorage.setItem(PREFIX + name, JSON.stringify(kept));
    } catch {
      this.trouble.set('storage full');
    }
    const isWaiting = this.remembering.has(name);
    this.remembering.set(name, kept);
    if (isWaiting) return;
    this.write(async (connection) => {
      const latest = this.remembering.get(name);
      this.remembering.delete(name);
      const transaction = connection.transaction('about', 'readwrite', { durability: 'strict' });
      await transaction.store.put(latest, name);
      await transaction.done;
    });
  }

  /** Of the two places where something is remembered, what was written last. */
  private async recall<V>(
    name: Remembered,
    schema: z.ZodType<{ at: number; value: V }>,
  ): Promise<{ at: number; value: V } | null> {
    let quick: { at: number; value: V } | null = null;
    try {
      quick = schema.parse(JSON.parse(localStorage.getItem(PREFIX + name) ?? 'null'));
    } catch {
      // Nothing is there, or it cannot be read.
    }
    let sure: typeof quick = null;
    try {
      sure = schema.safeParse(await (await this.open())?.get('about', name)).data ?? null;
    } catch {
      // Then there is the quick one, or none.
    }
    return quick && sure ? (sure.at > quick.at ? sure : quick) : (quick ?? sure);
  }

  private write(work: (database: IDBPDatabase<DeskStores>) => Promise<void>): void {
    this.writes++;
    this.writing = this.writing.then(async () => {
      try {
        const database = await this.open();
        if (!database) return;
        await work(database);
        if (this.missed) this.tryWholeAgain();
        else if (this.trouble() === 'storage full') this.trouble.set('');
      } catch (error) {
        this.missed = true;
        const isFull = error instanceof DOMException && error.name === 'QuotaExceededError';
        this.trouble.set(isFull ? 'storage full' : 'no storage');
        if (!isFull) this.database = null;
      } finally {
        this.writes--;
      }
    });
  }

  private open(): Promise<IDBPDatabase<DeskStores> | null> {
    if (this.database) return this.database;
    const connecting = this.connect();
    const opened = Promise.race([connecting, inTime()]);
    this.database = opened;
    void opened.then(async (inTime) => {
      if (inTime) return;
      this.trouble.set('no storage');
      const late = await connecting;
      if (!late || this.database !== opened) return;
      this.database = Promise.resolve(late);
      this.beginAnew();
    });
    return opened;
  }

  private tryWholeAgain(): void {
    const now = performance.now();
    if (now < this.triedAgainAt) return;
    this.triedAgainAt = now + BETWEEN_TRIES;
    this.beginAnew();
  }

  /** What this page has written is not all there: the storage came late, had no room, or the browser has thrown it away. */
  private beginAnew(): void {
    this.missed = false;
    this.known = { database: null, revisions: NOTHING_KNOWN };
    this.trouble.set('');
    this.begun.update((times) => times + 1);
  }

  private async connect(): Promise<IDBPDatabase<DeskStores> | null> {
    let isNew = false;
    try {
      const database = await openDB<DeskStores>('pentachord desk', 1, {
        upgrade(made) {
          isNew = true;
          made.createObjectStore('about');
          made.createObjectStore('base');
          made.createObjectStore('unsaved');
        },
        // A later version of the program opens it in another window: this one keeps on without.
        blocking: (_now, _blocked, event) => {
          (event.target as IDBDatabase).close();
          this.trouble.set('no storage');
          this.database = Promise.resolve(null);
        },
        // The browser has let it go, deleted or not: it is opened once more, which shows what is left of it.
        terminated: () => {
          this.database = null;
          void this.open();
        },
      });
      if (isNew && this.wasOpen) queueMicrotask(() => this.beginAnew());
      this.wasOpen = true;
      return database;
    } catch {
      this.trouble.set('no storage');
      return null;
    }
  }
}

function toKeep({ revision, value, page, n }: Unsaved & Putting) {
  return { revision, value, page, n };
}

/** Null after as long as one waits for a storage that does not answer. */
function inTime(): Promise<null> {
  return new Promise((resolve) => setTimeout(() => resolve(null), PATIENCE));
}
