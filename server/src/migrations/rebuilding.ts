import type { Knex } from 'knex';

type Row = Record<string, string | number | null>;

/**
 * Carries out `work` wholly or not at all, with foreign keys looked at only in the end: they are switched off while tables that
 * others point to are made anew, which no transaction allows.
 */
export async function withoutForeignKeys(
  knex: Knex,
  work: (knex: Knex) => Promise<void>,
): Promise<void> {
  await knex.raw('pragma foreign_keys = off');
  try {
    await knex.transaction(async (transaction) => {
      const before = await knex.raw<Row[]>('pragma foreign_key_check').transacting(transaction);
      await work(transaction);
      const after = await knex.raw<Row[]>('pragma foreign_key_check').transacting(transaction);
      if (after.length > before.length)
        throw new Error('the tables would not fit together any more');
    });
  } finally {
    await knex.raw('pragma foreign_keys = on');
  }
}

/** Makes a table anew with other columns; the rows stay, under the names that `renamed` says, without those dropped. */
export async function rebuild(
  knex: Knex,
  table: string,
  columns: (table: Knex.CreateTableBuilder) => void,
  renamed: Record<string, string>,
  dropped: readonly string[] = [],
): Promise<void> {
  const before = Object.keys(await knex(table).columnInfo()).filter((c) => !dropped.includes(c));
  // Indexes keep their names, and go with the table only.
  const indexes = (await knex('sqlite_master')
    .select('name')
    .where({ type: 'index', tbl_name: table })
    .whereNotNull('sql')) as { name: string }[];
  for (const { name } of indexes) await knex.raw('drop index ??', [name]);
  // The new one takes the old one's name in the end: renaming the old one would take along whatever points to it.
  await knex.schema.createTable(`new_${table}`, columns);
  const after = before.map((column) => renamed[column] ?? column);
  await knex.raw(
    `insert into new_${table} (${after.join(',')}) select ${before.join(',')} from ${table}`,
  );
  await knex.schema.dropTable(table);
  await knex.schema.renameTable(`new_${table}`, table);
}
