import { describe, expect, it } from 'vitest';
import { compiled, keyboard, keys, layer, velocities } from '../testing/fixtures.js';
import { EVEN_TOUCH } from '../touch/touch.js';
import { underHands } from './hands.js';

describe('what lies under the hands', () => {
  it('says where each layer lies and how it is reached, and leaves out what cannot be heard', () => {
    const patch = compiled([
      layer('bass', { keys: keys(0, 54), transpose: -12 }),
      layer('soft', { keys: keys(57, 127), velocities: velocities(1, 92) }),
      layer('hard', { keys: keys(57, 127), velocities: velocities(69, 127) }),
      layer('swelling', { keys: keys(69, 127, 7), transpose: 7 }),
      layer('dug in', { touch: { ...EVEN_TOUCH, inLow: 77, below: 'silent' } }),
      layer('muted', { muted: true }),
      layer('elsewhere', { keyboards: ['lower'] }),
      layer('other channel', { channel: 9 }),
    ]);
    const found = underHands(patch, keyboard('upper'), 4);
    expect(found.map(({ layer: l, keys: k, words }) => [l.id, k.low, k.high, words])).toEqual([
      ['bass', 28, 54, 'sounds an octave down'],
      ['soft', 57, 103, 'when you play softly'],
      ['hard', 57, 103, 'when you dig in'],
      ['swelling', 69, 103, 'swells in from A4 · sounds 7 semitones up'],
      ['dug in', 28, 103, 'when you dig in'],
    ]);
  });
});
