import type { Knex } from 'knex';

/** Shows and everything in them. Value objects are JSON columns; things with an identity are tables. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('shows', (table) => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.text('name').notNullable();
    table.text('date').notNullable();
    table.text('place').notNullable();
    table.integer('slot_seconds').notNullable();
    table.float('default_fade_seconds').notNullable();
    table.text('held_notes').notNullable();
    table.integer('middle_c').notNullable();
    table.text('controls').notNullable();
  });
  await knex.schema.createTable('devices', (table) => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.text('show_id').notNullable().references('shows.id').onDelete('CASCADE');
    table.integer('position').notNullable();
    table.text('kind').notNullable();
    table.text('name').notNullable();
    table.text('port').notNullable();
    table.integer('channel');
    table.integer('lowest_key');
    table.integer('highest_key');
    table.integer('octave_shift');
    table.text('touch');
    table.text('pad_notes');
    table.text('knob_controllers');
    table.integer('controller');
    table.text('action');
    table.text('channels');
    table.index('show_id');
  });
  await knex.schema.createTable('sounds', (table) => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.text('name').notNullable();
    table.text('category').notNullable();
    table.text('tags').notNullable();
    table.boolean('favourite').notNullable();
    table.integer('lowest_note').notNullable();
    table.integer('highest_note').notNullable();
    table.text('origin').notNullable();
    table.text('recipe');
    table.text('module_id').references('devices.id').onDelete('SET NULL');
    table.integer('module_channel');
    table.integer('module_program');
  });
  await knex.schema.createTable('songs', (table) => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.text('show_id').notNullable().references('shows.id').onDelete('CASCADE');
    table.text('name').notNullable();
    table.integer('length_seconds').notNullable();
    table.float('tempo').notNullable();
    table.text('metre').notNullable();
    table.text('fingered').notNullable();
    table.text('sounding').notNullable();
    table.index('show_id');
  });
  await knex.schema.createTable('order_entries', (table) => {
    table.text('id').primary();
    table.text('show_id').notNullable().references('shows.id').onDelete('CASCADE');
    table.integer('position').notNullable();
    table.text('kind').notNullable();
    table.text('song_id').references('songs.id').onDelete('CASCADE');
    table.text('name');
    table.integer('length_seconds');
    table.index('show_id');
    table.index('song_id');
  });
  await knex.schema.createTable('patches', (table) => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.text('song_id').notNullable().references('songs.id').onDelete('CASCADE');
    table.integer('position').notNullable();
    table.text('name').notNullable();
    table.index('song_id');
  });
  await knex.schema.createTable('patch_sounds', (table) => {
    table.text('patch_id').notNullable().references('patches.id').onDelete('CASCADE');
    table.text('id').notNullable();
    table.integer('position').notNullable();
    table.text('library_sound_id').notNullable().references('sounds.id');
    table.text('polyphony').notNullable();
    table.primary(['patch_id', 'id']);
    table.index('library_sound_id');
  });
  await knex.schema.createTable('layers', (table) => {
    table.text('patch_id').notNullable().references('patches.id').onDelete('CASCADE');
    table.text('id').notNullable();
    table.integer('position').notNullable();
    table.text('name').notNullable();
    table.text('sound_id').notNullable();
    table.text('keyboards').notNullable();
    table.text('channel').notNullable();
    table.text('keys').notNullable();
    table.text('velocities').notNullable();
    table.text('touch').notNullable();
    table.integer('transpose').notNullable();
    table.boolean('follows_song').notNullable();
    table.float('level').notNullable();
    table.float('pan').notNullable();
    table.boolean('muted').notNullable();
    table.text('sends').notNullable();
    table.text('obeys').notNullable();
    table.primary(['patch_id', 'id']);
    table
      .foreign(['patch_id', 'sound_id'])
      .references(['patch_id', 'id'])
      .inTable('patch_sounds')
      .onDelete('CASCADE');
  });
  await knex.schema.createTable('cues', (table) => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.text('song_id').notNullable().references('songs.id').onDelete('CASCADE');
    table.text('patch_id').notNullable().references('patches.id');
    table.integer('position').notNullable();
    table.text('name').notNullable();
    table.text('balance').notNullable();
    table.text('controllers').notNullable();
    table.float('fade_seconds');
    table.text('note').notNullable();
    table.index('song_id');
    table.index('patch_id');
  });
}

/** Takes it all back, in the order that foreign keys ask for. */
export async function down(knex: Knex): Promise<void> {
  const tables = [
    'cues',
    'layers',
    'patch_sounds',
    'patches',
    'order_entries',
    'songs',
    'sounds',
    'devices',
    'shows',
  ];
  for (const table of tables) await knex.schema.dropTable(table);
}
