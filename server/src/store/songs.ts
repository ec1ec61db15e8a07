import type { Cue, Song } from '@pentachord/core/model';
import { fromJson, type TableFamily } from './table-family.js';

/** Songs. */
export const songTables: TableFamily<'songs'> = {
  table: 'songs',
  select: (knex, filter) => knex('songs').select('*').where(filter).orderBy('name'),
  fromRow: (row) => ({
    id: row['id'] as string,
    showId: row['show_id'] as string,
    name: row['name'] as string,
    lengthSeconds: row['length_seconds'] as number,
    tempo: row['tempo'] as number,
    metre: fromJson(row['metre']) as Song['metre'],
    fingered: fromJson(row['fingered']) as Song['fingered'],
    sounding: fromJson(row['sounding']) as Song['sounding'],
  }),
  toRow: (song) => ({
    show_id: song.showId,
    name: song.name,
    length_seconds: song.lengthSeconds,
    tempo: song.tempo,
    metre: JSON.stringify(song.metre),
    fingered: JSON.stringify(song.fingered),
    sounding: JSON.stringify(song.sounding),
  }),
};

/** Cues of songs. */
export const cueTables: TableFamily<'cues'> = {
  table: 'cues',
  select: (knex, filter) => knex('cues').select('*').where(filter).orderBy(['song_id', 'position']),
  fromRow: (row) => ({
    id: row['id'] as string,
    songId: row['song_id'] as string,
    patchId: row['patch_id'] as string,
    position: row['position'] as number,
    name: row['name'] as string,
    balance: fromJson(row['balance']) as Cue['balance'],
    controllers: fromJson(row['controllers']) as Cue['controllers'],
    fadeSeconds: row['fade_seconds'] as number | null,
    note: row['note'] as string,
  }),
  toRow: (cue) => ({
    song_id: cue.songId,
    patch_id: cue.patchId,
    position: cue.position,
    name: cue.name,
    balance: JSON.stringify(cue.balance),
    controllers: JSON.stringify(cue.controllers),
    fade_seconds: cue.fadeSeconds,
    note: cue.note,
  }),
};
