import type { Kind, Repertoire, Saved, ValueOf } from '@pentachord/core/model';
import type BetterSqlite3 from 'better-sqlite3';
import type { Knex } from 'knex';
import { answerText, checksumOf } from './checksum.js';
import { Condition } from './condition.js';
import { countOf, goOnBehind, highestRemoved, removing, type Count } from './counting.js';
import { withConnection } from './database.js';
import { isForeignKeyFault } from './disk-faults.js';
import { FAMILIES, familyOf } from './families.js';
import { insertRows, writeParts } from './part-writing.js';
import { inTransaction, prepared } from './prepared.js';
import { readable, readAll, readOne, type Filter } from './reading.js';
import { RecordingRows } from './recording-rows.js';
import { bound, type Parts, type Row } from './table-family.js';
import { Takes } from './takes.js';

/** How a save or a removal ended; `text` is what is answered, the thing as it will be read. */
export type Outcome<T> =
  | { kind: 'done'; saved: Saved<T>; created: boolean; text: string }
  | { kind: 'stale'; present: Saved<T> | null }
  /** It points to something that is not there, which is named. */
  | { kind: 'missing-reference'; words: string }
  /** It points to something that belongs elsewhere, which is named. */
  | { kind: 'stranger'; words: string }
  /** Something else points to it, which is named. */
  | { kind: 'in-use'; words: string }
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

  private name: string | null = null;
  /** What is known of recordings. */
  readonly recordings: RecordingRows;
  /** What was played and is kept. */
  readonly takes: Takes;

  constructor(
    private readonly knex: Knex,
    readonly condition = new Condition(),
    remembers = true,
  ) {
    this.written = remembers ? new Map() : null;
    this.recordings = new RecordingRows(knex, condition);
    this.takes = new Takes(knex, condition);
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
      // No revision comes twice: what was removed bore others.
      const before = Math.max(present ?? 0, highestRemoved(connection));
      return this.write(connection, kind, value, present, before + 1);
    });
    return written === 'stale' ? this.stale(kind, value.id) : written;
  }

  /** Removes a thing, and what belongs to it, if the revision is still the present one. Null when it is not there. */
  async remove<K extends Kind>(
    kind: K,
    id: string,
    revision: number,
  ): Promise<Outcome<ValueOf<K>> | null> {
    const present = await this.find(kind, id);
    if (!present) return null;
    const inUse = (connection: BetterSqlite3.Database): Written<K> => ({
      kind: 'in-use',
      words: usersOf(connection, kind, id),
    });
    const written = await this.writing<K>(inUse, (connection) => {
      const removed = removing(connection, () =>
        prepared(
          connection,
          `delete from ${FAMILIES[kind].table} where id = ? and revision = ?`,
        ).run(id, revision),
      );
      if (removed.changes === 0) return 'stale';
      return { kind: 'done', saved: present, created: false, text: '' };
    });
    return written === 'stale' ? this.stale(kind, id) : written;
  }

  /** Removes a thing whatever its revision, and though it cannot be read. */
  async discard(kind: Kind, id: string): Promise<void> {
    this.written?.clear();
    await withConnection(this.knex, (connection) =>
      inTransaction(connection, () =>
        removing(connection, () =>
          prepared(connection, `delete from ${FAMILIES[kind].table} where id = ?`).run(id),
        ),
      ),
    );
    this.condition.mend(kind, id);
    this.condition.writes++;
  }

  /** Ids that stand in a column of a table where another one holds a value, readable or not. */
  async idsWhere(table: string, column: string, where: string, is: string): Promise<string[]> {
    return withConnection(
      this.knex,
      (connection) =>
        connection
          .prepare(`select distinct ${column} from ${table} where ${where} = ?`)
          .pluck()
          .all(is) as string[],
    );
  }

  /** How far it has come. */
  async count(): Promise<Count> {
    return withConnection(this.knex, countOf);
  }

  /** Has it go on behind another database that it takes the place of. */
  async goOnBehind(count: Count): Promise<void> {
    await withConnection(this.knex, (connection) => goOnBehind(connection, count));
  }

  /** Name of the database, made with it. */
  async database(): Promise<string> {
    this.name ??= await withConnection(
      this.knex,
      (connection) => prepared(connection, 'select database from about').pluck().get() as string,
    );
    return this.name;
  }

  /**
   * Puts a thing in place of what is there, or where nothing is, at the revision that it bears; false when that cannot be. For
   * backups alone.
   */
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

  /** The repertoire with every show and rig, in sixteen statements whatever its size, as it is at one moment. */
  async repertoire(): Promise<Repertoire> {
    return this.knex.transaction(async (transaction) => {
      const all = <K extends Kind>(kind: K) => this.read(kind, () => undefined, transaction);
      const [{ database }] = await transaction.raw<{ database: string }[]>(
        'select database from about',
      );
      return withoutLoose({
        database,
        rigs: await all('rigs'),
        shows: await all('shows'),
        devices: await all('devices'),
        songs: await all('songs'),
        patches: await all('patches'),
        cues: await all('cues'),
      });
    });
  }

  /** True when there is nothing of a kind, not even something that cannot be read. */
  async hasNone(kind: Kind): Promise<boolean> {
    return (await this.knex(FAMILIES[kind].table).first('id')) === undefined;
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

  private remember(key: string, revision: number, parts: Parts): void {
    const { written } = this;
    if (!written || Object.keys(parts).length === 0) return;
    written.set(key, { revision, parts });
    const [oldest] = written.keys();
    if (written.size > MOST_REMEMBERED) written.delete(oldest);
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

/**
 * What is there without what hangs loose because the thing that it belongs to cannot be read. A song that cannot be read keeps its
 * places in the night, with what is otherwise there.
 */
function withoutLoose(repertoire: Repertoire): Repertoire {
  const rigs = new Set(repertoire.rigs.map(({ value }) => value.id));
  const songs = new Set(repertoire.songs.map(({ value }) => value.id));
  const patches = repertoire.patches.filter(({ value }) => songs.has(value.songId));
  const patchIds = new Set(patches.map(({ value }) => value.id));
  return {
    ...repertoire,
    devices: repertoire.devices.filter(({ value }) => rigs.has(value.rigId)),
    patches,
    cues: repertoire.cues.filter(
      ({ value }) => songs.has(value.songId) && patchIds.has(value.patchId),
    ),
  };
}

/** What keeps a thing from being removed, for one and for several, and where it is found. */
const USERS: Partial<Record<Kind, { one: string; several: string; query: string }>> = {
  songs: {
    one: 'it stands in the show',
    several: 'it stands in the shows',
    query:
      'select distinct shows.name from shows join order_entries on show_id = shows.id where song_id = ?',
  },
  patches: {
    one: 'the cue that plays it is',
    several: 'the cues that play it are',
    query: 'select name from cues where patch_id = ?',
  },
  rigs: {
    one: 'it is the rig of the show',
    several: 'it is the rig of the shows',
    query: 'select name from shows where rig_id = ?',
  },
  sounds: {
    one: 'it sounds in the patch',
    several: 'it sounds in the patches',
    query:
      'select distinct patches.name from patches join patch_sounds on patch_id = patches.id where library_sound_id = ?',
  },
  patterns: {
    one: 'a key starts it in the patch',
    several: 'keys start it in the patches',
    query:
      'select distinct patches.name from patches join placed_patterns on patch_id = patches.id where pattern_id = ?',
  },
};

/** What points to a thing and keeps it from being removed, in words. */
function usersOf(connection: BetterSqlite3.Database, kind: Kind, id: string): string {
  const users = USERS[kind];
  if (!users) return 'something else points to it';
  const names = (prepared(connection, users.query).all(id) as { name: string }[]).map(
    ({ name }) => `“${name}”`,
  );
  return `${names.length === 1 ? users.one : users.several} ${names.join(', ')}`;
}
