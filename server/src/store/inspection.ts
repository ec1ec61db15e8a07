import { KINDS, pathInWords, savedSchemas, type Kind } from '@pentachord/core/model';
import type { Knex } from 'knex';
import { answerText, checksumOf } from './checksum.js';
import type { Condition } from './condition.js';
import { FAMILIES } from './families.js';
import { readAll, type FoundThing, type Unreadable } from './reading.js';

/** What is wrong with the file as SQLite sees it, in its words; null when nothing is. An index gone wrong is made anew. */
export async function faultOfFile(knex: Knex, mayWrite: boolean): Promise<string | null> {
  const check = async () => {
    const found = await knex.raw<{ quick_check: string }[]>('pragma quick_check(1)');
    return found.at(0)?.quick_check ?? 'ok';
  };
  const whole = async () => {
    const found = await knex.raw<{ integrity_check: string }[]>('pragma integrity_check(1)');
    return found.at(0)?.integrity_check ?? 'ok';
  };
  const quick = await check();
  if (quick !== 'ok') return quick;
  let fault = await whole();
  if (fault === 'ok') return null;
  if (mayWrite) {
    await knex.raw('reindex');
    fault = await whole();
  }
  return fault === 'ok' ? null : fault;
}

/** Looks at everything in the database, and notes what cannot be read or is not as it was saved. */
export async function inspect(knex: Knex, condition: Condition): Promise<void> {
  for (const kind of KINDS) {
    const bare: FoundThing<Kind>[] = [];
    for (const thing of await readAll(knex, kind, () => undefined)) {
      const { id, name } = thing;
      const found = judge(kind, thing);
      if (found) condition.note({ kind, id, name, ...found });
      else if ('checksum' in thing && thing.checksum === null) bare.push(thing);
    }
    if (!condition.readOnly && bare.length > 0) await seal(knex, kind, bare);
  }
  await noteOrphans(knex, condition);
}

function judge(
  kind: Kind,
  thing: FoundThing<Kind> | Unreadable,
): { why: string; lost: boolean } | null {
  if ('unreadable' in thing) return { why: 'a part of it cannot be read any more', lost: true };
  const { revision, value, checksum } = thing;
  const parsed = savedSchemas[kind].safeParse({ revision, value });
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return { why: `${pathInWords(issue.path.slice(1))}: ${issue.message}`, lost: true };
  }
  if (checksum === null || checksum === checksumOf(answerText({ revision, value }))) return null;
  return { why: 'something in it is not as it was saved', lost: false };
}

/** Gives things from before there were checksums theirs. */
async function seal(knex: Knex, kind: Kind, things: readonly FoundThing<Kind>[]): Promise<void> {
  await knex.transaction(async (transaction) => {
    for (const { id, revision, value } of things)
      await transaction(FAMILIES[kind].table)
        .where({ id })
        .update({ checksum: checksumOf(answerText({ revision, value })) });
  });
}

/** Notes things whose owner is not there: they can be read, but stand nowhere. */
async function noteOrphans(knex: Knex, condition: Condition): Promise<void> {
  const rows = await knex.raw<{ table: string; rowid: number; parent: string }[]>(
    'pragma foreign_key_check',
  );
  for (const { table, rowid, parent } of rows) {
    const kind = KINDS.find((one) => FAMILIES[one].table === table);
    if (!kind) continue;
    const row: unknown = await knex(table).whereRaw('rowid = ?', rowid).first('id', 'name');
    if (!row) continue;
    const { id, name } = row as { id: string; name: string };
    condition.note({
      kind,
      id,
      name,
      why: `what it belongs to is not in the ${parent}`,
      lost: true,
    });
  }
}
