import { Injectable } from '@angular/core';
import { rollProblem, type WholeTake } from '@pentachord/core/logbook';
import {
  takeInShort,
  takeSchema,
  takeWordsSchema,
  type Take,
  type TakeInShort,
  type TakeWords,
} from '@pentachord/core/model';
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A take of which this browser keeps the roll in parts, as it was written. */
interface KeptTake {
  take: Take;
  /** How many parts its roll has. */
  parts: number;
  /** Bytes of all of them. */
  bytes: number;
  /** When it was written last, milliseconds of the day's clock. */
  at: number;
}

interface TakeStores extends DBSchema {
  takes: { key: string; value: KeptTake };
  /** Parts of rolls, by the take and their number. */
  rolls: { key: [string, number]; value: Uint8Array<ArrayBuffer> };
}

/** Milliseconds for which a take stays here by itself. */
export const STAYS_FOR = 7 * 24 * 3600_000;
/** Bytes that takes may fill here: some forty hours of playing. The oldest make room. */
const MOST_BYTES = 128_000_000;

/** A take that this browser keeps, in short, and until when: milliseconds of the day's clock. */
export interface TakeHere extends TakeInShort {
  until: number;
}

/** What was played last, in this browser: written part by part while it is played, so that nothing of it is lost with the page. */
@Injectable({ providedIn: 'root' })
export class KeptTakes {
  private opened: Promise<IDBPDatabase<TakeStores>> | null = null;

  private open(): Promise<IDBPDatabase<TakeStores>> {
    this.opened ??= openDB<TakeStores>('pentachord logbook', 1, {
      upgrade(made) {
        made.createObjectStore('takes');
        made.createObjectStore('rolls');
      },
      terminated: () => {
        this.opened = null;
      },
    }).catch((error: unknown) => {
      this.opened = null;
      throw error;
    });
    return this.opened;
  }

  /** All that are here and can be read, the latest first. */
  async all(): Promise<TakeHere[]> {
    const database = await this.open();
    const kept = await database.getAll('takes');
    return kept
      .flatMap((one) => {
        const read = takeSchema.safeParse(one.take);
        return read.success ? [{ ...takeInShort(read.data), until: one.at + STAYS_FOR }] : [];
      })
      .sort((a, b) => b.began - a.began);
  }

  /** A take with its roll; null when it is not here, or cannot be read. */
  async find(id: string): Promise<WholeTake | null> {
    const database = await this.open();
    const kept = await database.get('takes', id);
    const read = takeSchema.safeParse(kept?.take);
    if (!kept || !read.success) return null;
    const parts = await database.getAll('rolls', IDBKeyRange.bound([id, 0], [id, Infinity]));
    const roll = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
    let at = 0;
    for (const part of parts) {
      roll.set(part, at);
      at += part.length;
    }
    return rollProblem(roll, read.data) === null ? { take: read.data, roll } : null;
  }

  /** A take that is gone on with: as it stands, without its roll. */
  async heading(id: string): Promise<Take | null> {
    const kept = await (await this.open()).get('takes', id);
    return takeSchema.safeParse(kept?.take).data ?? null;
  }

  /** Writes what came since, with the heading as it stands. What a player has said of the take meanwhile stays. */
  async add(take: Take, roll: Uint8Array<ArrayBuffer>): Promise<void> {
    const transaction = (await this.open()).transaction(['takes', 'rolls'], 'readwrite');
    const takes = transaction.objectStore('takes');
    const before = await takes.get(take.id);
    const said = takeWordsSchema.safeParse(
      before && { name: before.take.name, stretches: before.take.stretches },
    );
    const parts = before?.parts ?? 0;
    const kept: KeptTake = {
      take: { ...take, ...said.data },
      ...{ parts: parts + 1, bytes: (before?.bytes ?? 0) + roll.length, at: Date.now() },
    };
    await Promise.all([
      takes.put(kept, take.id),
      transaction.objectStore('rolls').put(roll, [take.id, parts]),
      transaction.done,
    ]);
  }

  /** Takes over what a player says of a take, if it is here. */
  async say(id: string, words: TakeWords): Promise<void> {
    const transaction = (await this.open()).transaction('takes', 'readwrite');
    const kept = await transaction.store.get(id);
    if (kept) await transaction.store.put({ ...kept, take: { ...kept.take, ...words } }, id);
    await transaction.done;
  }

  async remove(id: string): Promise<void> {
    const transaction = (await this.open()).transaction(['takes', 'rolls'], 'readwrite');
    await Promise.all([
      transaction.objectStore('takes').delete(id),
      transaction.objectStore('rolls').delete(IDBKeyRange.bound([id, 0], [id, Infinity])),
      transaction.done,
    ]);
  }

  /** Makes room: what is older than a week goes, and the oldest where all of it is too much. Never the one being written. */
  async tidy(writing: string | null): Promise<void> {
    const database = await this.open();
    const keys = await database.getAllKeys('takes');
    const kept = await database.getAll('takes');
    const oldest = keys
      .map((id, i) => ({ id, at: kept[i].at, bytes: kept[i].bytes }))
      .filter(({ id }) => id !== writing)
      .sort((a, b) => a.at - b.at);
    let bytes = oldest.reduce((sum, one) => sum + one.bytes, 0);
    for (const one of oldest) {
      if (one.at + STAYS_FOR > Date.now() && bytes <= MOST_BYTES) break;
      bytes -= one.bytes;
      await this.remove(one.id);
    }
  }
}
