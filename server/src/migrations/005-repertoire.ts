import type { Knex } from 'knex';
import { rebuild, withoutForeignKeys } from './rebuilding.js';

/** Tables that others point to are made anew. */
export const config = { transaction: false };

interface CueOfSong {
  id: string;
  song_id: string;
  length_seconds: number;
}

/**
 * Songs belong to the player and not to a show; what stood on a show's stage is a rig; entries of running orders may be
 * encores and otherwise for a night; cues have their place on the song's time, switch treatments and may set the tempo.
 */
export async function up(knex: Knex): Promise<void> {
  // It may have been done, and the program killed before that was noted.
  if (await knex.schema.hasTable('rigs')) return;
  await withoutForeignKeys(knex, async (work) => {
    await rigsOfShows(work);
    await rebuild(work, 'devices', deviceColumns('rig_id', 'rigs.id'), {
      show_id: 'rig_id',
    });
    await rebuild(work, 'songs', songColumns, {}, ['show_id']);
    await work.schema.alterTable('songs', (table) => {
      table.integer('octaves').notNullable().defaultTo(0);
      table.text('notes').notNullable().defaultTo('');
    });
    await rebuild(work, 'order_entries', entryColumns('NO ACTION'), {});
    await work.schema.alterTable('order_entries', (table) => {
      table.integer('encore').notNullable().defaultTo(0);
      table.text('tonight');
    });
    await work.schema.alterTable('cues', (table) => {
      table.integer('at_seconds').notNullable().defaultTo(0);
      table.text('treatments').notNullable().defaultTo('{}');
      table.float('tempo');
    });
    await placeCues(work);
    for (const table of ['shows', 'devices', 'songs', 'cues'])
      await work(table).update({ checksum: null });
  });
}

/** Takes it back. A song of several shows goes to the first; one of none, and what only the new columns hold, is lost. */
export async function down(knex: Knex): Promise<void> {
  await withoutForeignKeys(knex, async (work) => {
    await work.schema.alterTable('cues', (table) => {
      table.dropColumns('at_seconds', 'treatments', 'tempo');
    });
    await work.schema.alterTable('order_entries', (table) => {
      table.dropColumns('encore', 'tonight');
    });
    await work('order_entries').where({ kind: 'changeover' }).update({ kind: 'break' });
    await rebuild(work, 'order_entries', entryColumns('CASCADE'), {});
    await work.schema.alterTable('songs', (table) => {
      table.dropColumns('octaves', 'notes');
      table.text('show_id');
    });
    await work('songs').update({
      show_id: work('order_entries')
        .select('show_id')
        .whereRaw('song_id = songs.id')
        .orderBy('show_id')
        .limit(1),
    });
    await work('songs').whereNull('show_id').delete();
    await work('patches').whereNotIn('song_id', work('songs').select('id')).delete();
    await work('cues').whereNotIn('song_id', work('songs').select('id')).delete();
    const strangers = work('order_entries')
      .join('songs', 'songs.id', 'song_id')
      .whereRaw('songs.show_id <> order_entries.show_id')
      .select('order_entries.id');
    await work('order_entries').whereIn('id', strangers).delete();
    for (const parts of ['patch_sounds', 'layers', 'treatments', 'patch_controls'])
      await work(parts).whereNotIn('patch_id', work('patches').select('id')).delete();
    await rebuild(
      work,
      'songs',
      (table) => {
        songColumns(table);
        table.text('show_id').notNullable().references('shows.id').onDelete('CASCADE');
        table.index('show_id');
      },
      {},
    );
    const showOfRig = work('shows').select('id').whereRaw('rig_id = devices.rig_id').limit(1);
    await work('devices').update({ rig_id: showOfRig });
    await work('devices').whereNull('rig_id').delete();
    await rebuild(work, 'devices', deviceColumns('show_id', 'shows.id'), { rig_id: 'show_id' });
    await rebuild(work, 'shows', showColumns, {}, [
      'doors',
      'start',
      'rig_id',
      'copied_from',
      'put_away',
    ]);
    await work.schema.dropTable('rigs');
    for (const table of ['shows', 'devices', 'songs', 'cues'])
      await work(table).update({ checksum: null });
  });
}

async function rigsOfShows(knex: Knex): Promise<void> {
  await knex.schema.createTable('rigs', (table) => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.text('name').notNullable();
    table.integer('checksum');
  });
  await knex.schema.alterTable('shows', (table) => {
    table.text('doors');
    table.text('start');
    table.text('rig_id').references('rigs.id');
    table.text('copied_from');
    table.boolean('put_away').notNullable().defaultTo(false);
  });
  const shows = await knex.raw<{ id: string; name: string }[]>('select id, name from shows');
  for (const { id, name } of shows) {
    const called = [...`Rig of ${name}`].slice(0, 80).join('').trim();
    await knex('rigs').insert({ id, revision: 1, name: called });
    await knex('shows').where({ id }).update({ rig_id: id });
  }
}

/** Cues stand evenly over their songs, in the order they have. */
async function placeCues(knex: Knex): Promise<void> {
  const cues = await knex.raw<CueOfSong[]>(
    `select cues.id, song_id, length_seconds from cues join songs on songs.id = song_id
     order by song_id, cues.position, cues.id`,
  );
  const counts = new Map<string, number>();
  for (const { song_id } of cues) counts.set(song_id, (counts.get(song_id) ?? 0) + 1);
  const seen = new Map<string, number>();
  for (const { id, song_id, length_seconds } of cues) {
    const number = seen.get(song_id) ?? 0;
    seen.set(song_id, number + 1);
    const at_seconds = Math.floor((length_seconds * number) / (counts.get(song_id) ?? 1));
    await knex('cues').where({ id }).update({ at_seconds });
  }
}

function songColumns(table: Knex.CreateTableBuilder): void {
  table.text('id').primary();
  table.integer('revision').notNullable();
  table.text('name').notNullable();
  table.integer('length_seconds').notNullable();
  table.float('tempo').notNullable();
  table.text('metre').notNullable();
  table.text('fingered').notNullable();
  table.text('sounding').notNullable();
  table.integer('checksum');
}

function showColumns(table: Knex.CreateTableBuilder): void {
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
  table.integer('checksum');
}

function deviceColumns(owner: string, reference: string) {
  return (table: Knex.CreateTableBuilder): void => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.text(owner).notNullable().references(reference).onDelete('CASCADE');
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
    table.integer('checksum');
    table.index(owner);
  };
}

function entryColumns(onDelete: 'CASCADE' | 'NO ACTION') {
  return (table: Knex.CreateTableBuilder): void => {
    table.text('id').notNullable();
    table.text('show_id').notNullable().references('shows.id').onDelete('CASCADE');
    table.integer('position').notNullable();
    table.text('kind').notNullable();
    table.text('song_id').references('songs.id').onDelete(onDelete);
    table.text('name');
    table.integer('length_seconds');
    table.primary(['show_id', 'id']);
    table.index('song_id');
  };
}
