import { clockTime } from '../units/times.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newCue, type Cue } from '../model/show/cue.js';
import { songEntry, type OrderEntry } from '../model/show/show.js';
import { newSong, type Song } from '../model/show/song.js';
import { layer, patchOf } from '../testing/fixtures.js';
import { Glide } from '../clock/glide.js';
import { fadeSecondsOf, withCue } from './recall.js';
import { DAMAGED_SONG, stepIndex, steps, timeline, totalSeconds } from './running-order.js';

const song = (id: string, lengthSeconds: number) => ({ id, name: id, lengthSeconds }) as Song;
const songs = new Map([song('one', 370), song('two', 440)].map((s) => [s.id, s]));
const order: OrderEntry[] = [
  songEntry('e1', 'one'),
  { kind: 'talk', id: 'e2', name: 'talk', lengthSeconds: 120 },
  songEntry('e3', 'gone'),
  songEntry('e4', 'two'),
];
const cue = (id: string, songId: string, position: number, more: Partial<Cue> = {}): Cue => ({
  ...newCue(id, songId, position, id, 'patch'),
  ...more,
});

describe('the running order in time', () => {
  it('puts entries one after the other; a song that is gone takes no time', () => {
    const entries = timeline(order, songs);
    expect(entries.map((e) => [e.name, e.start])).toEqual([
      ['one', 0],
      ['talk', 370],
      [DAMAGED_SONG, 490],
      ['two', 490],
    ]);
    expect(clockTime(totalSeconds(entries))).toBe('15:30');
    expect([clockTime(0), clockTime(3725), clockTime(-35)]).toEqual(['0:00', '1:02:05', '−0:35']);
  });

  it('lists the steps of the show in playing order, whatever order the cues come in', () => {
    const all = steps(order, songs, [cue('b', 'two', 1), cue('a', 'two', 0), cue('x', 'gone', 0)]);
    expect(all).toEqual([
      { entryId: 'e1', songId: 'one', cueId: null, songNumber: 0, cueNumber: 0 },
      { entryId: 'e4', songId: 'two', cueId: 'a', songNumber: 1, cueNumber: 0 },
      { entryId: 'e4', songId: 'two', cueId: 'b', songNumber: 1, cueNumber: 1 },
    ]);
    expect(stepIndex(all, { entryId: null, songId: 'two', cueId: 'b' })).toBe(2);
    expect(stepIndex(all, { entryId: 'e4', songId: 'two', cueId: 'gone' })).toBe(1);
    expect(stepIndex(all, { entryId: 'gone', songId: 'gone', cueId: null })).toBe(-1);
  });
});

describe('recalling a cue', () => {
  const patch = patchOf([layer('a', { level: -4 }), layer('b', { level: -9 })]);
  it('puts its levels and mutes in place of the patch’s and leaves the rest', () => {
    const recalled = withCue(
      patch,
      cue('lift', 'song', 0, {
        balance: { a: { level: -20 }, b: { muted: true }, gone: { level: 0 } },
      }),
    );
    expect(recalled.layers.map((l) => [l.level, l.muted])).toEqual([
      [-20, false],
      [-9, true],
    ]);
    expect(
      withCue(patch, cue('other', 'song', 0, { patchId: 'else', balance: { a: { level: 0 } } })),
    ).toBe(patch);
    expect(withCue(patch, null)).toBe(patch);
  });

  it('takes its own seconds, else the show’s; 0 counts', () => {
    expect(fadeSecondsOf(cue('c', 's', 0), 1.5)).toBe(1.5);
    expect(fadeSecondsOf(cue('c', 's', 0, { fadeSeconds: 0 }), 1.5)).toBe(0);
  });
});

describe('a glide', () => {
  it('never jumps, whenever it is turned round, and arrives', () => {
    const level = fc.double({ min: -60, max: 12, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            level,
            fc.double({ min: 0.1, max: 5, noNaN: true }),
            fc.double({ min: 0, max: 6, noNaN: true }),
          ),
          { maxLength: 8 },
        ),
        (turns) => {
          const glide = new Glide(-60);
          let now = 0;
          for (const [target, seconds, wait] of turns) {
            const before = glide.at(now);
            glide.to(target, seconds, now);
            expect(glide.at(now)).toBeCloseTo(before, 9);
            now += wait;
            if (wait > seconds) expect(glide.at(now)).toBe(target);
          }
          expect(glide.at(now + 10)).toBe(glide.goal);
        },
      ),
    );
    const at = new Glide(0);
    at.to(-30, 0, 5);
    expect(at.at(5)).toBe(-30);
  });
});

it('what stands behind an encore begins where the night was before it', () => {
  const long = new Map(
    ['one', 'more', 'last'].map((id) => [id, { ...newSong(id, id), lengthSeconds: 100 }]),
  );
  const order = ['one', 'more', 'last'].map((id) => songEntry(id, id));
  order[1] = { ...order[1], encore: true };
  expect(timeline(order, long).map(({ name, start }) => [name, start])).toEqual([
    ...[
      ['one', 0],
      ['more', 100],
      ['last', 100],
    ],
  ]);
});
