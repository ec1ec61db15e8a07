import type { Cue, Song } from '@pentachord/core/model';
import { prepared } from './prepared.js';
import { fromJson, Json, lacks, type TableFamily } from './table-family.js';

/** Songs of the repertoire. */
export const songTables: TableFamily<'songs'> = {
  table: 'songs',
  order: ['name', 'id'],
  parts: [],
  owner: '',
  fromRows: (row) => ({
    id: row['id'] as string,
    name: row['name'] as string,
    lengthSeconds: row['length_seconds'] as number,
    tempo: row['tempo'] as number,
    metre: fromJson(row['metre']) as Song['metre'],
    fingered: fromJson(row['fingered']) as Song['fingered'],
    sounding: fromJson(row['sounding']) as Song['sounding'],
    octaves: row['octaves'] as number,
    notes: row['notes'] as string,
    number: row['number'] as number | null,
    ties: fromJson(row['ties']) as Song['ties'],
  }),
  toRows: (song) => ({
    row: {
      name: song.name,
      length_seconds: song.lengthSeconds,
      tempo: song.tempo,
      metre: new Json(song.metre),
      fingered: new Json(song.fingered),
      sounding: new Json(song.sounding),
      octaves: song.octaves,
      notes: song.notes,
      number: song.number,
      ties: new Json(song.ties),
    },
    parts: {},
  }),
  missingIn: () => null,
};

/** Cues of songs. */
export const cueTables: TableFamily<'cues'> = {
  table: 'cues',
  order: ['song_id', 'position', 'id'],
  parts: [],
  owner: '',
  fromRows: (row) => ({
    id: row['id'] as string,
    songId: row['song_id'] as string,
    patchId: row['patch_id'] as string,
    position: row['position'] as number,
    name: row['name'] as string,
    atSeconds: row['at_seconds'] as number,
    balance: fromJson(row['balance']) as Cue['balance'],
    treatments: fromJson(row['treatments']) as Cue['treatments'],
    choices: fromJson(row['choices']) as Cue['choices'],
    band: fromJson(row['band']) as Cue['band'],
    controllers: fromJson(row['controllers']) as Cue['controllers'],
    programs: fromJson(row['programs']) as Cue['programs'],
    tempo: row['tempo'] as number | null,
    fadeSeconds: row['fade_seconds'] as number | null,
    note: row['note'] as string,
  }),
  toRows: (cue) => ({
    row: {
      song_id: cue.songId,
      patch_id: cue.patchId,
      position: cue.position,
      name: cue.name,
      at_seconds: cue.atSeconds,
      balance: new Json(cue.balance),
      treatments: new Json(cue.treatments),
      choices: new Json(cue.choices),
      band: new Json(cue.band),
      controllers: new Json(cue.controllers),
      programs: new Json(cue.programs),
      tempo: cue.tempo,
      fade_seconds: cue.fadeSeconds,
      note: cue.note,
    },
    parts: {},
  }),
  missingIn(connection, { songId, patchId }) {
    if (lacks(connection, 'songs', songId)) return 'its song';
    return lacks(connection, 'patches', patchId) ? 'its patch' : null;
  },
  strangerIn(connection, cue) {
    const patch = prepared(
      connection,
      'select name from patches where id = ? and song_id <> ?',
    ).get(cue.patchId, cue.songId) as { name: string } | undefined;
    return patch ? `the patch “${patch.name}” of another song` : null;
  },
};
