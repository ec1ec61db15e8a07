import { responseSchema, type Response } from '@pentachord/core/loudness';
import type { CoreShare } from '@pentachord/core/cost';
import type { Zone } from '@pentachord/core/synthesis';
import { openDB, type IDBPDatabase } from 'idb';
import * as z from 'zod';
import { shareSchema, zoneSchema } from './sound-messages';

const zonesSchema = z.array(zoneSchema).min(1);
const knownSchema = z.object({ response: responseSchema, voiceCost: shareSchema });

/** What house sounds are kept under. */
const HASH = /^[0-9a-f]{64}$/;

/** How loud a sound was measured to be, and what one voice of it costs. */
export interface KnownSound {
  response: Response;
  voiceCost: CoreShare;
}

/** Rendered sounds, kept in the browser by the hash of what they were made from. */
export class SoundCache {
  private database: Promise<IDBPDatabase> | null = null;

  /** The zones kept under a hash; null when there are none, or when what is kept cannot be used. */
  async find(hash: string): Promise<Zone[] | null> {
    const read = zonesSchema.safeParse(await this.get('zones', hash));
    if (!read.success) return null;
    // Two channels of a mono zone come back as two copies; one is enough.
    return read.data.map((zone) =>
      zone.right.length === 0 ? { ...zone, right: zone.left } : zone,
    );
  }

  /** What is known of the sound kept under a hash; null when nothing is. */
  async findKnown(hash: string): Promise<KnownSound | null> {
    return knownSchema.safeParse(await this.get('known', hash)).data ?? null;
  }

  /** Keeps a sound under a hash. A browser without room keeps nothing, and it is rendered again next time. */
  async keep(hash: string, zones: readonly Zone[]): Promise<void> {
    const kept = zones.map((zone) =>
      zone.left === zone.right ? { ...zone, right: new Float32Array(0) } : zone,
    );
    await this.put('zones', hash, kept);
  }

  async keepKnown(hash: string, known: KnownSound): Promise<void> {
    await this.put('known', hash, known);
  }

  /**
   * Throws away the house sounds that are kept under other hashes: those of an earlier version are never asked for again. What is
   * kept under anything but a hash is no house sound, and stays.
   */
  async keepOnly(hashes: ReadonlySet<string>): Promise<void> {
    try {
      const database = await this.open();
      for (const store of ['zones', 'known'] as const)
        for (const key of await database.getAllKeys(store))
          if (typeof key === 'string' && HASH.test(key) && !hashes.has(key))
            await database.delete(store, key);
    } catch {
      // Nothing is lost but room.
    }
  }

  private async get(store: 'zones' | 'known', hash: string): Promise<unknown> {
    try {
      return (await (await this.open()).get(store, hash)) as unknown;
    } catch {
      return null;
    }
  }

  private async put(store: 'zones' | 'known', hash: string, value: unknown): Promise<void> {
    try {
      await (await this.open()).put(store, value, hash);
    } catch {
      // Nothing is lost but time.
    }
  }

  private open(): Promise<IDBPDatabase> {
    this.database ??= openDB('pentachord sounds', 2, {
      upgrade(database) {
        // What an earlier version kept had another shape; it is made anew.
        for (const name of [...database.objectStoreNames]) database.deleteObjectStore(name);
        for (const name of ['zones', 'known']) database.createObjectStore(name);
      },
    });
    return this.database;
  }
}
