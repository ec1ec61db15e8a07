import type { Knex } from 'knex';

/**
 * Recordings, and sounds that are made of zones of them. A zone names its recording without pointing to its row: a sound whose
 * recording is wanting is still a sound, and says what it wants.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('recordings', (table) => {
    table.text('id').primary();
    table.text('name').notNullable();
    table.text('format').notNullable();
    table.integer('bytes').notNullable();
    table.float('sample_rate').notNullable();
    table.integer('channels').notNullable();
    table.integer('bits').notNullable();
    table.integer('frames').notNullable();
    table.text('heard').notNullable();
    table.text('claims').notNullable();
  });
  await knex.schema.alterTable('sounds', (table) => {
    table.float('dynamics');
  });
  await knex.schema.createTable('sound_zones', (table) => {
    table.text('sound_id').notNullable().references('sounds.id').onDelete('CASCADE');
    table.text('id').notNullable();
    table.integer('position').notNullable();
    table.text('recording_id').notNullable().index();
    table.integer('root').notNullable();
    table.float('cents').notNullable();
    table.float('gain').notNullable();
    table.float('pan').notNullable();
    table.text('keys').notNullable();
    table.text('velocities').notNullable();
    table.float('tracking').notNullable();
    table.boolean('one_shot').notNullable();
    table.text('envelope').notNullable();
    table.float('start_seconds').notNullable();
    table.float('end_seconds');
    table.text('loop');
    table.boolean('reverse').notNullable();
    table.integer('choke').notNullable();
    table.integer('turn').notNullable();
    table.primary(['sound_id', 'id']);
  });
}

/** Takes it back; what was made of recordings becomes a house sound, since patches play it. */
export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('sound_zones');
  await knex('sounds')
    .where({ origin: 'recordings' })
    .update({ origin: 'house', recipe: 'glass-bells' });
  await knex.raw('alter table sounds drop column dynamics');
  await knex.schema.dropTable('recordings');
}
