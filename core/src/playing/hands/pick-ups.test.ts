import { beforeEach, describe, expect, it } from 'vitest';
import { usualManner, type Acts, type Tie } from '../../model/patch/tie.js';
import { PickUps } from './pick-ups.js';
import { struckValue } from './struck-value.js';

const tie = (changes: Partial<Tie> = {}): Tie => ({
  ...{ id: 'knob', place: 'keys1', message: { kind: 'controller', controller: 20 } },
  ...{ target: { kind: 'letter', layer: 0, parameter: 'level' }, from: -127, to: 0 },
  ...usualManner({ kind: 'controller', controller: 20 }),
  ...changes,
});

describe('a setting that waits for the hand', () => {
  let pickUps: PickUps;
  beforeEach(() => void (pickUps = new PickUps()));
  /** Whether a control that goes from one position to another moves a setting that stands at −27 dB: at 100. */
  const moves = (before: number, position: number, one = tie()) => {
    pickUps.wait(one.id, -27);
    const moved = pickUps.isPickedUp(one, before, position);
    expect(pickUps.waits(one.id)).toBe(!moved);
    return moved;
  };

  it('is moved at once when nothing waits, and after all has been let go', () => {
    expect(pickUps.isPickedUp(tie(), -1, 3)).toBe(true);
    pickUps.wait('knob', -27);
    pickUps.clear();
    expect(pickUps.isPickedUp(tie(), -1, 3)).toBe(true);
  });

  it.each([
    ['a first touch elsewhere', -1, 50, false],
    ['a first touch that leaps beyond it', -1, 120, false],
    ['a first touch a step below it', -1, 99, true],
    ['a first touch two steps below it', -1, 98, false],
    ['a first touch a step above it', -1, 101, true],
    ['from below, not far enough', 20, 98, false],
    ['from below past it', 20, 120, true],
    ['from above past it', 120, 20, true],
    ['from above, not far enough', 120, 102, false],
    ['from the very bottom past it', 0, 127, true],
    ['from where it stands', 100, 10, true],
  ])('%s', (_how, before, position, moved) => {
    expect(moves(before, position)).toBe(moved);
    // Turned round it is the same, seen from the other end.
    const round = tie({ from: 0, to: -127 });
    expect(moves(before < 0 ? -1 : 127 - before, 127 - position, round)).toBe(moved);
  });

  it('is reached within a step of its own travel', () => {
    const wide = tie({ from: -100, to: 154 });
    pickUps.wait('knob', 54);
    expect([75, 76].map((position) => pickUps.isPickedUp(wide, -1, position))).toEqual([
      ...[false, true],
    ]);
  });
});

describe('where a press puts a setting', () => {
  const struck = (acts: Acts, how: number, now: number | null, changes: Partial<Tie> = {}) => {
    const one = tie({ acts, from: -24, to: 0, ...changes });
    return struckValue(one, how, now);
  };

  it('is as hard as it was, or the far end while it is held', () => {
    expect(struck('usual', 127, -3)).toBe(0);
    expect(struck('usual', 0, -3)).toBe(-24);
    expect(struck('holds', 1, -3)).toBe(0);
  });

  it('is the end that is farther away when it turns over', () => {
    expect([-24, -13, -12, -11, 0].map((now) => struck('turnsOver', 90, now))).toEqual([
      ...[0, 0, 0, -24, -24],
    ]);
    expect(struck('turnsOver', 90, null)).toBe(0);
  });

  it('is an eighth of the way on, and no further than the end', () => {
    expect(struck('steps', 90, -24)).toBe(-21);
    expect(struck('steps', 90, -1)).toBe(0);
    expect(struck('steps', 90, null)).toBe(-21);
    expect(struck('steps', 90, 0, { from: 0, to: -24 })).toBe(-3);
    expect(struck('steps', 90, -23, { from: 0, to: -24 })).toBe(-24);
    // From beyond the ends it comes back step by step, and goes no farther away.
    expect(struck('steps', 90, 6)).toBe(6);
    expect(struck('steps', 90, 6, { from: 0, to: -24 })).toBe(3);
    expect(struck('steps', 90, -40)).toBe(-37);
  });

  it('is one octave on, and whole', () => {
    const octave = { target: { kind: 'octave', place: 'keys1' } } as const;
    expect(struck('steps', 90, 0, { ...octave, from: -2, to: 2 })).toBe(1);
    expect(struck('steps', 90, 0, { ...octave, from: 2, to: -2 })).toBe(-1);
    expect(struck('steps', 90, 2, { ...octave, from: -2, to: 2 })).toBe(2);
  });

  it('is whole for octaves alone', () => {
    expect(struck('steps', 127, -25, { from: -25, to: 0 })).toBe(-25 + 25 / 8);
    const octave = { kind: 'octave', place: 'keys1' } as const;
    expect(struck('steps', 127, 1, { target: octave, from: -1.4, to: 1.4 })).toBe(1);
  });
});
