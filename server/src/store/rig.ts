import {
  MOST_DEVICES,
  type Device,
  type Pedal,
  type Place,
  type Rig,
  type SettingsCopy,
} from '@pentachord/core/model';
import type { Touch } from '@pentachord/core/touch';
import { prepared } from './prepared.js';
import { fromJson, Json, lacks, type Row, type TableFamily } from './table-family.js';

function deviceFromRow(row: Row): Device {
  const common = {
    id: row['id'] as string,
    rigId: row['rig_id'] as string,
    position: row['position'] as number,
    name: row['name'] as string,
    place: row['place'] as Place,
    port: row['port'] as string,
    at: fromJson(row['at']) as Device['at'],
    alsoAt: fromJson(row['also_at']) as Place[],
  };
  const channel = row['channel'] as number;
  const heardAs = row['heard_as'] as number | null;
  const settings = fromJson(row['settings']) as SettingsCopy;
  switch (row['kind']) {
    case 'keyboard':
      return {
        kind: 'keyboard',
        ...common,
        channel,
        heardAs,
        settings,
        lowestKey: row['lowest_key'] as number,
        highestKey: row['highest_key'] as number,
        octaveShift: row['octave_shift'] as number,
        touch: fromJson(row['touch']) as Touch,
      };
    case 'controlBox':
      return {
        kind: 'controlBox',
        ...common,
        channel,
        heardAs,
        settings,
        padNotes: fromJson(row['pad_notes']) as number[],
        knobControllers: fromJson(row['knob_controllers']) as number[],
      };
    case 'pedal':
      return {
        kind: 'pedal',
        ...common,
        channel,
        controller: row['controller'] as number,
        action: row['action'] as Pedal['action'],
      };
    default:
      return { kind: 'module', ...common, channels: fromJson(row['channels']) as number[] };
  }
}

function ownColumns(device: Device): Row {
  switch (device.kind) {
    case 'keyboard':
      return {
        channel: device.channel,
        heard_as: device.heardAs,
        settings: new Json(device.settings),
        lowest_key: device.lowestKey,
        highest_key: device.highestKey,
        octave_shift: device.octaveShift,
        touch: new Json(device.touch),
      };
    case 'controlBox':
      return {
        channel: device.channel,
        heard_as: device.heardAs,
        settings: new Json(device.settings),
        pad_notes: new Json(device.padNotes),
        knob_controllers: new Json(device.knobControllers),
      };
    case 'pedal':
      return { channel: device.channel, controller: device.controller, action: device.action };
    case 'module':
      return { channels: new Json(device.channels) };
  }
}

/** Rigs. */
export const rigTables: TableFamily<'rigs'> = {
  table: 'rigs',
  order: ['name', 'id'],
  parts: [],
  owner: '',
  fromRows: (row) => ({
    id: row['id'] as string,
    name: row['name'] as string,
    labels: fromJson(row['labels']) as Rig['labels'],
    presets: fromJson(row['presets']) as Rig['presets'],
    ties: fromJson(row['ties']) as Rig['ties'],
    recipes: fromJson(row['recipes']) as Rig['recipes'],
  }),
  toRows: ({ name, labels, presets, ties, recipes }) => ({
    row: {
      name,
      labels: new Json(labels),
      presets: new Json(presets),
      ties: new Json(ties),
      recipes: new Json(recipes),
    },
    parts: {},
  }),
  missingIn: () => null,
};

/** Keyboards, control boxes, pedals and sound modules. */
export const deviceTables: TableFamily<'devices'> = {
  table: 'devices',
  order: ['position', 'id'],
  parts: [],
  owner: '',
  fromRows: deviceFromRow,
  toRows: (device) => ({
    row: {
      rig_id: device.rigId,
      position: device.position,
      kind: device.kind,
      name: device.name,
      place: device.place,
      port: device.port,
      at: device.at && new Json(device.at),
      also_at: new Json(device.alsoAt),
      ...ownColumns(device),
    },
    parts: {},
  }),
  missingIn: (connection, { rigId }) => (lacks(connection, 'rigs', rigId) ? 'its rig' : null),
  strangerIn: (connection, { rigId }) => {
    const devices = prepared(connection, 'select count(*) as many from devices where rig_id = ?');
    const { many } = devices.get(rigId) as { many: number };
    return many > MOST_DEVICES ? `a rig, which holds ${MOST_DEVICES} devices at most` : null;
  },
};
