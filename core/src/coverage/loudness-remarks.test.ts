import { describe, expect, it } from 'vitest';
import type { Layer } from '../model/patch/layer.js';
import { compiled, demoRig, keys, layer, velocities } from '../testing/fixtures.js';
import { remarks } from './remarks.js';

const response = (loudest: number) => [
  { velocity: 1, loudness: loudest - 30 },
  { velocity: 127, loudness: loudest },
];
const responses = new Map([
  ['library-plain', response(-20)],
  ['library-loud', response(-8)],
]);
const say = (...layers: Layer[]) =>
  remarks(compiled(layers), { devices: demoRig, sounds: new Map(), middleC: 4, responses }).map(
    (remark) => remark.text,
  );
const part = (id: string, soundId: string, changes: Partial<Layer>) =>
  layer(id, { soundId, level: 0, keyboards: ['keys1'], ...changes });

describe('remarks on loudness', () => {
  it('name the layers of a dip and of a leap, and where', () => {
    expect(
      say(
        part('a', 'loud', { velocities: velocities(1, 79) }),
        part('b', 'plain', { velocities: velocities(80, 127) }),
      ),
    ).toEqual(['A and B dip 11.8 dB near 80']);
    const [leap] = say(
      part('a', 'plain', { velocities: velocities(1, 79) }),
      part('b', 'loud', { velocities: velocities(80, 127) }),
    );
    expect(leap).toMatch(/^A and B leap 1\d\.\d dB near (7|8)\d$/);
  });

  it('name a split whose sides are more than 6 dB apart, and no other', () => {
    const left = part('a', 'plain', { keys: keys(0, 59) });
    expect(say(left, part('b', 'loud', { keys: keys(60, 127) }))).toEqual([
      'split at C4: the right is 12.0 dB louder',
    ]);
    expect(say(left, part('b', 'loud', { keys: keys(60, 127), level: -7 }))).toEqual([]);
    expect(say(left, part('b', 'unknown', { keys: keys(60, 127) }))).toEqual([]);
    // Silent keys between the sides do not make them one.
    expect(say(left, part('b', 'loud', { keys: keys(62, 127) }))).toEqual([
      '2 silent keys: C4–C♯4',
      'split at D4: the right is 12.0 dB louder',
    ]);
  });

  it('say nothing of keys where a layer is not measured, and all there is to say beside them', () => {
    const dipping = [
      part('a', 'loud', { velocities: velocities(1, 79) }),
      part('b', 'plain', { velocities: velocities(80, 127) }),
    ];
    expect(say(...dipping, part('c', 'unknown', {}))).toEqual([]);
    expect(say(...dipping, part('c', 'unknown', { keys: keys(60, 127) }))).toEqual([
      'A and B dip 11.8 dB near 80',
    ]);
  });

  it('say the same thing once, however many stretches of keys it holds for', () => {
    const found = say(
      part('a', 'loud', { velocities: velocities(1, 79) }),
      part('b', 'plain', { velocities: velocities(80, 127) }),
      part('c', 'plain', { keys: keys(60, 70), level: -40, transpose: 12 }),
    );
    expect(found.filter((text) => text.includes('dip'))).toHaveLength(2);
  });
});
