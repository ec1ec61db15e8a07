import {
  showListSchema,
  type Kind,
  type Saved,
  type ShowDocument,
  type ValueOf,
} from '@pentachord/core/model';
import type BetterSqlite3 from 'better-sqlite3';
import type { Knex } from 'knex';
import type * as z from 'zod';
import { answerText, checksumOf } from './checksum.js';
import { Condition } from './condition.js';
import { withConnection } from './database.js';
import { isForeignKeyFault } from './disk-faults.js';
import { FAMILIES, familyOf } from './families.js';
import { insertRows, writeParts } from './part-writing.js';
import { inTransaction, prepared } from './prepared.js';
import { readable, readAll, readOne, type Filter } from './reading.js';
import { bound, type Parts, type Row } from './table-family.js';

/** How a save or a removal ended; `text` is what is answered, the thing as it will be read. */
export type Outcome<T> =
  | { kind: 'done'; saved: Saved<T>; created: boolean; text: string }
  | { kind: 'stale'; present: Saved<T> | null }
  /** It points to something that is not there, which is named. */
  | { kind: 'missing-reference'; words: string }
  /** It points to something that belongs elsewhere, which is named. */
  | { kind: 'stranger'; words: string }
  | { kind: 'in-use' }
  /** Nothing can be written, and why. */
  | { kind: 'unwritable'; words: string };

/** How many things are remembered as they were written last. */
const MOST_REMEMBERED = 200;

/** How writing ended, where what is there now has still to be read. */
type Written<K extends Kind> = Exclude<Outcome<ValueOf<K>>, { kind: 'stale' }> | 'stale';

/** Thrown within a transaction, so that it is taken back. */
class Stranger extends Error {}

/**
 * Reads and writes saved things. What enters has passed the core's schemas, and what the tables hold has when the
 * database was opened; each thing carries a checksum of what was answered for it.
 */
export class Store {
  /** Rows of parts as they stand in the tables; null within a transaction that may still be taken back. */
  private readonly written: Map<string, { revision: number; parts: Parts }> | null;

  constructor(
    private readonly knex: Knex,
    readonly condition = new Condition(),
    remembers = true,
  ) {
    this.written = remembers ? new Map() : null;
  }

  /** Does several things in one transaction: all of them, or none. */
  async together(work: (store: Store) => Promise<void>): Promise<void> {
    this.written?.clear();
    await this.knex.transaction((transaction) =>
      work(new Store(transaction, this.condition, false)),
    );
    this.condition.writes++;
  }

  /** One thing, or null when there is none of that id. */
  async find<K extends Kind>(kind: K, id: string): Promise<Saved<ValueOf<K>> | null> {
    const found = await withConnection(this.knex, (connection) => readOne(connection, kind, id));
    return found && (readable(kind, [found], this.condition).at(0) ?? null);
  }

  /**
   * Saves a thing as the next revision of the one it names; revision 0 creates it. One transaction: either all of it is
   * saved, or nothing. What is given back is what will be read, bit for bit.
   */
  async save<K extends Kind>(
    kind: K,
    { revision, value }: Saved<ValueOf<K>>,
  ): Promise<Outcome<ValueOf<K>>> {
    const missing = this.missing(kind, value);
    const written = await this.writing<K>(missing, (connection) => {
      if (revision > 0) return this.write(connection, kind, value, revision, revision + 1);
      const present = revisionOf(connection, kind, value.id);
      // A new thing may stand in place of one that cannot be read any more.
      if (present !== null && !this.condition.isLost(kind, value.id)) return 'stale';
      return this.write(connection, kind, value, present, (present ?? 0) + 1);
    });
    return written === 'stale' ? this.stale(kind, value.id) : written;
  }

  /**
   * Removes a thing, and what belongs to it, if the revision is still the present one. What pointed to it and is changed
   * by that gets a new revision. Null when it is not there.
   */
  async remove<K extends Kind>(
    kind: K,
    id: string,
    revision: number,
  ): Promise<Outcome<ValueOf<K>> | null> {
    const present = await this.find(kind, id);
    if (!present) return null;
    const orders = await this.ordersWith(kind, id);
    const orphans = await this.soundsFrom(kind, id);
    const inUse = (): Written<K> => ({ kind: 'in-use' });
    const written = await this.writing<K>(inUse, (connection) => {
      const removed = prepared(
        connection,
        `delete from ${FAMILIES[kind].table} where id = ? and revision = ?`,
      ).run(id, revision);
      if (removed.changes === 0) return 'stale';
      for (const { revision: last, value } of orders) {
        const order = value.order.filter((entry) => entry.kind !== 'song' || entry.songId !== id);
        this.written?.delete(`shows/${value.id}`);
        this.rewrite(connection, 'shows', { ...value, order }, last);
      }
      for (const { revision: last, value } of orphans) {
        const origin = { ...value.origin, moduleId: null } as typeof value.origin;
        this.rewrite(connection, 'sounds', { ...value, origin }, last);
      }
      return { kind: 'done', saved: present, created: false, text: '' };
    });
    return written === 'stale' ? this.stale(kind, id) : written;
  }

  /** Puts a thing in place of what is there, or where nothing is, at the revision that it bears. For backups alone. */
  async putBack<K extends Kind>(kind: K, { revision, value }: Saved<ValueOf<K>>): Promise<boolean> {
    this.written?.clear();
    const written = await this.writing<K>(this.missing(kind, value), (connection) =>
      this.write(connection, kind, value, revisionOf(connection, kind, value.id), revision),
    );
    this.written?.clear();
    return written !== 'stale' && written.kind === 'done';
  }

  /** The revision that stands in the table, readable or not; null when there is nothing of that id. */
  async revisionOf(kind: Kind, id: string): Promise<number | null> {
    return withConnection(this.knex, (connection) => revisionOf(connection, kind, id));
  }

  /** A show with everything in it, in ten statements whatever its size, as it is at one moment. Null when there is none. */
  async document(showId: string): Promise<ShowDocument | null> {
    return this.knex.transaction(async (transaction) => {
      const songsOfShow = transaction('songs').select('id').where({ show_id: showId });
      const [show] = await this.read(
        'shows',
        (query) => void query.where({ id: showId }),
        transaction,
      );
      if (!show) return null;
      const ofShow: Filter = (query) => void query.where({ show_id: showId });
      const ofSongs: Filter = (query) => void query.whereIn('song_id', songsOfShow);
      return withoutLoose({
        show,
        devices: await this.read('devices', ofShow, transaction),
        songs: await this.read('songs', ofShow, transaction),
        patches: await this.read('patches', ofSongs, transaction),
        cues: await this.read('cues', ofSongs, transaction),
      });
    });
  }

  /** Every show, newest first. */
  async shows(): Promise<z.infer<typeof showListSchema>> {
    const rows = (await this.knex('shows')
      .select('id', 'name', 'date', 'place')
      .orderBy('date', 'desc')) as z.infer<typeof showListSchema>;
    return rows.filter(({ id }) => !this.condition.isLost('shows', id));
  }

  /** True when there is no show at all, not even one that cannot be read. */
  async isEmpty(): Promise<boolean> {
    return (await this.knex('shows').first('id')) === undefined;
  }

  /** The sound library. */
  async sounds(): Promise<Saved<ValueOf<'sounds'>>[]> {
    return this.read('sounds', () => undefined);
  }

  /** What the player keeps. */
  async keepsakes(): Promise<Saved<ValueOf<'keepsakes'>>[]> {
    return this.read('keepsakes', () => undefined);
  }

  /** Everything of a kind that can be read. */
  async all<K extends Kind>(kind: K): Promise<Saved<ValueOf<K>>[]> {
    return this.read(kind, () => undefined);
  }

  private async read<K extends Kind>(
    kind: K,
    filter: Filter,
    knex: Knex = this.knex,
  ): Promise<Saved<ValueOf<K>>[]> {
    return readable(kind, await readAll(knex, kind, filter), this.condition);
  }

  /** Writes a thing over its revision `from`, null for one that is not there, as its revision `to`. */
  private write<K extends Kind>(
    connection: BetterSqlite3.Database,
    kind: K,
    value: ValueOf<K>,
    from: number | null,
    to: number,
  ): Written<K> {
    const family = familyOf(kind);
    const { id } = value;
    const key = `${kind}/${id}`;
    const { row, parts } = family.toRows(value);
    const saved = { revision: to, value: family.fromRows({ id, ...row }, parts) };
    const text = answerText(saved);
    const own: Row = { revision: to, checksum: checksumOf(text), ...row };
    if (from === null) insertRows(connection, family.table, [{ id, ...own }]);
    else {
      const columns = Object.keys(own).map((column) => `${column} = ?`);
      const update = `update ${family.table} set ${columns.join(',')} where id = ? and revision = ?`;
      const { changes } = prepared(connection, update).run(bound(own), id, from);
      if (changes === 0) return 'stale';
    }
    const last = this.written?.get(key);
    // Forgotten until it is known how this ends.
    this.written?.delete(key);
    const before = last && last.revision === from ? last.parts : null;
    if (family.parts.length > 0) writeParts(connection, family, id, parts, before);
    const stranger = family.strangerIn?.(connection, value);
    if (stranger) throw new Stranger(stranger);
    this.remember(key, to, parts);
    this.condition.mend(kind, id);
    return { kind: 'done', saved, created: from === null, text };
  }

  /** Writes what another thing's removal has changed. */
  private rewrite<K extends Kind>(
    connection: BetterSqlite3.Database,
    kind: K,
    value: ValueOf<K>,
    from: number,
  ): void {
    if (this.write(connection, kind, value, from, from + 1) === 'stale')
      throw new Error('something changed while it was being removed');
  }

  private remember(key: string, revision: number, parts: Parts): void {
    const { written } = this;
    if (!written || Object.keys(parts).length === 0) return;
    written.set(key, { revision, parts });
    const [oldest] = written.keys();
    if (written.size > MOST_REMEMBERED) written.delete(oldest);
  }

  /** Shows in whose running order a song stands. */
  private async ordersWith(kind: Kind, id: string): Promise<Saved<ValueOf<'shows'>>[]> {
    if (kind !== 'songs') return [];
    const holding = this.knex('order_entries').select('show_id').where({ song_id: id });
    return this.read('shows', (query) => void query.whereIn('id', holding));
  }

  /** Sounds of modules that go when this goes. */
  private async soundsFrom(kind: Kind, id: string): Promise<Saved<ValueOf<'sounds'>>[]> {
    if (kind === 'devices')
      return this.read('sounds', (query) => void query.where({ module_id: id }));
    if (kind !== 'shows') return [];
    const modules = this.knex('devices').select('id').where({ show_id: id });
    return this.read('sounds', (query) => void query.whereIn('module_id', modules));
  }

  private async stale<K extends Kind>(kind: K, id: string): Promise<Outcome<ValueOf<K>>> {
    return { kind: 'stale', present: await this.find(kind, id) };
  }

  /** What a thing points to that is not there. */
  private missing<K extends Kind>(kind: K, value: ValueOf<K>) {
    return (connection: BetterSqlite3.Database): Written<K> => ({
      kind: 'missing-reference',
      words: familyOf(kind).missingIn(connection, value) ?? 'something',
    });
  }

  /** Carries out `work` in one transaction of the connection; a broken reference ends it as `broken` says. */
  private async writing<K extends Kind>(
    broken: (connection: BetterSqlite3.Database) => Written<K>,
    work: (connection: BetterSqlite3.Database) => Written<K>,
  ): Promise<Written<K>> {
    const { readOnly } = this.condition;
    if (readOnly) return { kind: 'unwritable', words: readOnly };
    try {
      const outcome = await withConnection(this.knex, (connection) =>
        inTransaction(connection, work),
      );
      if (outcome !== 'stale') this.condition.writes++;
      return outcome;
    } catch (error) {
      // What was remembered on the way was taken back.
      this.written?.clear();
      if (error instanceof Stranger) return { kind: 'stranger', words: error.message };
      if (isForeignKeyFault(error)) return withConnection(this.knex, broken);
      throw error;
    }
  }
}

function revisionOf(connection: BetterSqlite3.Database, kind: Kind, id: string): number | null {
  const found = prepared(connection, `select revision from ${FAMILIES[kind].table} where id = ?`);
  return (found.get(id) as { revision: number } | undefined)?.revision ?? null;
}

/** A document without what hangs loose because the thing that it belongs to cannot be read. */
function withoutLoose(document: ShowDocument): ShowDocument {
  const songs = new Set(document.songs.map(({ value }) => value.id));
  const patches = document.patches.filter(({ value }) => songs.has(value.songId));
  const patchIds = new Set(patches.map(({ value }) => value.id));
  const { show } = document;
  const order = show.value.order.filter((e) => e.kind !== 'song' || songs.has(e.songId));
  const whole = order.length === show.value.order.length;
  return {
    ...document,
    show: whole ? show : { ...show, value: { ...show.value, order } },
    patches,
    cues: document.cues.filter(
      ({ value }) => songs.has(value.songId) && patchIds.has(value.patchId),
    ),
  };
}
