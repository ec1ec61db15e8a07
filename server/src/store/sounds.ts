import type { Bank, Place, SampleZone, Sound, SoundOrigin } from '@pentachord/core/model';
import { fromJson, Json, type Row, type TableFamily } from './table-family.js';

type Envelope = Pick<SampleZone, 'attack' | 'hold' | 'decay' | 'sustain' | 'release'>;

function originFromRow(row: Row, zones: readonly Row[]): SoundOrigin {
  if (row['origin'] === 'house') return { kind: 'house', recipe: row['recipe'] as string };
  if (row['origin'] === 'recordings')
    return {
      kind: 'recordings',
      dynamics: row['dynamics'] as number,
      zones: zones.map(zoneFromRow),
    };
  return {
    kind: 'outside',
    place: row['module_place'] as Place | null,
    channel: row['module_channel'] as number,
    bank: fromJson(row['module_bank']) as Bank | null,
    program: row['module_program'] as number,
  };
}

function zoneFromRow(row: Row): SampleZone {
  return {
    id: row['id'] as string,
    recordingId: row['recording_id'] as string,
    root: row['root'] as number,
    cents: row['cents'] as number,
    gain: row['gain'] as number,
    pan: row['pan'] as number,
    keys: fromJson(row['keys']) as SampleZone['keys'],
    velocities: fromJson(row['velocities']) as SampleZone['velocities'],
    tracking: row['tracking'] as number,
    oneShot: row['one_shot'] === 1,
    ...(fromJson(row['envelope']) as Envelope),
    start: row['start_seconds'] as number,
    end: row['end_seconds'] as number | null,
    loop: fromJson(row['loop']) as SampleZone['loop'],
    reverse: row['reverse'] === 1,
    choke: row['choke'] as number,
    turn: row['turn'] as number,
    piece: row['piece'] as number | null,
  };
}

function zoneToRow(soundId: string, zone: SampleZone, position: number): Row {
  const { attack, hold, decay, sustain, release } = zone;
  return {
    sound_id: soundId,
    id: zone.id,
    position,
    recording_id: zone.recordingId,
    root: zone.root,
    cents: zone.cents,
    gain: zone.gain,
    pan: zone.pan,
    keys: new Json(zone.keys),
    velocities: new Json(zone.velocities),
    tracking: zone.tracking,
    one_shot: zone.oneShot ? 1 : 0,
    envelope: new Json({ attack, hold, decay, sustain, release } satisfies Envelope),
    start_seconds: zone.start,
    end_seconds: zone.end,
    loop: zone.loop && new Json(zone.loop),
    reverse: zone.reverse ? 1 : 0,
    choke: zone.choke,
    turn: zone.turn,
    piece: zone.piece,
  };
}

/** The sound library. */
export const soundTables: TableFamily<'sounds'> = {
  table: 'sounds',
  order: ['name', 'id'],
  parts: ['sound_zones'],
  owner: 'sound_id',
  fromRows: (row, parts) => ({
    id: row['id'] as string,
    name: row['name'] as string,
    category: row['category'] as Sound['category'],
    tags: fromJson(row['tags']) as string[],
    favourite: row['favourite'] === 1,
    origin: originFromRow(row, parts['sound_zones']),
    lowestNote: row['lowest_note'] as number,
    highestNote: row['highest_note'] as number,
  }),
  toRows: ({ origin, ...sound }) => ({
    row: {
      name: sound.name,
      category: sound.category,
      tags: new Json(sound.tags),
      favourite: sound.favourite ? 1 : 0,
      lowest_note: sound.lowestNote,
      highest_note: sound.highestNote,
      origin: origin.kind,
      recipe: origin.kind === 'house' ? origin.recipe : null,
      module_place: origin.kind === 'outside' ? origin.place : null,
      module_channel: origin.kind === 'outside' ? origin.channel : null,
      module_bank: origin.kind === 'outside' && origin.bank ? new Json(origin.bank) : null,
      module_program: origin.kind === 'outside' ? origin.program : null,
      dynamics: origin.kind === 'recordings' ? origin.dynamics : null,
    },
    parts: {
      sound_zones:
        origin.kind === 'recordings'
          ? origin.zones.map((zone, position) => zoneToRow(sound.id, zone, position))
          : [],
    },
  }),
  missingIn: () => null,
};
