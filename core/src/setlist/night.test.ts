import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newNight, nightSchema } from '../model/show/night.js';
import { newCue } from '../model/show/cue.js';
import { newSong, shiftOfSong, type Song } from '../model/show/song.js';
import { songEntry, type OrderEntry } from '../model/show/show.js';
import { behindPlan, plannedSteps } from './elapsed.js';
import { songsByLetters, stepOfNumber } from './finding-songs.js';
import { movedSong, playedSong, songAsMoved, transposedSong, trimmed, trimOf } from './night.js';
import { steps, timeline } from './running-order.js';

const named = (id: string, name: string, more: Partial<Song> = {}): Song => ({
  ...newSong(id, name),
  lengthSeconds: 300,
  ...more,
});
const all = [
  named('a', 'Saltglass'),
  named('b', 'Paper Lighthouse', { number: 12 }),
  named('c', 'Nine Bells'),
  named('d', 'Lantern Song', { number: 3 }),
];
const songs = new Map(all.map((song) => [song.id, song]));
const cues = [
  { ...newCue('a1', 'a', 0, 'intro', 'p'), atSeconds: 10 },
  { ...newCue('a2', 'a', 1, 'verse', 'p'), atSeconds: 100 },
  newCue('b1', 'b', 0, 'intro', 'p'),
];
const order: OrderEntry[] = [
  songEntry('e1', 'a'),
  { kind: 'talk', id: 'talk', name: 'talk', lengthSeconds: 120 },
  ...['b', 'c', 'd'].map((id) => songEntry(`e-${id}`, id)),
];
const night = steps(order, songs, cues);

describe('the clock against the plan', () => {
  const planned = plannedSteps(
    night,
    timeline(order, songs),
    Object.fromEntries(cues.map((cue) => [cue.id, cue])),
  );

  it('knows when each step is to be played, talk and all', () => {
    expect(planned.map(({ from, until }) => [from, until])).toEqual([
      [0, 100],
      [100, 300],
      [420, 720],
      [720, 1020],
      [1020, 1320],
    ]);
  });

  it('is ahead before a step’s time, behind after it, and neither within', () => {
    expect([50, 100, 200, 300, 360].map((elapsed) => behindPlan(planned[1], elapsed))).toEqual([
      -50, 0, 0, 0, 60,
    ]);
  });
});

describe('a song is found', () => {
  it('by its own number, else by its place where no song has that number', () => {
    const at = (number: number) => night.at(stepOfNumber(night, songs, number))?.songId;
    expect([at(1), at(12), at(3)]).toEqual(['a', 'b', 'd']);
    // Second in the night is Paper Lighthouse, which is number 12 and no other.
    expect([2, 4, 0, 99].map((number) => stepOfNumber(night, songs, number))).toEqual([
      ...[-1, -1, -1, -1],
    ]);
  });

  it('by first letters, of the name before those of its words, and by any part last', () => {
    const found = (typed: string) => songsByLetters(night, songs, typed).map((f) => f.song.name);
    expect(found('')).toHaveLength(4);
    expect(found('PL')).toEqual(['Paper Lighthouse']);
    expect(found('s')).toEqual(['Saltglass', 'Lantern Song', 'Paper Lighthouse', 'Nine Bells']);
    expect(found('glass')).toEqual(['Saltglass']);
    expect(found('1')).toEqual(['Saltglass', 'Paper Lighthouse']);
    expect(found('12')).toEqual(['Paper Lighthouse']);
    expect(found('xyz')).toEqual([]);
  });
});

describe('what is moved for the night', () => {
  it('is a trim of a layer in one place of the night, held to its limits and taken back at 0', () => {
    const layer = { entryId: 'e1', patchId: 'p', layerId: 'l' };
    const once = trimmed(newNight('s'), { ...layer, cueId: 'a1', by: -3 });
    const twice = trimmed(once, { ...layer, cueId: 'a2', by: 40 });
    expect([trimOf(once, layer), trimOf(twice, layer), twice.trims.length]).toEqual([-3, 12, 1]);
    expect(trimOf(twice, { ...layer, entryId: 'e-b' })).toBe(0);
    expect(trimmed(twice, { ...layer, cueId: null, by: 0 }).trims).toEqual([]);
    expect(nightSchema.safeParse(twice).success).toBe(true);
  });

  it('is tempo and transposition of a song, which is the song’s again when both are back', () => {
    const up = movedSong(newNight('s'), 'e1', { transposed: 2 });
    const fast = movedSong(up, 'e1', { tempo: 120 });
    const song = songAsMoved(all[0], playedSong(fast, 'e1'));
    expect([song.tempo, shiftOfSong(song)]).toEqual([120, 2]);
    expect(songAsMoved(all[0], playedSong(fast, 'e1'))).toBe(song);
    expect(songAsMoved(all[0], playedSong(fast, 'other'))).toBe(all[0]);
    expect(movedSong(fast, 'e1', { tempo: null, transposed: 0 }).songs).toEqual([]);
  });

  it('moves what sounds by exactly so many semitones, whatever way is the nearer', () => {
    fc.assert(
      fc.property(
        fc.tuple(fc.nat(11), fc.nat(11), fc.integer({ min: -11, max: 11 })),
        ([fingered, sounding, by]) => {
          const key = { spelling: 'usual', mode: 'major' } as const;
          const keys = {
            fingered: { ...key, tonic: fingered },
            sounding: { ...key, tonic: sounding },
          };
          const song = named('x', 'X', keys);
          const moved = transposedSong(song, by);
          expect(shiftOfSong(moved) - shiftOfSong(song)).toBe(by);
          expect((moved.sounding.tonic - sounding - by) % 12).toBeCloseTo(0);
        },
      ),
    );
  });
});
