import type { Knex } from 'knex';

/** Timbre, tone, lift, shared effects, treatments and controls of patches; what the player keeps. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('patches', (table) => {
    table
      .text('effects')
      .notNullable()
      .defaultTo(
        '{"reverb":{"level":0},"delay":{"level":0,"beats":0.75,"feedback":0.35},"chorus":{"level":0,"rate":0.6,"depth":0.5}}',
      );
  });
  await knex.schema.alterTable('patch_sounds', (table) => {
    table.float('glide_seconds').notNullable().defaultTo(0);
    table
      .text('timbre')
      .notNullable()
      .defaultTo('{"brightness":0,"attack":0,"release":0,"vibrato":0}');
  });
  await knex.schema.alterTable('layers', (table) => {
    table.text('tone').notNullable().defaultTo('{"low":0,"high":0}');
    table.text('lift').notNullable().defaultTo('{"floor":55,"on":false}');
  });
  await knex('layers').update({
    sends: knex.raw("json_set(sends, '$.delay', -60, '$.chorus', -60)"),
  });
  await knex.schema.createTable('treatments', (table) => {
    table.text('patch_id').notNullable().references('patches.id').onDelete('CASCADE');
    table.text('id').notNullable();
    table.integer('position').notNullable();
    table.text('kind').notNullable();
    table.boolean('is_on').notNullable();
    table.text('layer_ids').notNullable();
    table.text('settings').notNullable();
    table.primary(['patch_id', 'id']);
  });
  await knex.schema.createTable('patch_controls', (table) => {
    table.text('patch_id').notNullable().references('patches.id').onDelete('CASCADE');
    table.text('id').notNullable();
    table.integer('position').notNullable();
    // A control outlives its device: it may be in another rig, or come back.
    table.text('device_id').notNullable();
    table.text('message').notNullable();
    table.text('target').notNullable();
    table.float('from_value').notNullable();
    table.float('to_value').notNullable();
    table.primary(['patch_id', 'id']);
  });
  await knex.schema.createTable('keepsakes', (table) => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.text('name').notNullable();
    table.boolean('favourite').notNullable();
    table.text('kind').notNullable();
    table.text('content').notNullable();
  });
}

/** Takes it all back. What only the new tables hold is lost. */
export async function down(knex: Knex): Promise<void> {
  for (const table of ['keepsakes', 'patch_controls', 'treatments'])
    await knex.schema.dropTable(table);
  await knex('layers').update({ sends: knex.raw("json_remove(sends, '$.delay', '$.chorus')") });
  const drop = (table: string, columns: string[]) =>
    knex.schema.alterTable(table, (altered) => altered.dropColumns(...columns));
  await drop('layers', ['tone', 'lift']);
  await drop('patch_sounds', ['glide_seconds', 'timbre']);
  await drop('patches', ['effects']);
}
