import type { Knex } from 'knex';
import { rebuild, withoutForeignKeys } from './rebuilding.js';

/** The table of sounds, whose rows pointed to modules, is made anew. */
export const config = { transaction: false };

/** A device, as much of it as tells its place and what its parts send. */
interface Device {
  id: string;
  kind: string;
  place: string;
  padNotes: number[];
  knobs: number[];
  controller: number | null;
}

type Message = { kind: string } & Record<string, unknown>;
interface Tied {
  deviceId?: string;
  place?: string;
  message: Message;
}
interface KeptLayer {
  keyboards: 'any' | string[];
}
interface Kept {
  layer?: KeptLayer;
  controls?: Tied[];
  patch?: { layers: KeptLayer[]; controls?: Tied[] };
}

/** How references to devices are said otherwise; a control that cannot be said is left out. */
interface Otherwise {
  keyboard(reference: string): string;
  tied(control: Tied): Tied | null;
}

const NO_LABELS = JSON.stringify(Array.from({ length: 16 }, () => ''));
const NOTHING_KNOWN = JSON.stringify({ known: null, wanted: {} });
const CHANGED = ['rigs', 'devices', 'sounds', 'patches', 'shows', 'keepsakes'];

/**
 * Layers, ties, show controls and sounds of modules speak of places, at which the devices of a rig stand, and of pads, knobs
 * and pedals instead of what these send. Devices may lie somewhere on the plan of the stage and be heard on another channel;
 * channels bear labels; outside sounds may have a bank.
 */
export async function up(knex: Knex): Promise<void> {
  // It may have been done, and the program killed before that was noted.
  if (await knex.schema.hasColumn('devices', 'place')) return;
  await withoutForeignKeys(knex, async (work) => {
    await work.schema.alterTable('devices', (table) => {
      table.text('place').notNullable().defaultTo('');
      table.text('at');
      table.text('also_at').notNullable().defaultTo('[]');
      table.integer('heard_as');
      table.text('settings').notNullable().defaultTo(NOTHING_KNOWN);
    });
    await work.schema.alterTable('rigs', (table) => {
      table.text('labels').notNullable().defaultTo(NO_LABELS);
      table.text('presets').notNullable().defaultTo('[]');
    });
    await work.raw('alter table patch_controls rename column device_id to place');
    await placeDevices(work);
    const devices = await allDevices(work);
    await sayOtherwise(work, toPlaces(devices));
    await rebuild(work, 'sounds', soundColumns, { module_id: 'module_place' });
    await work.schema.alterTable('sounds', (table) => {
      table.text('module_bank');
    });
    for (const { id, place } of devices.values())
      await work('sounds').where({ module_place: id }).update({ module_place: place });
    await forgetChecksums(work);
  });
}

/** Takes it back. Controls of a place at which nothing stands, labels, and where devices lie, are lost. */
export async function down(knex: Knex): Promise<void> {
  await withoutForeignKeys(knex, async (work) => {
    const devices = await allDevices(work);
    await sayOtherwise(work, toDevices(devices));
    await work.raw('alter table patch_controls rename column place to device_id');
    const sounds = await work('sounds').whereNotNull('module_place').select<
      {
        id: string;
        module_place: string;
      }[]
    >('id', 'module_place');
    await rebuild(
      work,
      'sounds',
      (table) => {
        soundColumns(table);
        table.text('module_id').references('devices.id').onDelete('SET NULL');
      },
      {},
      ['module_bank'],
    );
    await work.raw('alter table sounds drop column module_place');
    for (const { id, module_place } of sounds)
      await work('sounds')
        .where({ id })
        .update({ module_id: at(devices, module_place)?.id ?? null });
    for (const column of ['place', 'at', 'also_at', 'heard_as', 'settings'])
      await work.raw('alter table devices drop column ??', [column]);
    for (const column of ['labels', 'presets'])
      await work.raw('alter table rigs drop column ??', [column]);
    await forgetChecksums(work);
  });
}

function soundColumns(table: Knex.CreateTableBuilder): void {
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
  table.text('module_place');
  table.integer('module_channel');
  table.integer('module_program');
  table.integer('checksum');
}

/** Devices take the places of their kind, each rig for itself, in their order. */
async function placeDevices(knex: Knex): Promise<void> {
  const rows = (await knex('devices').orderBy(['rig_id', 'position', 'id'])) as Record<
    string,
    string | number | null
  >[];
  const taken = new Map<string, number>();
  for (const { id, rig_id, kind, pad_notes } of rows) {
    const box = pad_notes === '[]' ? 'knobs' : 'pads';
    const own = kind === 'keyboard' ? 'keys' : kind === 'controlBox' ? box : String(kind);
    const number = (taken.get(`${rig_id} ${own}`) ?? 0) + 1;
    taken.set(`${rig_id} ${own}`, number);
    await knex('devices')
      .where({ id })
      .update({ place: `${own}${number}` });
  }
}

async function allDevices(knex: Knex): Promise<Map<string, Device>> {
  const rows = (await knex('devices').orderBy(['rig_id', 'position', 'id'])) as {
    id: string;
    kind: string;
    place: string;
    pad_notes: string | null;
    knob_controllers: string | null;
    controller: number | null;
  }[];
  return new Map(
    rows.map(({ id, kind, place, pad_notes, knob_controllers, controller }) => [
      id,
      {
        ...{ id, kind, place, controller },
        padNotes: JSON.parse(pad_notes ?? '[]') as number[],
        knobs: JSON.parse(knob_controllers ?? '[]') as number[],
      },
    ]),
  );
}

function at(devices: ReadonlyMap<string, Device>, place: string | undefined): Device | undefined {
  return [...devices.values()].find((device) => device.place === place);
}

/** A device that is nowhere any more keeps a place of its own, so that nothing is played by another in its stead. */
function toPlaces(devices: ReadonlyMap<string, Device>): Otherwise {
  const strays = new Map<string, string>();
  const stray = (id: string, kind: string) => {
    const known = strays.get(id) ?? `${kind}${Math.max(50, 99 - strays.size)}`;
    strays.set(id, known);
    return known;
  };
  return {
    keyboard: (id) => devices.get(id)?.place ?? stray(id, 'keys'),
    tied: ({ deviceId = '', message, ...tied }) => {
      const device = devices.get(deviceId);
      if (!device) return { ...tied, place: stray(deviceId, 'keys'), message };
      return { ...tied, place: device.place, message: partOf(device, message) ?? message };
    },
  };
}

function partOf(device: Device, message: Message): Message | null {
  if (device.kind === 'pedal') return { kind: 'pedal' };
  const pad = message.kind === 'note' ? device.padNotes.indexOf(message['note'] as number) : -1;
  if (pad >= 0) return { kind: 'pad', pad };
  const knob =
    message.kind === 'controller' ? device.knobs.indexOf(message['controller'] as number) : -1;
  return knob >= 0 ? { kind: 'knob', knob } : null;
}

function toDevices(devices: ReadonlyMap<string, Device>): Otherwise {
  return {
    keyboard: (place) => at(devices, place)?.id ?? place,
    tied: ({ place, message, ...tied }) => {
      const device = at(devices, place);
      const sent = device && sentBy(device, message);
      return sent ? { ...tied, deviceId: device.id, message: sent } : null;
    },
  };
}

function sentBy(device: Device, message: Message): Message | null {
  const part = { pad: device.padNotes, knob: device.knobs, pedal: [device.controller ?? 0] };
  if (!(message.kind in part)) return message;
  const kind = message.kind as keyof typeof part;
  const number = part[kind].at(Number(message[kind] ?? 0));
  if (number === undefined) return null;
  return kind === 'pad'
    ? { kind: 'note', note: number }
    : { kind: 'controller', controller: number };
}

/** Says every reference to a device otherwise: of layers, ties, show controls and what is kept. */
async function sayOtherwise(knex: Knex, otherwise: Otherwise): Promise<void> {
  const layer = ({ keyboards }: KeptLayer): KeptLayer['keyboards'] =>
    keyboards === 'any' ? 'any' : [...new Set(keyboards.map((one) => otherwise.keyboard(one)))];
  const controls = (all: readonly Tied[]) =>
    all.map((one) => otherwise.tied(one)).filter((one) => one !== null);
  for (const { patch_id, id, keyboards } of await knex('layers').select<
    { patch_id: string; id: string; keyboards: string }[]
  >('patch_id', 'id', 'keyboards')) {
    const read = JSON.parse(keyboards) as KeptLayer['keyboards'];
    await knex('layers')
      .where({ patch_id, id })
      .update({ keyboards: JSON.stringify(layer({ keyboards: read })) });
  }
  for (const { patch_id, id, place, message } of await knex('patch_controls').select<
    { patch_id: string; id: string; place: string; message: string }[]
  >('patch_id', 'id', 'place', 'message')) {
    const read = JSON.parse(message) as Message;
    const said = otherwise.tied({ deviceId: place, place, message: read });
    const row = knex('patch_controls').where({ patch_id, id });
    if (!said) await row.delete();
    else
      await row.update({
        place: said.deviceId ?? said.place,
        message: JSON.stringify(said.message),
      });
  }
  for (const { id, controls: text } of await knex('shows').select<
    {
      id: string;
      controls: string;
    }[]
  >('id', 'controls'))
    await knex('shows')
      .where({ id })
      .update({ controls: JSON.stringify(controls(JSON.parse(text) as Tied[])) });
  for (const { id, content } of await knex('keepsakes').select<
    {
      id: string;
      content: string;
    }[]
  >('id', 'content')) {
    const kept = JSON.parse(content) as Kept;
    if (kept.layer) kept.layer.keyboards = layer(kept.layer);
    if (kept.controls) kept.controls = controls(kept.controls);
    for (const one of kept.patch?.layers ?? []) one.keyboards = layer(one);
    if (kept.patch?.controls) kept.patch.controls = controls(kept.patch.controls);
    await knex('keepsakes')
      .where({ id })
      .update({ content: JSON.stringify(kept) });
  }
}

async function forgetChecksums(knex: Knex): Promise<void> {
  for (const table of CHANGED) await knex(table).update({ checksum: null });
}
