import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { patternSchema, type PatternNote } from '../model/library/pattern.js';
import { HOUSE_PATTERNS } from './house/index.js';
import {
  lengthenedNotes,
  movedNotes,
  strengthenedNotes,
  withNote,
  withoutNotes,
} from './mending.js';
import { PatternTake } from './pattern-take.js';

const [house] = HOUSE_PATTERNS;
const note = fc.record({
  beat: fc.double({ min: 0, max: 7.9, noNaN: true }),
  length: fc.double({ min: 0.01, max: 4, noNaN: true }),
  key: fc.integer({ min: 0, max: 127 }),
  velocity: fc.integer({ min: 1, max: 127 }),
});
const drawn = fc.record({
  notes: fc.array(note, { maxLength: 8 }),
  chosen: fc.uniqueArray(fc.integer({ min: 0, max: 7 })).map((all) => new Set(all)),
});

describe('notes that are mended', () => {
  it('stay notes of a pattern, whatever is asked for; those not chosen stay as they are', () => {
    const by = fc.double({ min: -300, max: 300, noNaN: true });
    fc.assert(
      fc.property(
        drawn,
        by,
        fc.integer({ min: -200, max: 200 }),
        ({ notes, chosen }, beats, keys) => {
          const pattern = { length: 8, notes };
          const mended = [
            movedNotes(pattern, chosen, { beats, keys }),
            lengthenedNotes(pattern, chosen, beats),
            strengthenedNotes(pattern, chosen, beats),
          ];
          for (const after of mended) {
            expect(patternSchema.safeParse({ ...house, length: 8, notes: after }).success).toBe(
              true,
            );
            after.forEach((one, at) => {
              if (!chosen.has(at)) expect(one).toBe(notes[at]);
            });
          }
          // They move as one, as far as they are asked to or there is room.
          const [moved] = mended;
          const ways = moved.flatMap((one, at) =>
            chosen.has(at) ? [one.key - notes[at].key] : [],
          );
          expect(new Set(ways).size).toBeLessThanOrEqual(1);
          const isAtEdge = moved.some(
            ({ key }, at) => chosen.has(at) && (key === 0 || key === 127),
          );
          for (const way of ways) if (!isAtEdge) expect(way).toBe(keys);
          expect(withoutNotes(pattern, chosen)).toEqual(
            notes.filter((_one, at) => !chosen.has(at)),
          );
        },
      ),
    );
  });

  it('are one more only where it begins within the pattern, and there is room', () => {
    const one: PatternNote = { beat: 8, length: 1, key: 60, velocity: 80 };
    expect(withNote({ length: 8, notes: [] }, one)).toBeNull();
    expect(withNote({ length: 9, notes: [] }, one)).toEqual([one]);
    expect(withNote({ length: 9, notes: Array.from({ length: 4096 }, () => one) }, one)).toBeNull();
  });
});

describe('a take', () => {
  const told = (take: PatternTake) =>
    take.notes().map(({ beat, length, key }) => `${key} ${beat}+${length}`);
  const play = (take: PatternTake, key: number, from: number, to: number) => {
    take.press(key, 90, from);
    take.release(key, to);
  };

  it('goes round: a pass is what was struck in one round, however long it is held; the last is taken back', () => {
    const take = new PatternTake(1, 4);
    play(take, 59, -0.3, 0);
    play(take, 60, -0.2, 0.5);
    take.press(62, 90, 3.5);
    play(take, 64, 4.25, 5);
    take.release(62, 6);
    take.press(65, 90, 9);
    expect(told(take)).toEqual(['60 0+0.5', '64 0.25+0.75', '62 3.5+2.5']);
    take.stop(15);
    expect(told(take)).toContain('65 1+4');
    expect([take.length, take.passCount]).toEqual([4, 3]);
    // Played over, what comes while it counts in is not taken.
    take.beginOver();
    expect(take.beginsAt).toBe(12);
    play(take, 70, 10, 11);
    expect(take.passCount).toBe(3);
    expect([take.undoPass(), take.undoPass()]).toEqual([true, true]);
    expect(told(take)).toEqual(['60 0+0.5', '62 3.5+2.5']);
    expect([take.undoPass(), take.undoPass()]).toEqual([true, false]);
  });

  it.each([
    // Stopped a little late it is as long as was meant, and what came then is the one of the next round.
    [4, 8.4, 8, ['62 0.25+0.1', '60 5+1']],
    [4, 8.6, 12, ['60 5+1', '62 8.25+0.1']],
    // Bars of three and a half beats make whole beats two by two.
    [3.5, 3.4, 7, ['62 1.25+0.1', '60 5+1']],
  ])('finds its length: bars of %d, stopped at %d: %d', (bar, stopped, length, notes) => {
    const take = new PatternTake(null, bar);
    expect(take.length).toBeNull();
    play(take, 60, 5, 6);
    play(take, 62, 8.25, 8.35);
    take.stop(stopped);
    expect(take.length).toBe(length);
    expect(told(take).map((words) => words.replace(/(\.\d\d)\d+/g, '$1'))).toEqual(
      notes.map((words) => words.replace('0.1', '0.09')),
    );
  });
});
