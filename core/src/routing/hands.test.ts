import { describe, expect, it } from 'vitest';
import { compiled, keyboard, keys, layer, velocities } from '../testing/fixtures.js';
import { EVEN_TOUCH } from '../touch/touch.js';
import { underHands } from './hands.js';

describe('what lies under the hands', () => {
  it('says where each layer lies and how it is reached, what is muted, and leaves out what hears other keyboards', () => {
    const patch = compiled([
      layer('bass', { keys: keys(0, 54), transpose: -12 }),
      layer('soft', { keys: keys(57, 127), velocities: velocities(1, 92) }),
      layer('hard', { keys: keys(57, 127), velocities: velocities(69, 127) }),
      layer('swelling', { keys: keys(69, 127, 7), transpose: 7 }),
      layer('dug in', { touch: { ...EVEN_TOUCH, inLow: 77, below: 'silent' } }),
      layer('muted', { muted: true }),
      layer('elsewhere', { keyboards: ['keys2'] }),
      layer('other channel', { channel: 9 }),
    ]);
    const found = underHands(patch, keyboard('upper'), 4);
    expect(found.map(({ layer: l, keys: k, words }) => [l.id, k.low, k.high, words])).toEqual([
      ['bass', 28, 54, 'sounds an octave down'],
      ['soft', 57, 103, 'when you play softly'],
      ['hard', 57, 103, 'when you dig in'],
      ['swelling', 69, 103, 'swells in from A4 · sounds 7 semitones up'],
      ['dug in', 28, 103, 'when you dig in'],
      ['muted', 28, 103, 'muted'],
    ]);
  });

  const wordsOf = (changes: Parameters<typeof layer>[1]) =>
    underHands(compiled([layer('a', changes)]), keyboard('upper'), 4)[0]?.words;
  it.each<[Parameters<typeof layer>[1], string]>([
    [{}, ''],
    [{ velocities: velocities(50, 127) }, 'when you dig in'],
    [{ velocities: velocities(49, 127) }, 'at velocities 49–127'],
    [{ velocities: velocities(60, 100) }, 'at velocities 60–100'],
    [{ velocities: velocities(1, 110) }, 'when you play softly'],
    [{ velocities: velocities(1, 111) }, 'at velocities 1–111'],
    [{ velocities: velocities(2, 90) }, 'at velocities 2–90'],
    [{ keys: keys(60, 127, 2) }, 'swells in from C4'],
    [{ keys: keys(60, 127, 1) }, ''],
    [{ keys: keys(28, 127, 5) }, ''],
    [{ keys: keys(0, 60, 0, 2) }, 'fades out to C4'],
    [{ keys: keys(0, 60, 0, 1) }, ''],
    [{ keys: keys(0, 103, 0, 5) }, ''],
    [{ transpose: -24 }, 'sounds 2 octaves down'],
    [{ transpose: 1 }, 'sounds 1 semitone up'],
    [{ transpose: -2 }, 'sounds 2 semitones down'],
  ])('%o is told as “%s”', (changes, words) => {
    expect(wordsOf(changes)).toBe(words);
  });

  it('goes by the keyboard’s own octave shift, and says nothing of a keyboard that is not there', () => {
    const patch = compiled([layer('a'), layer('gone', { keys: keys(110, 127) })]);
    const [found, ...others] = underHands(patch, keyboard('upper', { octaveShift: -1 }), 4);
    expect([found.keys, others.length]).toEqual([{ low: 16, high: 91 }, 0]);
    expect(underHands(patch, keyboard('elsewhere'), 4)).toEqual([]);
  });
});
