import { chmodSync, existsSync, mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import type BetterSqlite3 from 'better-sqlite3';
import knexFactory, { type Knex } from 'knex';
import * as shows from '../migrations/001-shows.js';
import * as wholePatches from '../migrations/002-whole-patches.js';
import * as restrikeAndSieve from '../migrations/003-restrike-and-sieve.js';
import * as orderAndChecksums from '../migrations/004-order-and-checksums.js';
import * as repertoire from '../migrations/005-repertoire.js';
import * as goingThrough from '../migrations/006-going-through.js';
import * as places from '../migrations/007-places.js';
import * as choosers from '../migrations/008-choosers.js';
import * as ties from '../migrations/009-ties.js';
import * as counting from '../migrations/010-counting.js';
import * as recordings from '../migrations/011-recordings.js';
import * as patterns from '../migrations/012-patterns.js';
import * as movedBands from '../migrations/013-moved-bands.js';
import * as pieces from '../migrations/014-pieces.js';
import * as takes from '../migrations/015-takes.js';

const MIGRATIONS: { name: string; migration: Knex.Migration }[] = [
  { name: '001-shows', migration: shows },
  { name: '002-whole-patches', migration: wholePatches },
  { name: '003-restrike-and-sieve', migration: restrikeAndSieve },
  { name: '004-order-and-checksums', migration: orderAndChecksums },
  { name: '005-repertoire', migration: repertoire },
  { name: '006-going-through', migration: goingThrough },
  { name: '007-places', migration: places },
  { name: '008-choosers', migration: choosers },
  { name: '009-ties', migration: ties },
  { name: '010-counting', migration: counting },
  { name: '011-recordings', migration: recordings },
  { name: '012-patterns', migration: patterns },
  { name: '013-moved-bands', migration: movedBands },
  { name: '014-pieces', migration: pieces },
  { name: '015-takes', migration: takes },
];

/** The version of the tables: how many migrations there are. */
export const SCHEMA_VERSION = MIGRATIONS.length;

/** How the tables of a database stand to this program. */
export type SchemaState = 'none' | 'older' | 'present' | 'newer' | 'unknown';

/**
 * Connects to a database file without changing anything in it, though a file that is not there is made. Every commit is on
 * disk before it is answered (WAL, synchronous FULL). The file is this process's alone as long as it is connected.
 */
export function connect(file: string): Knex {
  return knexFactory({
    client: 'better-sqlite3',
    connection: { filename: file },
    useNullAsDefault: true,
    // What goes wrong is told by whoever asked.
    log: { warn: quiet, error: quiet, deprecate: quiet, debug: quiet },
    pool: {
      min: 1,
      max: 1,
      idleTimeoutMillis: Infinity,
      afterCreate(
        connection: BetterSqlite3.Database,
        done: (error: unknown, ready: unknown) => void,
      ) {
        try {
          connection.pragma('busy_timeout = 1000');
          // Alone with the file, so that no index of the log has to be shared in a file of its own.
          connection.pragma('locking_mode = EXCLUSIVE');
          connection.pragma('journal_mode = WAL');
          connection.pragma('synchronous = FULL');
          connection.pragma('foreign_keys = ON');
          done(null, connection);
        } catch (error) {
          // The pool forgets a connection that was never ready, and its lock would stay.
          connection.close();
          done(error, connection);
        }
      },
    },
  });
}

function quiet(): void {
  // Nothing is written past the program's own log.
}

const CONNECTIONS = new WeakMap<Knex, BetterSqlite3.Database>();

/**
 * Gives the bare connection to `work`; meanwhile nobody else has it. There is one, whose calls are carried out at once: as
 * long as nobody has a transaction open on it, it need not be waited for.
 */
export async function withConnection<T>(
  knex: Knex,
  work: (connection: BetterSqlite3.Database) => Promise<T> | T,
): Promise<T> {
  const known = CONNECTIONS.get(knex);
  if (known?.open && !known.inTransaction) return work(known);
  const client = knex.client as Knex.Client;
  const connection = (await client.acquireConnection()) as BetterSqlite3.Database;
  try {
    CONNECTIONS.set(knex, connection);
    return await work(connection);
  } finally {
    await client.releaseConnection(connection);
  }
}

/** How the tables stand to this program. Reads only. */
export async function schemaState(knex: Knex): Promise<SchemaState> {
  if (!(await knex.schema.hasTable('knex_migrations'))) {
    const [{ tables }] = await knex.raw<{ tables: number }[]>(
      'select count(*) as tables from sqlite_master',
    );
    return tables === 0 ? 'none' : 'unknown';
  }
  const rows = (await knex('knex_migrations').select('name').orderBy('id')) as { name: string }[];
  const ours = MIGRATIONS.map(({ name }) => name);
  const known = rows.filter(({ name }, at) => name === ours[at]).length;
  if (known < Math.min(rows.length, ours.length)) return 'unknown';
  if (rows.length > ours.length) return 'newer';
  return rows.length === ours.length ? 'present' : 'older';
}

/** Brings the tables up to date, wholly or not at all. */
export async function migrate(knex: Knex): Promise<void> {
  const config = {
    migrationSource: {
      getMigrations: () => Promise.resolve(MIGRATIONS),
      getMigrationName: (entry: (typeof MIGRATIONS)[number]) => entry.name,
      getMigration: (entry: (typeof MIGRATIONS)[number]) => Promise.resolve(entry.migration),
    },
  };
  // Nobody else is at the file: a lock that stands there was left by a migration that was killed.
  if (await knex.schema.hasTable('knex_migrations_lock'))
    await knex.migrate.forceFreeMigrationsLock(config);
  await knex.migrate.latest(config);
}

/** Opens a database, creating it and bringing its tables up to date. `:memory:` gives one that is gone when closed. */
export async function openDatabase(file: string): Promise<Knex> {
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true });
  const knex = connect(file);
  try {
    const state = await schemaState(knex);
    if (state === 'newer') throw new Error('it was written by a newer Pentachord');
    if (state === 'unknown') throw new Error('it holds no tables that Pentachord knows');
    if (state !== 'present') await migrate(knex);
    keepPrivate(file);
    return knex;
  } catch (error) {
    await knex.destroy();
    throw error;
  }
}

/** The files that a database consists of; they go and come together. */
export function filesOf(file: string): string[] {
  return [file, `${file}-wal`, `${file}-shm`, `${file}-journal`];
}

/** Lets nobody but the owner read a database, its log neither, as far as that can be said of its files. */
export function keepPrivate(file: string): void {
  if (file === ':memory:') return;
  for (const one of filesOf(file))
    try {
      if (existsSync(one)) chmodSync(one, 0o600);
    } catch {
      // Somebody else's file, or a disk without such rights: it is as private as its folder.
    }
}
