import type { Zone } from '@pentachord/core/synthesis';
import { openDB, type IDBPDatabase } from 'idb';
import * as z from 'zod';
import { zoneSchema } from './sound-messages';

const entrySchema = z.object({ zones: z.array(zoneSchema).min(1) });

/** Rendered sounds, kept in the browser by the hash of what they were made from. */
export class SoundCache {
  private database: Promise<IDBPDatabase> | null = null;

  /** The zones kept under a hash; null when there are none, or when what is kept cannot be used. */
  async find(hash: string): Promise<Zone[] | null> {
    try {
      const entry: unknown = await (await this.open()).get('zones', hash);
      const read = entrySchema.safeParse(entry);
      if (!read.success) return null;
      // Two channels of a mono zone come back as two copies; one is enough.
      return read.data.zones.map((zone) =>
        zone.right.length === 0 ? { ...zone, right: zone.left } : zone,
      );
    } catch {
      return null;
    }
  }

  /** Keeps zones under a hash. A browser without room keeps nothing, and they are rendered again next time. */
  async keep(hash: string, zones: Zone[]): Promise<void> {
    const kept = zones.map((zone) =>
      zone.left === zone.right ? { ...zone, right: new Float32Array(0) } : zone,
    );
    try {
      await (await this.open()).put('zones', { zones: kept }, hash);
    } catch {
      // Nothing is lost but time.
    }
  }

  private open(): Promise<IDBPDatabase> {
    this.database ??= openDB('pentachord sounds', 1, {
      upgrade(database) {
        database.createObjectStore('zones');
      },
    });
    return this.database;
  }
}
