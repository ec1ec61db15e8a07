import type { Knex } from 'knex';

/** Columns that are new, by table, each with what it holds where nobody has said anything. */
const NEW: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  patch_controls: { manner: '{}' },
  layers: { output: 'main' },
  songs: { ties: '[]' },
  rigs: { ties: '[]', recipes: '[]' },
  cues: { programs: '[]' },
};
const CHANGED = ['patches', 'songs', 'rigs', 'cues', 'keepsakes'];

/**
 * Songs and rigs tie controls too, and a tie says how it moves its setting; a rig keeps recipes for devices that take no
 * messages; a layer may leave by a pair of its own; a cue may choose programs elsewhere.
 */
export async function up(knex: Knex): Promise<void> {
  for (const [name, columns] of Object.entries(NEW))
    await knex.schema.alterTable(name, (table) => {
      for (const [column, usual] of Object.entries(columns))
        table.text(column).notNullable().defaultTo(usual);
    });
  await fillInKept(knex);
  await forgetChecksums(knex);
}

/** Takes it back; what these columns held is lost, and so are ties to what a patch could not move before. */
export async function down(knex: Knex): Promise<void> {
  await knex('patch_controls')
    .whereRaw("json_extract(target, '$.kind') not in ('layer', 'sound', 'treatment')")
    .orWhereRaw("json_extract(target, '$.parameter') in ('mute', 'solo')")
    .orWhereRaw("json_extract(message, '$.kind') in ('bend', 'pressure', 'keyPressure')")
    .delete();
  await withoutAftertouch(knex);
  await forgetInKept(knex);
  for (const [name, columns] of Object.entries(NEW))
    for (const column of Object.keys(columns))
      await knex.raw('alter table ?? drop column ??', [name, column]);
  await forgetChecksums(knex);
}

async function withoutAftertouch(knex: Knex): Promise<void> {
  const layers = await knex('layers')
    .whereLike('obeys', '%aftertouch%')
    .select<{ patch_id: string; id: string; obeys: string }[]>('patch_id', 'id', 'obeys');
  for (const { patch_id, id, obeys } of layers) {
    const others = (JSON.parse(obeys) as string[]).filter((what) => what !== 'aftertouch');
    await knex('layers')
      .where({ patch_id, id })
      .update({ obeys: JSON.stringify(others) });
  }
}

/** A layer and a tie that are kept, as much of them as is new. */
interface KeptParts {
  layers?: { obeys: string[]; output?: string }[];
  controls?: {
    target: { kind: string; parameter?: string };
    message: { kind: string };
    [manner: string]: unknown;
  }[];
}

async function keptParts(
  knex: Knex,
  change: (
    layers: NonNullable<KeptParts['layers']>,
    controls: NonNullable<KeptParts['controls']>,
  ) => NonNullable<KeptParts['controls']>,
): Promise<void> {
  const kept = await knex('keepsakes').select<{ id: string; content: string }[]>('id', 'content');
  for (const { id, content } of kept) {
    const read = JSON.parse(content) as KeptParts & {
      layer?: NonNullable<KeptParts['layers']>[number];
      patch?: KeptParts;
    };
    const parts = read.patch ?? read;
    const layers = [...(parts.layers ?? []), ...(read.layer ? [read.layer] : [])];
    const controls = change(layers, parts.controls ?? []);
    if (parts.controls) parts.controls = controls;
    await knex('keepsakes')
      .where({ id })
      .update({ content: JSON.stringify(read) });
  }
}

const MANNER = { curve: 'even', acts: 'usual', reads: 'position', pickUp: true };

/** Knobs and faders pick up what they move, wheels and pedals do not. */
function waits({ message }: { message: { kind: string; controller?: number } }): boolean {
  if (message.kind === 'knob') return true;
  return message.kind === 'controller' && ![1, 2, 4, 11].includes(message.controller ?? 0);
}

async function fillInKept(knex: Knex): Promise<void> {
  await keptParts(knex, (layers, controls) => {
    for (const layer of layers) layer.output ??= 'main';
    return controls.map((control) => ({ ...MANNER, pickUp: waits(control), ...control }));
  });
}

async function forgetInKept(knex: Knex): Promise<void> {
  await keptParts(knex, (layers, controls) => {
    for (const layer of layers) {
      layer.obeys = layer.obeys.filter((what) => what !== 'aftertouch');
      delete layer.output;
    }
    for (const control of controls)
      for (const manner of Object.keys(MANNER)) delete control[manner];
    return controls.filter(isOld);
  });
}

function isOld({ target, message }: NonNullable<KeptParts['controls']>[number]): boolean {
  return (
    ['layer', 'sound', 'treatment'].includes(target.kind) &&
    !['mute', 'solo'].includes(target.parameter ?? '') &&
    !['bend', 'pressure', 'keyPressure'].includes(message.kind)
  );
}

async function forgetChecksums(knex: Knex): Promise<void> {
  for (const table of CHANGED) await knex(table).update({ checksum: null });
}
