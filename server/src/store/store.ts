import {
  keepsakeListSchema,
  savedSchemas,
  showDocumentSchema,
  showListSchema,
  soundListSchema,
  type Kind,
  type Saved,
  type ShowDocument,
  type ValueOf,
} from '@pentachord/core/model';
import type { Knex } from 'knex';
import type * as z from 'zod';
import { keepsakeTables } from './keepsakes.js';
import { patchTables } from './patches.js';
import { deviceTables } from './rig.js';
import { showTables } from './shows.js';
import { cueTables, songTables } from './songs.js';
import { soundTables } from './sounds.js';
import { savedFromRow, type Row, type TableFamily } from './table-family.js';

const FAMILIES: { [K in Kind]: TableFamily<K> } = {
  shows: showTables,
  devices: deviceTables,
  songs: songTables,
  patches: patchTables,
  cues: cueTables,
  sounds: soundTables,
  keepsakes: keepsakeTables,
};

/** How a save or a removal ended. */
export type Outcome<T> =
  | { kind: 'done'; saved: Saved<T>; created: boolean }
  | { kind: 'stale'; present: Saved<T> | null }
  | { kind: 'missing-reference' }
  | { kind: 'in-use' };

/** Reads and writes saved things. Whatever leaves it has passed the core's schemas. */
export class Store {
  constructor(private readonly knex: Knex) {}

  /** Does several things in one transaction: all of them, or none. */
  async together(work: (store: Store) => Promise<void>): Promise<void> {
    await this.knex.transaction((transaction) => work(new Store(transaction)));
  }

  /** One thing, or null when there is none of that id. */
  async find<K extends Kind>(kind: K, id: string): Promise<Saved<ValueOf<K>> | null> {
    return this.findWith(this.knex, kind, id);
  }

  /**
   * Saves a thing as the next revision of the one it names; revision 0 creates it. One transaction: either all of it is
   * saved, or nothing.
   */
  async save<K extends Kind>(kind: K, sent: Saved<ValueOf<K>>): Promise<Outcome<ValueOf<K>>> {
    const family = FAMILIES[kind] as TableFamily<K>;
    const { id } = sent.value;
    return this.guarded<ValueOf<K>>('missing-reference', () =>
      this.knex.transaction(async (transaction): Promise<Outcome<ValueOf<K>>> => {
        const row = family.toRow(sent.value);
        const revision = sent.revision + 1;
        if (sent.revision === 0) {
          const present = await this.findWith(transaction, kind, id);
          if (present) return { kind: 'stale', present };
          await transaction(family.table).insert({ id, revision, ...row });
        } else {
          const changed = await transaction(family.table)
            .where({ id, revision: sent.revision })
            .update({ revision, ...row });
          if (changed === 0)
            return { kind: 'stale', present: await this.findWith(transaction, kind, id) };
        }
        await family.writeParts?.(transaction, sent.value);
        return {
          kind: 'done',
          saved: { revision, value: sent.value },
          created: sent.revision === 0,
        };
      }),
    );
  }

  /** Removes a thing, and what belongs to it, if the revision is still the present one. Null when it is not there. */
  async remove<K extends Kind>(
    kind: K,
    id: string,
    revision: number,
  ): Promise<Outcome<ValueOf<K>> | null> {
    return this.guarded<ValueOf<K>>('in-use', async () => {
      const present = await this.find(kind, id);
      if (!present) return null;
      const removed = await this.knex(FAMILIES[kind].table).where({ id, revision }).delete();
      return removed > 0
        ? { kind: 'done', saved: present, created: false }
        : { kind: 'stale', present: await this.find(kind, id) };
    });
  }

  /** A show with everything in it, in five statements whatever its size. Null when there is none of that id. */
  async document(showId: string): Promise<ShowDocument | null> {
    const songsOfShow = this.knex('songs').select('id').where({ show_id: showId });
    const [show] = await this.rows('shows', (query) => void query.where({ id: showId }));
    if (!show) return null;
    return showDocumentSchema.parse({
      show,
      devices: await this.rows('devices', (query) => void query.where({ show_id: showId })),
      songs: await this.rows('songs', (query) => void query.where({ show_id: showId })),
      patches: await this.rows('patches', (query) => void query.whereIn('song_id', songsOfShow)),
      cues: await this.rows('cues', (query) => void query.whereIn('song_id', songsOfShow)),
    });
  }

  /** Every show, newest first. */
  async shows(): Promise<z.infer<typeof showListSchema>> {
    const rows: unknown = await this.knex('shows')
      .select('id', 'name', 'date', 'place')
      .orderBy('date', 'desc');
    return showListSchema.parse(rows);
  }

  /** The sound library. */
  async sounds(): Promise<z.infer<typeof soundListSchema>> {
    return soundListSchema.parse(await this.rows('sounds', () => undefined));
  }

  /** What the player keeps. */
  async keepsakes(): Promise<z.infer<typeof keepsakeListSchema>> {
    return keepsakeListSchema.parse(await this.rows('keepsakes', () => undefined));
  }

  private async rows<K extends Kind>(
    kind: K,
    filter: (query: Knex.QueryBuilder) => void,
    knex: Knex = this.knex,
  ): Promise<Saved<ValueOf<K>>[]> {
    const family = FAMILIES[kind] as TableFamily<K>;
    const rows = (await family.select(knex, filter)) as Row[];
    return rows.map((row) => savedFromRow(family, row));
  }

  private async findWith<K extends Kind>(
    knex: Knex,
    kind: K,
    id: string,
  ): Promise<Saved<ValueOf<K>> | null> {
    const [row] = await this.rows(kind, (query) => void query.where({ id }), knex);
    // The schema of a kind known only by its name cannot be narrowed by the compiler.
    return row ? savedSchemas[kind].parse(row) : null;
  }

  private async guarded<T>(
    broken: 'missing-reference' | 'in-use',
    work: () => Promise<Outcome<T>>,
  ): Promise<Outcome<T>>;
  private async guarded<T>(
    broken: 'missing-reference' | 'in-use',
    work: () => Promise<Outcome<T> | null>,
  ): Promise<Outcome<T> | null>;
  private async guarded<T>(
    broken: 'missing-reference' | 'in-use',
    work: () => Promise<Outcome<T> | null>,
  ): Promise<Outcome<T> | null> {
    try {
      return await work();
    } catch (error) {
      if (isForeignKeyFault(error)) return { kind: broken };
      throw error;
    }
  }
}

function isForeignKeyFault(error: unknown): boolean {
  return (
    error instanceof Error &&
    'code' in error &&
    String(error.code).startsWith('SQLITE_CONSTRAINT_FOREIGNKEY')
  );
}
