import type { SongRow } from '../exchange/song-table.js';
import { newSong, type Song } from '../model/show/song.js';

/** What a line of a table means for the repertoire. */
export interface RowMeaning {
  row: SongRow;
  /** The song of that name that is there; null for one that would be written new, and for time between songs. */
  known: Song | null;
  /** What the line says otherwise than the song that is known. */
  changes: Partial<Song>;
}

/** Holds the lines of a table against the repertoire: songs are known by their names, whatever their letters’ size. */
export function meaningOf(rows: readonly SongRow[], songs: readonly Song[]): RowMeaning[] {
  const byName = new Map(songs.map((song) => [song.name.trim().toLowerCase(), song]));
  return rows.map((row) => {
    const known = row.kind === 'song' ? (byName.get(row.name.toLowerCase()) ?? null) : null;
    return { row, known, changes: known ? changesOf(row, known) : {} };
  });
}

/** A song as a line says it; what it does not say is as in any new song. */
export function songOfRow(id: string, row: SongRow): Song {
  const song = newSong(id, row.name);
  return { ...song, ...changesOf({ ...row, fingered: row.fingered ?? row.sounding }, song) };
}

function changesOf(row: SongRow, song: Song): Partial<Song> {
  const { number, fingered, sounding, tempo, metre, lengthSeconds, notes } = row;
  const said = { number, fingered, sounding, tempo, metre, lengthSeconds, notes };
  return Object.fromEntries(
    Object.entries(said).filter(
      ([name, value]) =>
        value !== null && JSON.stringify(value) !== JSON.stringify(song[name as keyof Song]),
    ),
  );
}
