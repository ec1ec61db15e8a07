import { responseSchema, type Response } from '@pentachord/core/loudness';
import type { Zone } from '@pentachord/core/synthesis';
import { openDB, type IDBPDatabase } from 'idb';
import * as z from 'zod';
import { zoneSchema } from './sound-messages';

const entrySchema = z.object({ zones: z.array(zoneSchema).min(1), response: responseSchema });

/** A rendered sound with how loud it was measured to be. */
export interface KeptSound {
  zones: Zone[];
  response: Response;
}

/** Rendered sounds, kept in the browser by the hash of what they were made from. */
export class SoundCache {
  private database: Promise<IDBPDatabase> | null = null;

  /** The sound kept under a hash; null when there is none, or when what is kept cannot be used. */
  async find(hash: string): Promise<KeptSound | null> {
    try {
      const entry: unknown = await (await this.open()).get('zones', hash);
      const read = entrySchema.safeParse(entry);
      if (!read.success) return null;
      // Two channels of a mono zone come back as two copies; one is enough.
      const zones = read.data.zones.map((zone) =>
        zone.right.length === 0 ? { ...zone, right: zone.left } : zone,
      );
      return { zones, response: read.data.response };
    } catch {
      return null;
    }
  }

  /** Keeps a sound under a hash. A browser without room keeps nothing, and they are rendered again next time. */
  async keep(hash: string, { zones, response }: KeptSound): Promise<void> {
    const kept = zones.map((zone) =>
      zone.left === zone.right ? { ...zone, right: new Float32Array(0) } : zone,
    );
    try {
      await (await this.open()).put('zones', { zones: kept, response }, hash);
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
