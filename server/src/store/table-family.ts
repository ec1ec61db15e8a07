import type { Kind, Saved, ValueOf } from '@pentachord/core/model';
import type { Knex } from 'knex';

/** A row as it stands in a table. */
export type Row = Record<string, unknown>;

/** How one kind of saved thing lies in its tables. */
export interface TableFamily<K extends Kind> {
  /** The table whose rows carry the revision. */
  table: string;
  /** Rows of the things that a filter on the table leaves, with whatever belongs to them, in one statement. */
  select(knex: Knex, filter: (query: Knex.QueryBuilder) => void): Knex.QueryBuilder;
  /** A thing from its row. */
  fromRow(row: Row): ValueOf<K>;
  /** The thing's own row, without id and revision. */
  toRow(value: ValueOf<K>): Row;
  /** Writes what lies in other tables; called within the save's transaction, after the thing's own row is written. */
  writeParts?(knex: Knex, value: ValueOf<K>): Promise<void>;
}

/** Reads a JSON column. What it holds is checked by the schema of the whole thing. */
export function fromJson(column: unknown): unknown {
  return typeof column === 'string' ? JSON.parse(column) : null;
}

/** A row as a saved thing, still unchecked. */
export function savedFromRow<K extends Kind>(family: TableFamily<K>, row: Row): Saved<ValueOf<K>> {
  return { revision: row['revision'] as number, value: family.fromRow(row) };
}
