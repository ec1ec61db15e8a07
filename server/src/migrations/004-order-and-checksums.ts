import type { Knex } from 'knex';

/** Tables whose rows are things with a revision. */
const THINGS = ['shows', 'devices', 'songs', 'patches', 'cues', 'sounds', 'keepsakes'];

function columns(table: Knex.CreateTableBuilder): void {
  table.text('id').notNullable();
  table.text('show_id').notNullable().references('shows.id').onDelete('CASCADE');
  table.integer('position').notNullable();
  table.text('kind').notNullable();
  table.text('song_id').references('songs.id').onDelete('CASCADE');
  table.text('name');
  table.integer('length_seconds');
}

async function rebuild(
  knex: Knex,
  key: (table: Knex.CreateTableBuilder) => void,
  kept = '',
): Promise<void> {
  await knex.schema.createTable('rebuilt_entries', (table) => {
    columns(table);
    key(table);
  });
  await knex.raw(
    `insert into rebuilt_entries select id, show_id, position, kind, song_id, name, length_seconds from order_entries ${kept}`,
  );
  await knex.schema.dropTable('order_entries');
  await knex.schema.renameTable('rebuilt_entries', 'order_entries');
  await knex.schema.alterTable('order_entries', (table) => {
    table.index('song_id');
  });
}

/**
 * An entry is known by its show and its id, so that two shows may hold entries of one name. Every thing carries a checksum;
 * it is null until the thing is looked at or saved.
 */
export async function up(knex: Knex): Promise<void> {
  await rebuild(knex, (table) => table.primary(['show_id', 'id']));
  for (const name of THINGS)
    await knex.schema.alterTable(name, (table) => {
      table.integer('checksum');
    });
}

/** Takes it back. Of entries that bear one id in several shows, the first is kept. */
export async function down(knex: Knex): Promise<void> {
  for (const name of THINGS)
    await knex.schema.alterTable(name, (table) => {
      table.dropColumn('checksum');
    });
  const first = 'where rowid in (select min(rowid) from order_entries group by id)';
  await rebuild(knex, (table) => table.primary(['id']), first);
}
