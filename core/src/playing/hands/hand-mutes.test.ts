import { beforeEach, describe, expect, it } from 'vitest';
import { HandMutes } from './hand-mutes.js';

const NOBODY: ReadonlySet<string> = new Set();
let hands: HandMutes;
beforeEach(() => {
  hands = new HandMutes();
  hands.follow('patch', []);
});

describe('layers that hands have muted', () => {
  it('stay so until another patch, or until the desk or a cue means otherwise', () => {
    hands.mute({ id: 'a', muted: false }, true);
    hands.mute({ id: 'b', muted: true }, false);
    hands.follow('patch', [
      { id: 'a', muted: false },
      { id: 'b', muted: true },
    ]);
    expect([...hands.muted]).toEqual([
      ['a', true],
      ['b', false],
    ]);
    hands.follow('patch', [
      { id: 'a', muted: true },
      { id: 'b', muted: true },
    ]);
    expect([...hands.muted]).toEqual([['b', false]]);
    hands.follow('another', []);
    expect(hands.muted.size).toBe(0);
  });

  it('are measured by what was meant before the first touch, however often they are touched', () => {
    hands.mute({ id: 'a', muted: false }, true);
    hands.mute({ id: 'a', muted: true }, false);
    hands.follow('patch', [{ id: 'a', muted: false }]);
    expect([...hands.muted]).toEqual([['a', false]]);
  });

  it('are the same object as long as nothing changes, so that nothing is compiled anew', () => {
    const { muted, soloed } = hands;
    hands.solo('a', false);
    hands.letGo('a', 'mute');
    hands.follow('patch', [{ id: 'a', muted: true }]);
    expect(hands.muted).toBe(muted);
    expect(hands.soloed).toBe(soloed);
    expect(hands.soloedWith(NOBODY)).toBe(NOBODY);
  });

  it('are soloed beside those of the desk, and let go of one by one', () => {
    hands.solo('a', true);
    hands.solo('b', true);
    hands.mute({ id: 'a', muted: false }, true);
    expect([...hands.soloedWith(new Set(['c']))]).toEqual(['c', 'a', 'b']);
    hands.letGo('a', 'solo');
    expect([...hands.soloed]).toEqual(['b']);
    expect(hands.muted.size).toBe(1);
    hands.letGo('a', 'mute');
    expect(hands.muted.size).toBe(0);
  });

  it('are told apart from solos, and leave those of the desk as they are', () => {
    hands.solo('a', true);
    hands.letGo('a', 'lift');
    hands.letGo('a', 'mute');
    expect(hands.soloedWith(NOBODY)).toBe(hands.soloed);
    expect([...hands.soloedWith(new Set(['b']))].sort()).toEqual(['a', 'b']);
    hands.letGo('a', 'solo');
    const others = new Set(['b']);
    expect(hands.soloedWith(others)).toBe(others);
  });
});
