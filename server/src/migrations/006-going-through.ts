import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';

/** How every show was gone through before one could say so. */
const USUAL = JSON.stringify({
  guardSeconds: 0.15,
  atEnd: 'stop',
  clock: {
    leader: null,
    followers: [],
    countInBars: 1,
    click: { on: false, output: 'both', level: -12 },
  },
});

/**
 * Shows say how they are gone through and what keeps time; songs may bear a number of their own; the database has a name, by
 * which a browser knows what it has kept of it. Checksums are made anew.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('songs', (table) => {
    table.integer('number');
  });
  await knex.schema.alterTable('shows', (table) => {
    table.text('going').notNullable().defaultTo(USUAL);
  });
  await knex.schema.createTable('about', (table) => {
    table.text('database').notNullable();
  });
  await knex('about').insert({ database: randomUUID() });
  await knex('songs').update({ checksum: null });
  await knex('shows').update({ checksum: null });
}

/** Takes it back, and with it the controls that nobody knew before. */
export async function down(knex: Knex): Promise<void> {
  const known = new Set(['nextCue', 'previousCue', 'allNotesOff']);
  const shows = await knex.raw<{ id: string; controls: string }[]>(
    'select id, controls from shows',
  );
  for (const { id, controls } of shows) {
    const all = JSON.parse(controls) as { action: string; message: { kind: string } }[];
    const kept = all.filter(
      ({ action, message }) =>
        known.has(action) && (message.kind === 'note' || message.kind === 'controller'),
    );
    await knex('shows')
      .where({ id })
      .update({ controls: JSON.stringify(kept), checksum: null });
  }
  await knex.schema.dropTable('about');
  // Not by rebuilding the tables: what points to their rows would go with the old ones.
  await knex.raw('alter table shows drop column going');
  await knex.raw('alter table songs drop column number');
  await knex('songs').update({ checksum: null });
  await knex('shows').update({ checksum: null });
}
