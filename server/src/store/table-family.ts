import type { Kind, ValueOf } from '@pentachord/core/model';
import type BetterSqlite3 from 'better-sqlite3';
import { prepared } from './prepared.js';

/** A value on its way into a JSON column: as text for the table, as it is for whoever builds the thing from its rows. */
export class Json {
  readonly text: string;

  constructor(readonly value: unknown) {
    this.text = JSON.stringify(value);
  }
}

/** A row as it stands in a table: text, numbers, and JSON, which is text when it is read. */
export type Row = Record<string, string | number | null | Json>;
/** Rows of other tables that belong to a thing, by table, in order. */
export type Parts = Readonly<Record<string, readonly Row[]>>;

/** How one kind of saved thing lies in its tables. */
export interface TableFamily<K extends Kind> {
  /** The table whose rows carry id, revision and checksum. */
  table: string;
  /** Columns of that table by which things are listed. */
  order: readonly string[];
  /** Tables of its parts, each with a position; a table comes behind those that it points to. */
  parts: readonly string[];
  /** Column of those tables that names the thing. */
  owner: string;
  /** A thing from its rows. What the rows hold is not checked here. */
  fromRows(row: Row, parts: Parts): ValueOf<K>;
  /** The thing's own row, without id, revision and checksum, and the rows of its parts. */
  toRows(value: ValueOf<K>): { row: Row; parts: Parts };
  /** What the thing points to that is not there, in words; null when all of it is. */
  missingIn(connection: BetterSqlite3.Database, value: ValueOf<K>): string | null;
  /** What else the thing points to that is not its own, in words; null when all of it is. Foreign keys are asked besides. */
  strangerIn?(connection: BetterSqlite3.Database, value: ValueOf<K>): string | null;
}

/** Reads a JSON column. What it holds is checked by the schema of the whole thing. */
export function fromJson(column: Row[string]): unknown {
  if (column instanceof Json) return column.value;
  return typeof column === 'string' ? JSON.parse(column) : null;
}

/** True when a table holds no row of this id. */
export function lacks(connection: BetterSqlite3.Database, table: string, id: string): boolean {
  return prepared(connection, `select 1 from ${table} where id = ?`).get(id) === undefined;
}

/** The values of a row as a statement binds them. */
export function bound(row: Row): (string | number | null)[] {
  const values: (string | number | null)[] = [];
  for (const column in row) {
    const value = row[column];
    values.push(value instanceof Json ? value.text : value);
  }
  return values;
}
