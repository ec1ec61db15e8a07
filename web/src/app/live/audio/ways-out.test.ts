import { describe, expect, it } from 'vitest';
import { ONE_PAIR, pairOf } from './ways-out';

describe('the pair on which something is heard', () => {
  const pairs = { ...ONE_PAIR, main: 1, second: 0, third: 3 };

  it('is the one that was chosen, where the device has it', () => {
    expect(pairOf(pairs, 'main', 8)).toBe(1);
    expect(pairOf(pairs, 'second', 8)).toBe(0);
    expect(pairOf(pairs, 'third', 8)).toBe(3);
    expect(pairOf(pairs, 'fourth', 8)).toBeNull();
  });

  it('is never nowhere: at a smaller device it is the first, and the main one', () => {
    expect(pairOf(pairs, 'main', 2)).toBe(0);
    expect(pairOf(pairs, 'third', 4)).toBeNull();
    // The first pair carries the main mix there already.
    expect(pairOf(pairs, 'second', 2)).toBeNull();
  });
});
