import fc from 'fast-check';
import { parseMidi } from 'midi-file';
import { describe, expect, it } from 'vitest';
import { readMusicalKey } from '../pitch/musical-keys.js';
import { CannotRead } from './cannot-read.js';
import { patternSchema } from '../model/library/pattern.js';
import { readMidiFile } from './midi-file.js';
import { patternsOfMidi } from './patterns-of-midi.js';
import { writeMidiFile } from './midi-file-writing.js';

const note = (beat: number, length: number, key: number, velocity: number) => ({
  ...{ beat, length, key, velocity },
});
const bytesOf = (...parts: (string | number | number[])[]) =>
  Uint8Array.from(
    parts.flatMap((part) =>
      typeof part === 'string'
        ? Array.from(part, (character) => character.charCodeAt(0))
        : typeof part === 'number'
          ? [part >>> 24, (part >> 16) & 255, (part >> 8) & 255, part & 255]
          : part,
    ),
  );
/** A file of tracks of bytes; four ticks make a quarter. */
function fileOf(tracks: number[][], { format = 1, division = [0, 4] } = {}): Uint8Array {
  const chunks = tracks.flatMap((track) => ['MTrk', track.length, track]);
  return bytesOf(
    'MThd',
    6,
    [0, format, tracks.length >> 8, tracks.length & 255],
    division,
    ...chunks,
  );
}
const END = [0, 0xff, 0x2f, 0];
const ON = [0, 0x90, 60, 100];
const OFF = [4, 0x80, 60, 0];

const anyTicks = fc.integer({ min: 1, max: 960 * 64 });
/** Notes of a track: of each key one after the other. */
const anyTrack = fc.record({
  name: fc.stringMatching(/^[A-Za-zäöß♭][a-z ♯]{0,20}[a-z]$/u),
  channel: fc.integer({ min: 1, max: 16 }),
  notes: fc
    .array(fc.tuple(anyTicks, anyTicks, fc.integer({ min: 1, max: 127 })), {
      minLength: 1,
      maxLength: 30,
    })
    .map((steps) => {
      let at = 0;
      return steps.map(([rest, ticks, velocity], i) => {
        const from = at + rest;
        at = from + ticks;
        return note(from / 960, ticks / 960, 40 + (i % 3), velocity);
      });
    }),
  programs: fc.array(
    fc.record({
      beat: anyTicks.map((ticks) => ticks / 960),
      program: fc.integer({ min: 0, max: 127 }),
    }),
    {
      maxLength: 1,
    },
  ),
});

describe('MIDI files', () => {
  it('are read as they were written', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(anyTrack, { selector: ({ channel }) => channel, maxLength: 6 }),
        fc.constantFrom('C', 'F#', 'Gb', 'Ebm', 'G#m', 'Am'),
        fc.integer({ min: 20, max: 400 }),
        (tracks, key, tempo) => {
          const file = {
            tracks,
            tempos: [{ beat: 0, tempo }],
            metres: [{ beat: 2, metre: { beats: 6, unit: 8 as const } }],
            keys: [{ beat: 1, key: readMusicalKey(key) ?? expect.fail() }],
          };
          const bytes = writeMidiFile(file);
          expect(readMidiFile(bytes)).toEqual({ ...file, doubts: [] });
          expect(parseMidi(bytes).tracks).toHaveLength(tracks.length + 1);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('of one track are told apart by channel, with what each holds', () => {
    const track = [...[0, 0xff, 3, 3, 66, 97, 110], ...[0, 0xc2, 40], ...ON, 2, 0x92, 50, 9];
    const more = [2, 0x80, 60, 0, 2, 50, 1, 2, 0x92, 50, 0, ...END];
    const { tracks, doubts } = readMidiFile(fileOf([[...track, ...more]], { format: 0 }));
    expect(tracks).toEqual([
      { name: 'Ban', channel: 1, notes: [note(0, 1, 60, 100)], programs: [] },
      {
        ...{ name: 'Ban', channel: 3, notes: [note(0.5, 1.5, 50, 9)] },
        programs: [{ beat: 0, program: 40 }],
      },
    ]);
    expect(doubts).toEqual(['track 1: 1 notes end that have not begun: they are passed over']);
  });

  it.each<[string, Uint8Array, number, RegExp | null]>([
    ['whole', fileOf([[...ON, ...OFF, ...END]]), 1, null],
    [
      'of seconds',
      fileOf([[...ON, ...OFF, ...END]], { division: [0xe8, 40] }),
      1,
      /counts seconds/,
    ],
    ['of pieces', fileOf([[...ON, ...OFF, ...END], END], { format: 2 }), 1, /pieces of their own/],
    [
      'running on from the track before',
      fileOf([
        [...ON, ...OFF, ...END],
        [0, 62, 80, 0, 62, 0, ...END],
      ]),
      1,
      /status of the track before/,
    ],
    ['without an end', fileOf([[...ON, ...OFF]]), 1, /has no end/],
    ['with a note that never ends', fileOf([[...ON, 8, 0xb0, 7, 1, ...END]]), 1, /never end/],
    ['with a note that ends before', fileOf([[...OFF, ...ON, ...OFF, ...END]]), 1, /not begun/],
    [
      'of no tempo',
      fileOf([[0, 0xff, 0x51, 3, 0, 0, 0, ...ON, ...OFF, ...END]]),
      1,
      /a tempo of nothing/,
    ],
    ['cut', fileOf([[...ON, ...OFF, ...END]]).slice(0, -3), 1, /cut off/],
    [
      'of too few tracks',
      fileOf([[...ON, ...OFF, ...END]]).map((x, i) => (i === 11 ? 9 : x)),
      1,
      /9 tracks/,
    ],
    ['with a byte that is none', fileOf([[...ON, ...OFF, 0, 0x90, 200, 1]]), 1, /no proper bytes/],
    ['of 10,000 tracks', fileOf(Array.from({ length: 10_000 }, () => END)), 0, null],
  ])('%s: what could be read is read, the rest is named', (_what, bytes, notes, doubt) => {
    const file = readMidiFile(bytes);
    expect(file.tracks.at(0)?.notes ?? []).toHaveLength(notes);
    if (doubt) expect(file.doubts.join()).toMatch(doubt);
    else expect(file.doubts).toEqual([]);
    for (const one of file.tracks.flatMap((track) => track.notes))
      expect(one.length).toBeGreaterThan(0);
  });

  it('are refused when they are none, and never break when they are damaged', () => {
    expect(() => readMidiFile(bytesOf('RIFF'))).toThrow(CannotRead);
    expect(() => readMidiFile(fileOf([END], { division: [0, 0] }))).toThrow(/counts time/);
    const whole = writeMidiFile({
      tracks: [{ name: 'Keel', channel: 2, notes: [note(0, 1, 40, 90)], programs: [] }],
      tempos: [{ beat: 0, tempo: 87 }],
    });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { maxLength: 6 }),
        (faults) => {
          const damaged = whole.slice();
          for (const [at, byte] of faults) damaged[at] = byte;
          try {
            readMidiFile(damaged);
          } catch (error) {
            expect(error).toBeInstanceOf(CannotRead);
          }
        },
      ),
    );
  });
});

describe('tracks as patterns', () => {
  const track = (channel: number, keys: number[], from: number, step: number) => ({
    ...{ name: '', channel, programs: [] },
    notes: keys.map((key, i) => note(from + i * step, step, key, 80)),
  });

  it('begin with their first bar, last whole bars, and have a shelf and a key', () => {
    const file = {
      ...{ doubts: [], keys: [], tempos: [{ beat: 0, tempo: 87 }] },
      metres: [{ beat: 0, metre: { beats: 3, unit: 4 as const } }],
      tracks: [
        track(1, [41, 45, 48, 50, 41], 7, 1),
        track(10, [36, 38], 0, 1.5),
        track(
          3,
          Array.from({ length: 300 }, (_, i) => 60 + [0, 4, 7][i % 3]),
          0,
          1,
        ),
        track(4, [], 0, 1),
      ],
    };
    const made = patternsOfMidi(file, 'Ebb', (at) => `m-${at}`);
    expect(made.map(({ pattern }) => [pattern.name, pattern.category, pattern.length])).toEqual([
      ['Ebb 1', 'basses', 6],
      ['Ebb 2', 'drums', 3],
      ['Ebb 3', 'lines', 255],
    ]);
    expect(made[0].pattern.notes[0]).toMatchObject({ beat: 1, key: 41 });
    expect(made.map(({ pattern }) => pattern.key?.tonic ?? null)).toEqual([5, null, 0]);
    expect(made[2].doubts.join()).toMatch(/45 of its 300 notes are beyond/);
    for (const { pattern } of made) expect(patternSchema.safeParse(pattern).success).toBe(true);
  });
});
