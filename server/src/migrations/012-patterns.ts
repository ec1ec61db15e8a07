import type { Knex } from 'knex';

/** Patterns of the library; patches have accompanists, which hold them on keys, and keys for all of them together. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('patterns', (table) => {
    table.text('id').primary();
    table.integer('revision').notNullable();
    table.integer('checksum');
    table.text('name').notNullable();
    table.text('category').notNullable();
    table.text('tags').notNullable();
    table.boolean('favourite').notNullable();
    table.integer('length').notNullable();
    table.text('metre').notNullable();
    table.float('tempo').notNullable();
    table.text('key');
    table.text('quantise');
    table.text('notes').notNullable();
  });
  await knex.schema.createTable('accompanists', (table) => {
    table.text('patch_id').notNullable().references('patches.id').onDelete('CASCADE');
    table.text('id').notNullable();
    table.integer('position').notNullable();
    table.text('name').notNullable();
    table.text('layer_ids').notNullable();
    table.text('place').notNullable();
    table.integer('stop_key');
    table.text('settings').notNullable();
    table.primary(['patch_id', 'id']);
  });
  await knex.schema.createTable('placed_patterns', (table) => {
    table.text('patch_id').notNullable();
    table.text('id').notNullable();
    table.integer('position').notNullable();
    table.text('accompanist_id').notNullable();
    table.text('pattern_id').notNullable().references('patterns.id').onDelete('RESTRICT');
    table.integer('key').notNullable();
    table.text('settings').notNullable();
    table.primary(['patch_id', 'id']);
    table
      .foreign(['patch_id', 'accompanist_id'])
      .references(['patch_id', 'id'])
      .inTable('accompanists')
      .onDelete('CASCADE');
  });
  await knex.schema.createTable('band_keys', (table) => {
    table.text('patch_id').notNullable().references('patches.id').onDelete('CASCADE');
    table.text('id').notNullable();
    table.integer('position').notNullable();
    table.text('does').notNullable();
    table.text('place').notNullable();
    table.integer('key').notNullable();
    table.text('starts').notNullable();
    table.primary(['patch_id', 'id']);
  });
  await forgetChecksums(knex);
}

/** Takes it back; patterns and accompanists are lost, and their keys are played as usual. */
export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('band_keys');
  await knex.schema.dropTable('placed_patterns');
  await knex.schema.dropTable('accompanists');
  await knex.schema.dropTable('patterns');
  const kept = await knex('keepsakes').select<{ id: string; content: string }[]>('id', 'content');
  for (const { id, content } of kept) {
    const read = JSON.parse(content) as { patch?: { accompanists?: unknown; bandKeys?: unknown } };
    if (!read.patch) continue;
    delete read.patch.accompanists;
    delete read.patch.bandKeys;
    await knex('keepsakes')
      .where({ id })
      .update({ content: JSON.stringify(read) });
  }
  await forgetChecksums(knex);
}

async function forgetChecksums(knex: Knex): Promise<void> {
  for (const table of ['patches', 'keepsakes']) await knex(table).update({ checksum: null });
}
