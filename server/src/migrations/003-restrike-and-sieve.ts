import type { Knex } from 'knex';

/** Names of treatments, before and after. */
const RENAMED = { repeat: 'restrike', filter: 'sieve' };

interface KeptPatch {
  kind: string;
  patch?: { treatments?: { kind: string }[] };
}

async function rename(knex: Knex, names: Record<string, string>): Promise<void> {
  for (const [before, after] of Object.entries(names))
    await knex('treatments').where({ kind: before }).update({ kind: after });
  const kept = (await knex('keepsakes').select('id', 'content').where({ kind: 'patch' })) as {
    id: string;
    content: string;
  }[];
  for (const { id, content } of kept) {
    const read = JSON.parse(content) as KeptPatch;
    for (const treatment of read.patch?.treatments ?? [])
      treatment.kind = names[treatment.kind] ?? treatment.kind;
    await knex('keepsakes')
      .where({ id })
      .update({ content: JSON.stringify(read) });
  }
}

/** A struck key is restruck, and notes go through a sieve. */
export async function up(knex: Knex): Promise<void> {
  await rename(knex, RENAMED);
}

/** Takes it back. */
export async function down(knex: Knex): Promise<void> {
  await rename(
    knex,
    Object.fromEntries(Object.entries(RENAMED).map(([before, after]) => [after, before])),
  );
}
