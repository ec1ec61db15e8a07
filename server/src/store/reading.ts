import type { Kind, Saved, ValueOf } from '@pentachord/core/model';
import type BetterSqlite3 from 'better-sqlite3';
import type { Knex } from 'knex';
import type { Condition } from './condition.js';
import { familyOf } from './families.js';
import { prepared } from './prepared.js';
import type { Parts, Row } from './table-family.js';

/** Leaves some rows of a kind's own table. */
export type Filter = (query: Knex.QueryBuilder) => void;

/** A thing as its rows give it. */
export interface FoundThing<K extends Kind> extends Saved<ValueOf<K>> {
  id: string;
  name: string;
  /** Null when none has been written. */
  checksum: number | null;
}

/** A thing whose rows cannot even be put together. */
export interface Unreadable {
  id: string;
  name: string;
  revision: number;
  unreadable: string;
}

/** Things of a kind with their parts, in one statement for each of its tables. What they hold is not checked. */
export async function readAll<K extends Kind>(
  knex: Knex,
  kind: K,
  filter: Filter,
): Promise<(FoundThing<K> | Unreadable)[]> {
  const family = familyOf(kind);
  const query = knex(family.table).orderBy([...family.order]);
  filter(query);
  const rows = (await query) as Row[];
  const parts: Record<string, Map<unknown, Row[]>> = {};
  for (const table of rows.length > 0 ? family.parts : []) {
    const owners = knex(family.table).select('id');
    filter(owners);
    const found = (await knex(table)
      .whereIn(family.owner, owners)
      .orderBy([family.owner, 'position'])) as Row[];
    parts[table] = byOwner(found, family.owner);
  }
  return rows.map((row) => {
    const own: Record<string, Row[]> = {};
    for (const table of family.parts) own[table] = parts[table].get(row['id']) ?? [];
    return found(kind, row, own);
  });
}

/** One thing with its parts, by statements prepared once; null when there is none of that id. */
export function readOne<K extends Kind>(
  connection: BetterSqlite3.Database,
  kind: K,
  id: string,
): FoundThing<K> | Unreadable | null {
  const { table, parts, owner } = familyOf(kind);
  const row = prepared(connection, `select * from ${table} where id = ?`).get(id) as
    Row | undefined;
  if (!row) return null;
  const own: Record<string, Row[]> = {};
  for (const part of parts)
    own[part] = prepared(
      connection,
      `select * from ${part} where ${owner} = ? order by position`,
    ).all(id) as Row[];
  return found(kind, row, own);
}

function byOwner(rows: readonly Row[], owner: string): Map<unknown, Row[]> {
  const groups = new Map<unknown, Row[]>();
  for (const row of rows) {
    const group = groups.get(row[owner]);
    if (group) group.push(row);
    else groups.set(row[owner], [row]);
  }
  return groups;
}

function found<K extends Kind>(kind: K, row: Row, parts: Parts): FoundThing<K> | Unreadable {
  const id = row['id'] as string;
  const name = row['name'] as string;
  const revision = row['revision'] as number;
  try {
    const checksum = row['checksum'] as number | null;
    return { id, name, revision, checksum, value: familyOf(kind).fromRows(row, parts) };
  } catch (error) {
    return { id, name, revision, unreadable: (error as Error).message };
  }
}

/** Those that can be read, without what is known as lost; what turns out to be lost now is noted. */
export function readable<K extends Kind>(
  kind: K,
  things: readonly (FoundThing<K> | Unreadable)[],
  condition: Condition,
): Saved<ValueOf<K>>[] {
  const good: Saved<ValueOf<K>>[] = [];
  for (const thing of things) {
    const { id, name } = thing;
    if ('unreadable' in thing)
      condition.note({ kind, id, name, why: 'a part of it cannot be read any more', lost: true });
    else if (!condition.isLost(kind, id))
      good.push({ revision: thing.revision, value: thing.value });
  }
  return good;
}
