import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import knexFactory, { type Knex } from 'knex';
import * as shows from '../migrations/001-shows.js';
import * as wholePatches from '../migrations/002-whole-patches.js';
import * as restrikeAndSieve from '../migrations/003-restrike-and-sieve.js';

const MIGRATIONS: { name: string; migration: Knex.Migration }[] = [
  { name: '001-shows', migration: shows },
  { name: '002-whole-patches', migration: wholePatches },
  { name: '003-restrike-and-sieve', migration: restrikeAndSieve },
];

/** The version of the tables: how many migrations there are. */
export const SCHEMA_VERSION = MIGRATIONS.length;

interface SqliteConnection {
  pragma(text: string): unknown;
}

/**
 * Opens the database, creating it and bringing its tables up to date. `:memory:` gives one that is gone when closed.
 * Every commit is on disk before it is answered (WAL, synchronous FULL).
 */
export async function openDatabase(file: string): Promise<Knex> {
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true });
  const knex = knexFactory({
    client: 'better-sqlite3',
    connection: { filename: file },
    useNullAsDefault: true,
    pool: {
      min: 1,
      max: 1,
      idleTimeoutMillis: Infinity,
      afterCreate(connection: SqliteConnection, done: (error: null, ready: unknown) => void) {
        connection.pragma('journal_mode = WAL');
        connection.pragma('synchronous = FULL');
        connection.pragma('foreign_keys = ON');
        connection.pragma('busy_timeout = 5000');
        done(null, connection);
      },
    },
  });
  await knex.migrate.latest({
    migrationSource: {
      getMigrations: () => Promise.resolve(MIGRATIONS),
      getMigrationName: (entry: (typeof MIGRATIONS)[number]) => entry.name,
      getMigration: (entry: (typeof MIGRATIONS)[number]) => Promise.resolve(entry.migration),
    },
  });
  return knex;
}
