import { Injectable, signal } from '@angular/core';
import {
  KINDS,
  nightSchema,
  savedSchemas,
  type Kind,
  type Night,
  type Saved,
  type ValueOf,
} from '@pentachord/core/model';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import * as z from 'zod';
import { thingKey, type Unsaved } from '../saving/saving';
import { bookmarkSchema } from '../session/session';

/** What the server had when it was last heard, and what was changed here and not saved yet. */
export interface KeptDesk {
  /** Name of the server's database. */
  database: string;
  /** What the server had, by kind and id; checked only when it is asked for. */
  base: () => Record<string, Saved<ValueOf<Kind>>>;
  unsaved: Unsaved[];
}

/** Shows whose nights are remembered. */
const MOST_NIGHTS = 12;

const keptPlaceSchema = z.object({
  /** When it was written, milliseconds of the day's clock. */
  at: z.number(),
  bookmark: bookmarkSchema.nullable(),
  /** Of the shows played last, the latest first. */
  nights: z.array(nightSchema).max(MOST_NIGHTS),
});
/** Where the player is, and the nights as they are played. */
export type KeptPlace = Omit<z.infer<typeof keptPlaceSchema>, 'at'>;

interface Stores extends DBSchema {
  about: { key: string; value: unknown };
  base: { key: string; value: Saved<ValueOf<Kind>> };
  unsaved: { key: string; value: { revision: number; value: ValueOf<Kind> | null } };
}

const PLACE = 'pentachord place';
const NOTHING_KNOWN: ReadonlyMap<string, number> = new Map();
/** Milliseconds for which a browser's storage is waited for. */
const PATIENCE = 1500;
const unsavedSchema = z.object({ revision: z.number().int().min(0), value: z.unknown() });

/** How keeping stands, in words for the player; empty while all is well. */
export type KeepingProblem = '' | 'no storage' | 'storage full';

/**
 * A copy of the whole desk in this browser, so that a show goes on when the server is gone and the page is opened anew: what
 * the server had, what is not saved yet, and where the player is. Writing goes one after the other and never throws.
 */
@Injectable({ providedIn: 'root' })
export class DeskCopy {
  private database: Promise<IDBPDatabase<Stores> | null> | null = null;
  private writing: Promise<void> = Promise.resolve();
  private writes = 0;
  /** Revisions that are kept of a database. */
  private known: { database: string | null; revisions: ReadonlyMap<string, number> } = {
    ...{ database: null, revisions: NOTHING_KNOWN },
  };
  private readonly trouble = signal<KeepingProblem>('');
  /** What was remembered of this page, for a browser that keeps nothing. */
  private place: KeptPlace = { bookmark: null, nights: [] };

  /** Why this browser keeps nothing, or not everything. */
  readonly problem = this.trouble.asReadonly();

  /** True while something is still being written. */
  get isWriting(): boolean {
    return this.writes > 0;
  }

  /** The kept desk; null when there is none, or it cannot be read. */
  async read(): Promise<KeptDesk | null> {
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
      const found: KeptDesk = { database: name, base: () => checked(baseKeys, base), unsaved: [] };
      keys.forEach((key, i) => {
        const one = readUnsaved(key, unsaved[i]);
        if (one) found.unsaved.push(one);
      });
      const revisions = new Map(baseKeys.map((key, i) => [key, revisionOf(base[i])]));
      this.known = { database: name, revisions };
      return found;
    } catch {
      this.trouble.set('no storage');
      return null;
    }
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

  /** Keeps changes that the server does not have yet; null for one that it has now. On disk before it counts as written. */
  keepUnsaved(changes: { key: string; unsaved: Unsaved | null }[]): void {
    if (changes.length === 0) return;
    this.write(async (database) => {
      const transaction = database.transaction('unsaved', 'readwrite', { durability: 'strict' });
      for (const { key, unsaved } of changes)
        if (unsaved)
          await transaction.store.put({ revision: unsaved.revision, value: unsaved.value }, key);
        else await transaction.store.delete(key);
      await transaction.done;
    });
  }

  /** Remembers a night. */
  keepNight(night: Night): void {
    const others = this.place.nights.filter(({ showId }) => showId !== night.showId);
    this.keepPlace({ nights: [night, ...others].slice(0, MOST_NIGHTS) });
  }

  /** Remembers where the player is; at once, for the next page that is opened, and on disk as soon as may be. */
  keepPlace(change: Partial<KeptPlace>): void {
    this.place = { ...this.place, ...change };
    const kept = { at: Date.now(), ...this.place };
    try {
      localStorage.setItem(PLACE, JSON.stringify(kept));
    } catch {
      this.trouble.set('storage full');
    }
    this.write(async (database) => {
      const transaction = database.transaction('about', 'readwrite', { durability: 'strict' });
      await transaction.store.put(kept, 'place');
      await transaction.done;
    });
  }

  /** Where the player was, as far as it can be read: of the two places where that is kept the one written last. */
  async readPlace(): Promise<KeptPlace> {
    const [quick, sure] = [quickPlace(), await this.surePlace()];
    const found = quick && sure ? (sure.at > quick.at ? sure : quick) : (quick ?? sure);
    if (found) this.place = { bookmark: found.bookmark, nights: found.nights };
    return this.place;
  }

  private async surePlace() {
    try {
      const database = await this.open();
      return keptPlaceSchema.safeParse(await database?.get('about', 'place')).data ?? null;
    } catch {
      return null;
    }
  }

  private write(work: (database: IDBPDatabase<Stores>) => Promise<void>): void {
    this.writes++;
    this.writing = this.writing.then(async () => {
      try {
        const database = await this.open();
        if (!database) return;
        await work(database);
        if (this.trouble() === 'storage full') this.trouble.set('');
      } catch (error) {
        const isFull = error instanceof DOMException && error.name === 'QuotaExceededError';
        this.trouble.set(isFull ? 'storage full' : 'no storage');
        if (!isFull) this.database = null;
      } finally {
        this.writes--;
      }
    });
  }

  private open(): Promise<IDBPDatabase<Stores> | null> {
    this.database ??= Promise.race([this.connect(), inTime()]);
    return this.database;
  }

  private connect(): Promise<IDBPDatabase<Stores> | null> {
    return openDB<Stores>('pentachord desk', 1, {
      upgrade(database) {
        database.createObjectStore('about');
        database.createObjectStore('base');
        database.createObjectStore('unsaved');
      },
      // A later version of the program opens it in another window: this one keeps on without.
      blocking: (_now, _blocked, event) => {
        (event.target as IDBDatabase).close();
        this.database = Promise.resolve(null);
      },
      terminated: () => (this.database = null),
    }).catch(() => {
      this.trouble.set('no storage');
      return null;
    });
  }
}

/** Null after as long as one waits for a storage that does not answer. */
function inTime(): Promise<null> {
  return new Promise((resolve) => setTimeout(() => resolve(null), PATIENCE));
}

function quickPlace(): z.infer<typeof keptPlaceSchema> | null {
  try {
    return keptPlaceSchema.parse(JSON.parse(localStorage.getItem(PLACE) ?? 'null'));
  } catch {
    return null;
  }
}

/** What of the kept things is as it should be. */
function checked(keys: readonly string[], kept: readonly unknown[]): ReturnType<KeptDesk['base']> {
  const base: ReturnType<KeptDesk['base']> = {};
  keys.forEach((key, i) => {
    const { kind } = kindAndId(key);
    const read = kind && savedSchemas[kind].safeParse(kept[i]);
    if (read?.success) base[key] = read.data;
  });
  return base;
}

/** The revision that something kept bears; −1 for what is no such thing, so that it is written anew. */
function revisionOf(kept: unknown): number {
  return z.object({ revision: z.number() }).safeParse(kept).data?.revision ?? -1;
}

function kindAndId(key: string): { kind: Kind | null; id: string } {
  const at = key.indexOf('/');
  const kind = KINDS.find((one) => one === key.slice(0, at)) ?? null;
  return { kind, id: key.slice(at + 1) };
}

function readUnsaved(key: string, kept: unknown): Unsaved | null {
  const { kind, id } = kindAndId(key);
  const read = unsavedSchema.safeParse(kept);
  if (!kind || !read.success) return null;
  const { revision, value } = read.data;
  if (value === null) return { kind, id, revision, value: null };
  const whole = savedSchemas[kind].safeParse({ revision, value });
  return whole.success && whole.data.value.id === id
    ? { kind, id, revision, value: whole.data.value }
    : null;
}

/** What is kept of a thing, by its key. */
export function keyOfUnsaved({ kind, id }: Unsaved): string {
  return thingKey(kind, id);
}
