import type { Knex } from 'knex';

/** A zone says which piece of a kit it is, so that drum patterns find it. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('sound_zones', (table) => {
    table.integer('piece');
  });
  await knex('sounds').update({ checksum: null });
}

/** Takes it back: patterns find pieces by their keys alone. */
export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table sound_zones drop column piece');
  await knex('sounds').update({ checksum: null });
}
