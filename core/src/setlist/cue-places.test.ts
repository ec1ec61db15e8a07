import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newCue, type Cue } from '../model/show/cue.js';
import { movedTo, placeBehind, placedAt, type CuePlaces } from './cue-places.js';
import { movedByOne, movedTogether } from './in-order.js';

const cuesAt = (...times: number[]): Cue[] =>
  times.map((atSeconds, position) => ({
    ...newCue(`cue-${position}`, 'song', position, `cue ${position}`, 'patch'),
    atSeconds,
  }));
const after = (cues: Cue[], places: CuePlaces) =>
  cues.map((cue) => ({ ...cue, ...places[cue.id] })).sort((a, b) => a.position - b.position);
const told = (cues: Cue[]) => cues.map(({ id, atSeconds }) => [id, atSeconds]);

describe('cues on the time of their song', () => {
  const cues = cuesAt(0, 60, 120);

  it('change places with those that they are carried past', () => {
    expect(told(after(cues, placedAt(cues, 'cue-0', 90, 300)))).toEqual([
      ['cue-1', 60],
      ['cue-0', 90],
      ['cue-2', 120],
    ]);
    expect(placedAt(cues, 'cue-1', 60, 300)).toEqual({});
    expect(placedAt(cues, 'cue-2', 999, 300)).toEqual({ 'cue-2': { position: 2, atSeconds: 300 } });
  });

  it('change their order among the times that there are', () => {
    expect(told(after(cues, movedTo(cues, 'cue-2', 0)))).toEqual([
      ['cue-2', 0],
      ['cue-0', 60],
      ['cue-1', 120],
    ]);
  });

  it('get a new one half-way to the next, or to the end', () => {
    expect(placeBehind(cues, 'cue-0', 300)).toEqual({ position: 1, atSeconds: 30 });
    expect(placeBehind(cues, 'cue-2', 300)).toEqual({ position: 3, atSeconds: 210 });
    expect(placeBehind([], null, 300)).toEqual({ position: 0, atSeconds: 0 });
  });

  it('are never out of their order, whatever is carried where', () => {
    const times = fc.array(fc.nat(600), { minLength: 1, maxLength: 7 });
    const moves = fc.array(fc.tuple(fc.nat(6), fc.integer({ min: -50, max: 700 }), fc.boolean()));
    fc.assert(
      fc.property(times, moves, (begin, all) => {
        let present = cuesAt(...begin.toSorted((a, b) => a - b));
        for (const [which, where, onTime] of all) {
          const { id } = present[which % present.length];
          const places = onTime
            ? placedAt(present, id, where, 600)
            : movedTo(present, id, where % present.length);
          present = after(present, places);
          expect(present.map(({ position }) => position)).toEqual(present.map((_, i) => i));
          const at = present.map(({ atSeconds }) => atSeconds);
          expect(at).toEqual(at.toSorted((a, b) => a - b));
          expect(new Set(present.map((cue) => cue.id)).size).toBe(begin.length);
        }
      }),
    );
  });
});

describe('several members of a list', () => {
  const list = [...'abcdef'].map((id) => ({ id }));
  const ids = (moved: { id: string }[]) => moved.map(({ id }) => id).join('');

  it('are moved together in the order they have', () => {
    expect(ids(movedTogether(list, new Set('eb'), 'd'))).toBe('acbedf');
    expect(ids(movedTogether(list, new Set('ac'), null))).toBe('bdefac');
    // What they are to stand before is one of them.
    expect(ids(movedTogether(list, new Set('bc'), 'b'))).toBe('abcdef');
  });

  it('go up or down by one as a block, and no further than the ends', () => {
    expect(ids(movedByOne(list, new Set('cd'), -1))).toBe('acdbef');
    expect(ids(movedByOne(list, new Set('cd'), 1))).toBe('abecdf');
    expect(ids(movedByOne(list, new Set('ab'), -1))).toBe('abcdef');
    expect(ids(movedByOne(list, new Set('bf'), 1))).toBe('abcdef');
  });
});
