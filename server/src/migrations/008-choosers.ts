import type { Knex } from 'knex';

/** What a kept patch holds, as much of it as there was before. */
interface Kept {
  kind: string;
  patch?: { choosers?: unknown[] };
}

/** Patches have choosers, which pick among their layers; cues say what is picked. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('choosers', (table) => {
    table.text('patch_id').notNullable().references('patches.id').onDelete('CASCADE');
    table.text('id').notNullable();
    table.integer('position').notNullable();
    table.text('name').notNullable();
    table.text('choices').notNullable();
    table.integer('chosen').notNullable();
    table.text('controls').notNullable();
    table.primary(['patch_id', 'id']);
  });
  await knex.schema.alterTable('cues', (table) => {
    table.text('choices').notNullable().defaultTo('{}');
  });
  await keptPatches(knex, (patch) => {
    patch.choosers ??= [];
  });
  await forgetChecksums(knex);
}

/** Takes it back; choosers are lost, and every layer plays. */
export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('choosers');
  await knex.raw('alter table cues drop column choices');
  await keptPatches(knex, (patch) => {
    delete patch.choosers;
  });
  await forgetChecksums(knex);
}

async function keptPatches(
  knex: Knex,
  change: (patch: NonNullable<Kept['patch']>) => void,
): Promise<void> {
  const kept = await knex('keepsakes').select<
    {
      id: string;
      content: string;
    }[]
  >('id', 'content');
  for (const { id, content } of kept) {
    const read = JSON.parse(content) as Kept;
    if (!read.patch) continue;
    change(read.patch);
    await knex('keepsakes')
      .where({ id })
      .update({ content: JSON.stringify(read) });
  }
}

async function forgetChecksums(knex: Knex): Promise<void> {
  for (const table of ['patches', 'cues', 'keepsakes'])
    await knex(table).update({ checksum: null });
}
