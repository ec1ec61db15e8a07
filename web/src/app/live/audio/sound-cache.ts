import { responseSchema, type Response } from '@pentachord/core/loudness';
import type { CoreShare } from '@pentachord/core/cost';
import type { Zone } from '@pentachord/core/synthesis';
import { openDB, type IDBPDatabase } from 'idb';
import * as z from 'zod';
import { shareSchema, zoneSchema } from './sound-messages';

const entrySchema = z.object({
  zones: z.array(zoneSchema).min(1),
  response: responseSchema,
  voiceCost: shareSchema,
});

/** A rendered sound with how loud it was measured to be, and what one voice of it costs. */
export interface KeptSound {
  zones: Zone[];
  response: Response;
  voiceCost: CoreShare;
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
      return { ...read.data, zones };
    } catch {
      return null;
    }
  }

  /** Keeps a sound under a hash. A browser without room keeps nothing, and they are rendered again next time. */
  async keep(hash: string, sound: KeptSound): Promise<void> {
    const zones = sound.zones.map((zone) =>
      zone.left === zone.right ? { ...zone, right: new Float32Array(0) } : zone,
    );
    try {
      await (await this.open()).put('zones', { ...sound, zones }, hash);
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
