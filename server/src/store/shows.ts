import type { OrderEntry, Show } from '@pentachord/core/model';
import { prepared } from './prepared.js';
import {
  deviceElsewhere,
  fromJson,
  Json,
  lacks,
  type Row,
  type TableFamily,
} from './table-family.js';

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
  order: ['date', 'id'],
  parts: ['order_entries'],
  owner: 'show_id',
  fromRows: (row, parts) => ({
    id: row['id'] as string,
    name: row['name'] as string,
    date: row['date'] as string,
    place: row['place'] as string,
    slotSeconds: row['slot_seconds'] as number,
    defaultFadeSeconds: row['default_fade_seconds'] as number,
    heldNotes: row['held_notes'] as Show['heldNotes'],
    middleC: row['middle_c'] as Show['middleC'],
    order: parts['order_entries'].map(entryFromRow),
    controls: fromJson(row['controls']) as Show['controls'],
  }),
  toRows: (show) => ({
    row: {
      name: show.name,
      date: show.date,
      place: show.place,
      slot_seconds: show.slotSeconds,
      default_fade_seconds: show.defaultFadeSeconds,
      held_notes: show.heldNotes,
      middle_c: show.middleC,
      controls: new Json(show.controls),
    },
    parts: {
      order_entries: show.order.map((entry, position) => ({
        show_id: show.id,
        id: entry.id,
        position,
        kind: entry.kind,
        song_id: entry.kind === 'song' ? entry.songId : null,
        name: entry.kind === 'song' ? null : entry.name,
        length_seconds: entry.kind === 'song' ? null : entry.lengthSeconds,
      })),
    },
  }),
  missingIn: (connection, { order }) =>
    order.some((entry) => entry.kind === 'song' && lacks(connection, 'songs', entry.songId))
      ? 'a song of its running order'
      : null,
  strangerIn(connection, show) {
    const placed = prepared(connection, 'select name from songs where id = ? and show_id <> ?');
    for (const entry of show.order) {
      if (entry.kind !== 'song') continue;
      const song = placed.get(entry.songId, show.id) as { name: string } | undefined;
      if (song) return `the song “${song.name}” of another show`;
    }
    return deviceElsewhere(
      connection,
      show.controls.map(({ deviceId }) => deviceId),
      show.id,
    );
  },
};
