import type { GapEntry, OrderEntry, Show, SongEntry } from '@pentachord/core/model';
import { fromJson, Json, lacks, type Row, type TableFamily } from './table-family.js';

function entryFromRow(row: Row): OrderEntry {
  const id = row['id'] as string;
  if (row['kind'] === 'song')
    return {
      kind: 'song',
      id,
      songId: row['song_id'] as string,
      encore: row['encore'] === 1,
      tonight: fromJson(row['tonight']) as SongEntry['tonight'],
    };
  return {
    kind: row['kind'] as GapEntry['kind'],
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
    doors: row['doors'] as string | null,
    start: row['start'] as string | null,
    slotSeconds: row['slot_seconds'] as number,
    defaultFadeSeconds: row['default_fade_seconds'] as number,
    heldNotes: row['held_notes'] as Show['heldNotes'],
    middleC: row['middle_c'] as Show['middleC'],
    rigId: row['rig_id'] as string,
    copiedFrom: row['copied_from'] as string | null,
    putAway: row['put_away'] === 1,
    order: parts['order_entries'].map(entryFromRow),
    controls: fromJson(row['controls']) as Show['controls'],
    going: fromJson(row['going']) as Show['going'],
  }),
  toRows: (show) => ({
    row: {
      name: show.name,
      date: show.date,
      place: show.place,
      doors: show.doors,
      start: show.start,
      slot_seconds: show.slotSeconds,
      default_fade_seconds: show.defaultFadeSeconds,
      held_notes: show.heldNotes,
      middle_c: show.middleC,
      rig_id: show.rigId,
      copied_from: show.copiedFrom,
      put_away: show.putAway ? 1 : 0,
      controls: new Json(show.controls),
      going: new Json(show.going),
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
        encore: entry.kind === 'song' && entry.encore ? 1 : 0,
        tonight: entry.kind === 'song' && entry.tonight ? new Json(entry.tonight) : null,
      })),
    },
  }),
  missingIn(connection, { order, rigId }) {
    if (lacks(connection, 'rigs', rigId)) return 'its rig';
    return order.some((entry) => entry.kind === 'song' && lacks(connection, 'songs', entry.songId))
      ? 'a song of its running order'
      : null;
  },
};
