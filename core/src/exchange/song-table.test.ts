import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newSong, type Song } from '../model/show/song.js';
import { songEntry } from '../model/show/show.js';
import { musicalKeyName, readMusicalKey } from '../pitch/musical-keys.js';
import { meaningOf, songOfRow } from '../setlist/songs-of-table.js';
import {
  columnsOf,
  orderTable,
  readSongTable,
  repertoireTable,
  tableDoubtInWords,
} from './song-table.js';
import { readKeyCell, readLengthCell, readMetreCell, readTempoCell } from './table-cells.js';

const read = (rows: string[][]) => readSongTable(rows, columnsOf(rows));

describe('a cell', () => {
  it.each([
    ['Am', 'Am'],
    ['a minor', 'Am'],
    ['E flat major', 'E♭'],
    ['Bb-moll', 'B♭m'],
    ['F# minor', 'F♯m'],
    ['F sharp min', 'F♯m'],
    ['cis-Moll', 'C♯m'],
    ['Es-Dur', 'E♭'],
    ['As', 'A♭'],
    ['H-Dur', 'B'],
    ['G m', 'Gm'],
    ['Hm?', null],
    ['ds', null],
    ['loud', null],
    ['', null],
  ])('says a key: %s', (text, name) => {
    const key = readKeyCell(text);
    expect(key && musicalKeyName(key)).toBe(name);
  });

  it.each([
    ['4:30', 270],
    ['1:02:30', 3750],
    ['4\'30"', 270],
    ['4′ 05″', 245],
    ['4m30s', 270],
    ['4 min', 240],
    ['1 h 2 min', 3720],
    ['270 s', 270],
    ['270', 270],
    ['4', 240],
    ['4,5', 270],
    ['4.30', 270],
    ['9:00:00', null],
    ['4:75', null],
    ['soon', null],
  ])('says a length: %s', (text, seconds) => expect(readLengthCell(text)).toBe(seconds));

  it('says a tempo or a metre', () => {
    expect(['104', '104,5 bpm', '♩ = 72', '19', '500', 'fast'].map(readTempoCell)).toEqual([
      ...[104, 104.5, 72],
      ...[null, null, null],
    ]);
    expect(['6/8', ' 3 / 4', '4/5', '0/4', '44'].map(readMetreCell)).toEqual([
      { beats: 6, unit: 8 },
      { beats: 3, unit: 4 },
      ...[null, null, null],
    ]);
  });
});

describe('a table of songs', () => {
  it('is read by its headings, in any order; what is not understood is told by its line', () => {
    const { rows, doubts } = read([
      ['BPM', 'Title', 'Colour', 'Key', 'Duration (min)', 'Type'],
      ['98', 'Anchor', 'red', 'D', '4:10', ''],
      ['quick', 'Mooring', '', 'Hm', '3', 'song'],
      ['', '', '', '', '', ''],
      ['', 'to the house', '', '', '2:00', 'talk'],
      ['100', '', '', 'C', '', ''],
    ]);
    expect(rows).toMatchObject([
      { line: 2, name: 'Anchor', tempo: 98, lengthSeconds: 250, sounding: readMusicalKey('D') },
      { line: 3, name: 'Mooring', tempo: null, lengthSeconds: 180, sounding: readMusicalKey('Bm') },
      { line: 5, name: 'to the house', kind: 'talk', lengthSeconds: 120 },
    ]);
    expect(doubts.map(tableDoubtInWords)).toEqual([
      'line 3: “quick” is not a tempo from 20 to 400; it was left out',
      'line 6: there is no name, the line was left out',
    ]);
  });

  it('without headings is a song a line, numbered by hand or not', () => {
    const lines = [['1. Anchor Am 104 4:30'], ['Oh', ' Mooring', 'F#m', '92'], ['2000 Lanterns']];
    expect(read(lines)).toEqual({
      rows: [
        expect.objectContaining({ name: 'Anchor', tempo: 104, lengthSeconds: 270 }),
        expect.objectContaining({
          name: 'Oh, Mooring',
          sounding: readMusicalKey('F#m'),
          tempo: 92,
        }),
        expect.objectContaining({ name: '2000 Lanterns', tempo: null }),
      ],
      doubts: [],
    });
  });

  const songs: Song[] = [
    { ...newSong('a', 'Anchor'), tempo: 97.5, number: 7, notes: 'two lines,\n“quoted”' },
    {
      ...newSong('b', 'Mooring'),
      fingered: readMusicalKey('E') ?? expect.fail(),
      sounding: readMusicalKey('Eb') ?? expect.fail(),
      metre: { beats: 6, unit: 8 },
    },
  ];

  it('that was written is read again as it was: songs, order and what stands between', () => {
    const told = meaningOf(read(repertoireTable(songs)).rows, songs);
    expect(told.map(({ known, changes }) => [known?.id, changes])).toEqual([
      ['a', {}],
      ['b', {}],
    ]);
    const order = [
      songEntry('1', 'b'),
      { kind: 'break' as const, id: '2', name: 'bar', lengthSeconds: 900 },
      { ...songEntry('3', 'a'), encore: true },
      songEntry('4', 'gone'),
    ];
    const table = orderTable(order, ({ songId }) => songs.find(({ id }) => id === songId) ?? null);
    const { rows, doubts } = read(table);
    expect(doubts).toEqual([]);
    expect(rows.map(({ kind, name, encore }) => [kind, name, encore])).toEqual([
      ['song', 'Mooring', false],
      ['break', 'bar', false],
      ['song', 'Anchor', true],
    ]);
    expect(songOfRow('new', rows[2])).toEqual({ ...songs[0], id: 'new' });
  });

  it('says what is otherwise than in the song of that name', () => {
    const [one] = meaningOf(
      read([
        ['Name', 'Tempo', 'Key'],
        ['anchor', '101', 'C'],
      ]).rows,
      songs,
    );
    expect([one.known?.id, one.changes]).toEqual(['a', { tempo: 101 }]);
  });

  it('an empty cell says nothing: notes that are there stay', () => {
    const rows = [
      ['name', 'notes', 'encore'],
      ['Anchor', '', 'no'],
      ['Anchor', 'new', 'maybe'],
    ];
    const { rows: found, doubts } = read(rows);
    expect(meaningOf(found, songs).map(({ changes }) => changes)).toEqual([{}, { notes: 'new' }]);
    expect(doubts.map(({ line, column }) => [line, column])).toEqual([[3, 'encore']]);
  });

  it('a key alone is the one that sounds: of a song that is there it leaves the hands alone, of a new one they are in it', () => {
    const rows = [
      ['name', 'key'],
      ['Mooring', 'Eb'],
      ['Groyne', 'Bm'],
    ];
    const [known, fresh] = meaningOf(read(rows).rows, songs);
    expect(known.changes).toEqual({});
    const bm = readMusicalKey('Bm');
    expect(songOfRow('new', fresh.row)).toMatchObject({ fingered: bm, sounding: bm });
  });

  it('whatever it holds, it is read without an error, and each line is a row, a doubt, or empty', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.string({ unit: 'binary' }), { maxLength: 6 })), (cells) => {
        for (const rows of [cells, [['name', 'key', 'length', 'tempo'], ...cells]]) {
          const { rows: found, doubts } = read(rows);
          const seen = new Set([...found, ...doubts].map(({ line }) => line));
          rows.forEach((row, i) => {
            const isHeading = i === 0 && columnsOf(rows) !== null;
            const isEmpty = row.every((cell) => cell.trim() === '');
            expect(seen.has(i + 1)).toBe(!isHeading && !isEmpty);
          });
        }
      }),
    );
  });
});
