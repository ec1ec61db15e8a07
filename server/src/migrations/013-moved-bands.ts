import type { Knex } from 'knex';

/** What of a tie or a starter is new. */
const OF_TIE = { begins: 'now' };
const OF_STARTER = { starters: 'notes' };
const CHANGED = ['patches', 'cues', 'songs', 'rigs', 'keepsakes'] as const;

/** Cues move accompanists; patterns are started by buttons too; what a control switches can wait for its beat. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('cues', (table) => {
    table.text('band').notNullable().defaultTo('{}');
  });
  await knex.schema.alterTable('band_keys', (table) => {
    table.text('starters').notNullable().defaultTo('notes');
  });
  await inAll(knex, (one, isStarter) => ({ ...(isStarter ? OF_STARTER : OF_TIE), ...one }));
}

/** Takes it back; controls that move accompanists are lost. */
export async function down(knex: Knex): Promise<void> {
  await knex('patch_controls').where('target', 'like', '%"kind":"accompanist"%').delete();
  for (const [table, column] of [
    ['cues', 'band'],
    ['band_keys', 'starters'],
  ])
    await knex.raw('alter table ?? drop column ??', [table, column]);
  await inAll(
    knex,
    (one, isStarter) =>
      Object.fromEntries(
        Object.entries(one).filter(([name]) => !(name in (isStarter ? OF_STARTER : OF_TIE))),
      ),
    ({ target }) => (target as Thing | undefined)?.['kind'] !== 'accompanist',
  );
}

type Thing = Record<string, unknown>;
type Change = (one: Thing, isStarter: boolean) => Thing;

/** Changes every tie and every starter, wherever they are kept. */
async function inAll(knex: Knex, change: Change, isKept = (_one: Thing) => true): Promise<void> {
  await inColumn(knex, 'patch_controls', 'manner', (manner) => change(manner as Thing, false));
  await inColumn(knex, 'accompanists', 'settings', (settings) => change(settings as Thing, true));
  for (const table of ['songs', 'rigs'])
    await inColumn(knex, table, 'ties', (ties) =>
      (ties as Thing[]).map((tie) => change(tie, false)),
    );
  await inColumn(knex, 'keepsakes', 'content', (content) => {
    const kept = content as Thing & { patch?: Thing };
    const parts: Thing = kept.patch ?? kept;
    for (const [list, isStarter] of [
      ['controls', false],
      ['accompanists', true],
      ['bandKeys', true],
    ] as const)
      if (parts[list])
        parts[list] = (parts[list] as Thing[])
          .filter((one) => isKept(one))
          .map((one) => change(one, isStarter));
    return kept;
  });
  for (const table of CHANGED) await knex(table).update({ checksum: null });
}

async function inColumn(
  knex: Knex,
  table: string,
  column: string,
  change: (value: unknown) => unknown,
): Promise<void> {
  const rows = await knex(table).select<{ rowid: number; text: string }[]>(
    knex.raw('rowid as rowid'),
    { text: column },
  );
  for (const { rowid, text } of rows)
    await knex(table)
      .whereRaw('rowid = ?', [rowid])
      .update({ [column]: JSON.stringify(change(JSON.parse(text))) });
}
