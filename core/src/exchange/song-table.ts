import { cutText, LONGEST_NAME } from '../model/identity.js';
import {
  GAP_KINDS,
  MOST_ENTRIES,
  type GapEntry,
  type OrderEntry,
  type SongEntry,
} from '../model/show/show.js';
import { LONGEST_SONG_NOTES, type Metre, type Song } from '../model/show/song.js';
import { musicalKeyName, type MusicalKey } from '../pitch/musical-keys.js';
import { readSongLine } from '../setlist/song-line.js';
import { clockTime, type BeatsPerMinute, type Seconds } from '../units/times.js';
import {
  readKeyCell,
  readLengthCell,
  readMetreCell,
  readNumberCell,
  readTempoCell,
} from './table-cells.js';

/** What a column of a table of songs can say. `key` is the one that sounds; the hands of a new song are in it too. */
export const TABLE_COLUMNS = [
  'name',
  'number',
  'key',
  'fingered',
  'sounding',
  'tempo',
  'metre',
  'length',
  'kind',
  'encore',
  'notes',
] as const;
export type TableColumn = (typeof TABLE_COLUMNS)[number];

/** Headings by which columns are known, in small letters without signs; ours first. */
const HEADINGS: Readonly<Record<TableColumn, readonly string[]>> = {
  name: ['name', 'song', 'title', 'song title', 'song name', 'what'],
  number: ['number', 'song number', 'no', 'nr', 'num'],
  key: ['key', 'keys', 'tonality', 'tone'],
  fingered: ['hands in', 'fingered', 'played in', 'hands', 'key played', 'fingered key'],
  sounding: ['sounds in', 'sounding', 'sounds', 'concert key', 'sounding key'],
  tempo: ['tempo', 'bpm', 'speed', 'beats a minute'],
  metre: ['metre', 'meter', 'time signature', 'signature', 'beat'],
  length: ['length', 'duration', 'time', 'minutes', 'mins', 'min', 'dur', 'lasts'],
  kind: ['kind', 'type'],
  encore: ['encore'],
  notes: ['notes', 'note', 'comment', 'comments', 'remarks', 'remark'],
};

/** A line of a table: a song, or time between songs. What it does not say is null. */
export interface SongRow {
  /** Counted from 1, with the heading. */
  line: number;
  kind: 'song' | GapEntry['kind'];
  name: string;
  number: number | null;
  fingered: MusicalKey | null;
  sounding: MusicalKey | null;
  tempo: BeatsPerMinute | null;
  metre: Metre | null;
  lengthSeconds: Seconds | null;
  encore: boolean;
  notes: string | null;
}

/** What of a line was not understood, and was left out. */
export interface TableDoubt {
  line: number;
  kind: 'noName' | 'cell' | 'tooMany' | 'cut';
  column: TableColumn;
  text: string;
}

/** What was understood of a table, and what was not. */
export interface SongTable {
  rows: SongRow[];
  doubts: TableDoubt[];
}

/** The most lines that are read of one table: as many as a night has places, a few times over. */
export const MOST_TABLE_LINES = 5 * MOST_ENTRIES;

/**
 * Which column says what, by the headings in the first line; null for a column that says nothing known. Null altogether where
 * there are no headings: each line is then a song in one line.
 */
export function columnsOf(rows: readonly (readonly string[])[]): (TableColumn | null)[] | null {
  const taken = new Set<TableColumn>();
  const columns = (rows.at(0) ?? []).map((cell) => {
    const heading = cell
      .toLowerCase()
      .replace(/\(.*\)|[^\p{L}\s]/gu, ' ')
      .replace(/\s+/g, ' ')
      .trim();
    const known = TABLE_COLUMNS.find(
      (column) => !taken.has(column) && HEADINGS[column].includes(heading),
    );
    if (known) taken.add(known);
    return known ?? null;
  });
  return taken.has('name') ? columns : null;
}

/** Reads the rows of a table by what its columns say; without columns each line is a song in one line, `Anchor Am 104 4:30`. */
export function readSongTable(
  rows: readonly (readonly string[])[],
  columns: readonly (TableColumn | null)[] | null,
): SongTable {
  const table: SongTable = { rows: [], doubts: [] };
  rows.forEach((cells, index) => {
    const line = index + 1;
    if ((columns && index === 0) || cells.every((cell) => cell.trim() === '')) return;
    if (table.rows.length >= MOST_TABLE_LINES) {
      if (table.doubts.at(-1)?.kind !== 'tooMany')
        table.doubts.push({ line, kind: 'tooMany', column: 'name', text: '' });
      return;
    }
    const row = columns
      ? rowOfCells(line, cells, columns, table.doubts)
      : rowOfLine(line, cells.join(', '));
    if (row.name === '') {
      table.doubts.push({ line, kind: 'noName', column: 'name', text: cells.join(' ') });
      return;
    }
    const name = cutText(row.name, LONGEST_NAME);
    if (name !== row.name) table.doubts.push({ line, kind: 'cut', column: 'name', text: row.name });
    table.rows.push({ ...row, name });
  });
  return table;
}

function emptyRow(line: number): SongRow {
  return {
    ...{ line, kind: 'song', name: '', number: null, fingered: null, sounding: null },
    ...{ tempo: null, metre: null, lengthSeconds: null, encore: false, notes: null },
  };
}

function rowOfLine(line: number, text: string): SongRow {
  // Running orders are numbered by hand: `3. Anchor`.
  const { name, key, tempo, lengthSeconds } = readSongLine(text.replace(/^\s*\d{1,3}[.)]\s+/, ''));
  return { ...emptyRow(line), name, sounding: key, tempo, lengthSeconds };
}

function rowOfCells(
  line: number,
  cells: readonly string[],
  columns: readonly (TableColumn | null)[],
  doubts: TableDoubt[],
): SongRow {
  // Where there is no such column there is no cell −1 either.
  const textOf = (column: TableColumn) => (cells[columns.indexOf(column)] ?? '').trim();
  const read = <T>(column: TableColumn, reader: (text: string) => T | null): T | null => {
    const text = textOf(column);
    if (text === '') return null;
    const value = reader(text);
    if (value === null) doubts.push({ line, kind: 'cell', column, text });
    return value;
  };
  const key = read('key', readKeyCell);
  const kind = read('kind', (text) => KINDS.find((one) => one === text.toLowerCase()) ?? null);
  return {
    ...{ line, kind: kind ?? 'song', name: textOf('name') },
    number: read('number', readNumberCell),
    fingered: read('fingered', readKeyCell),
    sounding: read('sounding', readKeyCell) ?? key,
    tempo: read('tempo', readTempoCell),
    metre: read('metre', readMetreCell),
    lengthSeconds: read('length', readLengthCell),
    encore: read('encore', readYes) ?? false,
    notes: read('notes', (text) => cutText(text, LONGEST_SONG_NOTES)),
  };
}

const KINDS = ['song', ...GAP_KINDS] as const;

function readYes(text: string): boolean | null {
  if (/^(yes|y|x|true|1|encore)$/i.test(text)) return true;
  return /^(no|n|false|0|-|–)$/i.test(text) ? false : null;
}

const COLUMN_WORDS: Readonly<Record<TableColumn, string>> = {
  name: 'a name',
  number: 'a number from 1 to 999',
  key: 'a key',
  fingered: 'a key',
  sounding: 'a key',
  tempo: 'a tempo from 20 to 400',
  metre: 'a metre',
  length: 'a length of two hours at most',
  kind: 'a song, talk, a break or a changeover',
  encore: 'yes or no',
  notes: 'notes',
};

/** A doubt in words: `line 4: “Hm” is not a key; it was left out`. */
export function tableDoubtInWords({ line, kind, column, text }: TableDoubt): string {
  const shown = cutText(text, 40);
  if (kind === 'noName') return `line ${line}: there is no name, the line was left out`;
  if (kind === 'tooMany')
    return `from line ${line} on: more than ${MOST_TABLE_LINES} lines are not read`;
  if (kind === 'cut') return `line ${line}: the name is long and was cut`;
  return `line ${line}: “${shown}” is not ${COLUMN_WORDS[column]}; it was left out`;
}

type Cells = Partial<Record<TableColumn, string>>;

/** What is written of a song, and of what stands in a running order. */
const OF_SONG: readonly TableColumn[] = TABLE_COLUMNS.filter(
  (column) => column !== 'key' && column !== 'kind' && column !== 'encore',
);
const OF_ENTRY: readonly TableColumn[] = ['kind', ...OF_SONG, 'encore'];

/** Songs as the rows of a table, under headings by which it is read again. */
export function repertoireTable(songs: readonly Song[]): string[][] {
  return written(OF_SONG, songs.map(cellsOf));
}

/** A running order as the rows of a table, under headings by which it is read again; `songOf` gives a song as it is played that night. */
export function orderTable(
  order: readonly OrderEntry[],
  songOf: (entry: SongEntry) => Song | null,
): string[][] {
  const cells = order.flatMap((entry): Cells[] => {
    if (entry.kind !== 'song')
      return [{ kind: entry.kind, name: entry.name, length: clockTime(entry.lengthSeconds) }];
    const song = songOf(entry);
    return song ? [{ kind: 'song', ...cellsOf(song), encore: entry.encore ? 'yes' : '' }] : [];
  });
  return written(OF_ENTRY, cells);
}

function written(columns: readonly TableColumn[], rows: readonly Cells[]): string[][] {
  const headings = columns.map((column) => HEADINGS[column][0]);
  return [headings, ...rows.map((cells) => columns.map((column) => cells[column] ?? ''))];
}

function cellsOf(song: Song): Cells {
  const { name, number, fingered, sounding, tempo, metre, lengthSeconds, notes } = song;
  return {
    ...{ name, notes, tempo: String(tempo), number: number === null ? '' : String(number) },
    ...{ fingered: musicalKeyName(fingered), sounding: musicalKeyName(sounding) },
    ...{ metre: `${metre.beats}/${metre.unit}`, length: clockTime(lengthSeconds) },
  };
}
