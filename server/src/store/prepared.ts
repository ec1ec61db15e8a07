import type BetterSqlite3 from 'better-sqlite3';

type Statements = Map<string, BetterSqlite3.Statement>;
const STATEMENTS = new WeakMap<BetterSqlite3.Database, Statements>();

/**
 * A statement of a connection, prepared once. A save consists of the same few statements over and over: made anew each time
 * they take several times as long as the disk does.
 */
export function prepared(connection: BetterSqlite3.Database, sql: string): BetterSqlite3.Statement {
  let known = STATEMENTS.get(connection);
  if (!known) {
    known = new Map<string, BetterSqlite3.Statement>();
    STATEMENTS.set(connection, known);
  }
  let statement = known.get(sql);
  if (!statement) known.set(sql, (statement = connection.prepare(sql)));
  return statement;
}

type Within = (work: (connection: BetterSqlite3.Database) => unknown) => unknown;
const TRANSACTIONS = new WeakMap<BetterSqlite3.Database, Within>();

/** Carries out `work` in a transaction of a connection, or in a savepoint of the one that is open. */
export function inTransaction<T>(
  connection: BetterSqlite3.Database,
  work: (connection: BetterSqlite3.Database) => T,
): T {
  let within = TRANSACTIONS.get(connection);
  if (!within)
    TRANSACTIONS.set(
      connection,
      (within = connection.transaction((inside: Parameters<Within>[0]) => inside(connection))),
    );
  return within(work) as T;
}
