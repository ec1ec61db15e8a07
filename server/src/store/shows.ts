import type { OrderEntry, Show } from '@pentachord/core/model';
import { fromJson, type Row, type TableFamily } from './table-family.js';

const ENTRIES = `(
  select json_group_array(json_object('id', e.id, 'kind', e.kind, 'song_id', e.song_id, 'name', e.name,
    'length_seconds', e.length_seconds) order by e.position)
  from order_entries e where e.show_id = shows.id
) as entries`;

function entryFromRow(row: Row): OrderEntry {
  const id = row['id'] as string;
  if (row['kind'] === 'song') return { kind: 'song', id, songId: row['song_id'] as string };
  return {
    kind: row['kind'] as 'talk' | 'break',
    id,
    name: row['name'] as string,
    lengthSeconds: row['length_seconds'] as number,
  };
}

/** Shows with their running order. */
export const showTables: TableFamily<'shows'> = {
  table: 'shows',
  select: (knex, filter) => knex('shows').select('shows.*', knex.raw(ENTRIES)).where(filter),
  fromRow: (row) => ({
    id: row['id'] as string,
    name: row['name'] as string,
    date: row['date'] as string,
    place: row['place'] as string,
    slotSeconds: row['slot_seconds'] as number,
    defaultFadeSeconds: row['default_fade_seconds'] as number,
    heldNotes: row['held_notes'] as Show['heldNotes'],
    middleC: row['middle_c'] as Show['middleC'],
    order: (fromJson(row['entries']) as Row[]).map(entryFromRow),
    controls: fromJson(row['controls']) as Show['controls'],
  }),
  toRow: (show) => ({
    name: show.name,
    date: show.date,
    place: show.place,
    slot_seconds: show.slotSeconds,
    default_fade_seconds: show.defaultFadeSeconds,
    held_notes: show.heldNotes,
    middle_c: show.middleC,
    controls: JSON.stringify(show.controls),
  }),
  async writeParts(knex, show) {
    await knex('order_entries').where({ show_id: show.id }).delete();
    const rows = show.order.map((entry, position) => ({
      id: entry.id,
      show_id: show.id,
      position,
      kind: entry.kind,
      song_id: entry.kind === 'song' ? entry.songId : null,
      name: entry.kind === 'song' ? null : entry.name,
      length_seconds: entry.kind === 'song' ? null : entry.lengthSeconds,
    }));
    if (rows.length > 0) await knex.batchInsert('order_entries', rows, 100);
  },
};
