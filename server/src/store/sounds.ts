import type { Bank, Place, Sound, SoundOrigin } from '@pentachord/core/model';
import { fromJson, Json, type Row, type TableFamily } from './table-family.js';

function originFromRow(row: Row): SoundOrigin {
  if (row['origin'] === 'house') return { kind: 'house', recipe: row['recipe'] as string };
  return {
    kind: 'outside',
    place: row['module_place'] as Place | null,
    channel: row['module_channel'] as number,
    bank: fromJson(row['module_bank']) as Bank | null,
    program: row['module_program'] as number,
  };
}

/** The sound library. */
export const soundTables: TableFamily<'sounds'> = {
  table: 'sounds',
  order: ['name', 'id'],
  parts: [],
  owner: '',
  fromRows: (row) => ({
    id: row['id'] as string,
    name: row['name'] as string,
    category: row['category'] as Sound['category'],
    tags: fromJson(row['tags']) as string[],
    favourite: row['favourite'] === 1,
    origin: originFromRow(row),
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
    },
    parts: {},
  }),
  missingIn: () => null,
};
