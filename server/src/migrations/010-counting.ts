import type { Knex } from 'knex';

/**
 * A database knows the highest revision that anything removed from it bore, so that none comes twice, and how many revisions were
 * spent on what is gone, so that of two copies the later one is known whatever the clock said.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('about', (table) => {
    table.integer('highest').notNullable().defaultTo(0);
    table.integer('spent').notNullable().defaultTo(0);
  });
}

/** Takes it back. */
export async function down(knex: Knex): Promise<void> {
  for (const column of ['highest', 'spent'])
    await knex.raw('alter table about drop column ??', [column]);
}
