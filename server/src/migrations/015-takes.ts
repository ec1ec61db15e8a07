import type { Knex } from 'knex';

/** What was played and is kept for good: how it is called, what lists show of it, and its roll, packed. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('takes', (table) => {
    table.text('id').primary();
    table.text('name').notNullable();
    table.text('stretches').notNullable();
    table.text('played_where').notNullable();
    table.integer('began').notNullable();
    table.float('seconds').notNullable();
    // A show that has gone since is still named.
    table.text('show_id');
    table.text('show').notNullable();
    table.text('songs').notNullable();
    table.integer('keys').notNullable();
    table.integer('cues').notNullable();
    table.text('heading').notNullable();
    table.binary('roll').notNullable();
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('takes');
}
