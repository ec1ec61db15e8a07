import type { Kind } from '@pentachord/core/model';
import type BetterSqlite3 from 'better-sqlite3';
import { prepared } from './prepared.js';
import { bound, Json, type Parts, type Row, type TableFamily } from './table-family.js';

/**
 * Writes the parts of a thing. When `before` says what stands there, only what differs is written: a hand that moves one
 * level writes one row.
 */
export function writeParts<K extends Kind>(
  connection: BetterSqlite3.Database,
  { parts: tables, owner }: TableFamily<K>,
  ownerId: string,
  parts: Parts,
  before: Parts | null,
): void {
  const anew: string[] = [];
  for (const table of tables) {
    const changed = before ? changedRows(before[table], parts[table]) : 'all';
    // What is written wholly anew takes the tables behind it along: they point to it, and go with it.
    if (changed === 'all' || anew.length > 0) anew.push(table);
    else updateRows(connection, table, owner, changed);
  }
  for (const table of anew.toReversed())
    prepared(connection, `delete from ${table} where ${owner} = ?`).run(ownerId);
  for (const table of anew) insertRows(connection, table, parts[table]);
}

/** Inserts rows, all of the same columns. */
export function insertRows(
  connection: BetterSqlite3.Database,
  table: string,
  rows: readonly Row[],
): void {
  if (rows.length === 0) return;
  const columns = Object.keys(rows[0]);
  const places = columns.map(() => '?').join(',');
  const statement = prepared(
    connection,
    `insert into ${table} (${columns.join(',')}) values (${places})`,
  );
  for (const row of rows) statement.run(bound(row));
}

/** Writes rows over those of the same ids, all of the same columns. */
function updateRows(
  connection: BetterSqlite3.Database,
  table: string,
  owner: string,
  rows: readonly Row[],
): void {
  if (rows.length === 0) return;
  const columns = Object.keys(rows[0]).filter((column) => column !== 'id' && column !== owner);
  const places = columns.map((column) => `${column} = ?`).join(',');
  const statement = prepared(
    connection,
    `update ${table} set ${places} where ${owner} = ? and id = ?`,
  );
  for (const row of rows)
    statement.run(
      columns.map((column) => textOf(row[column])),
      row[owner],
      row['id'],
    );
}

/** Rows that differ from those before; `all` when some have come or gone. */
function changedRows(before: readonly Row[], after: readonly Row[]): readonly Row[] | 'all' {
  if (before.length !== after.length) return 'all';
  const known = new Map(before.map((row) => [row['id'], row]));
  const changed: Row[] = [];
  for (const row of after) {
    const old = known.get(row['id']);
    if (!old) return 'all';
    if (differs(row, old)) changed.push(row);
  }
  return changed;
}

function differs(row: Row, old: Row): boolean {
  for (const column in row) if (textOf(row[column]) !== textOf(old[column])) return true;
  return false;
}

function textOf(value: Row[string]): string | number | null {
  return value instanceof Json ? value.text : value;
}
