import { describe, expect, it } from 'vitest';
import { keys, layer, velocities } from '../testing/fixtures.js';
import {
  besideNeighbour,
  endingAt,
  madeToMeet,
  overlapsCrossfaded,
  sharedOut,
} from './arranging.js';

const whole = { low: 1, high: 127 };

describe('arranging several layers', () => {
  it('shares strengths out evenly, whatever they were before', () => {
    const layers = [layer('hard', { velocities: velocities(90, 127) }), layer('a'), layer('b')];
    expect(sharedOut(layers, 'velocities', whole)).toEqual({
      a: { velocities: velocities(1, 43) },
      b: { velocities: velocities(44, 85) },
      hard: { velocities: velocities(86, 127) },
    });
  });

  it('shares nothing out among none, and leaves out those for which no key is left', () => {
    expect(sharedOut([], 'keys', whole)).toEqual({});
    const linear = (id: string) => layer(id, { keys: { ...keys(0, 127), law: 'linear' } });
    expect(sharedOut(['a', 'b', 'c'].map(linear), 'keys', { low: 60, high: 61 })).toEqual({
      a: { keys: { ...keys(60, 60), law: 'linear' } },
      b: { keys: { ...keys(61, 61), law: 'linear' } },
    });
  });

  it('splits a keyboard N ways', () => {
    const layers = ['a', 'b', 'c', 'd'].map((id) => layer(id));
    expect(sharedOut(layers, 'keys', { low: 28, high: 103 })).toEqual({
      a: { keys: keys(28, 46) },
      b: { keys: keys(47, 65) },
      c: { keys: keys(66, 84) },
      d: { keys: keys(85, 103) },
    });
  });

  it('makes neighbours meet where there is a gap or an overlap, and leaves stacked ones alone', () => {
    const low = layer('low', { keys: keys(28, 50) });
    const middle = layer('middle', { keys: keys(55, 75) });
    const high = layer('high', { keys: keys(70, 103) });
    expect(madeToMeet([high, low, middle], 'keys')).toEqual({
      low: { keys: keys(28, 52) },
      middle: { keys: keys(53, 72) },
      high: { keys: keys(73, 103) },
    });
    expect(madeToMeet([layer('a'), layer('b')], 'keys')).toEqual({});
    // Neither begins or ends with another, nor lies within it, or it is left alone.
    for (const [from, to] of [
      [28, 60],
      [40, 103],
      [40, 60],
    ])
      expect(
        madeToMeet(
          [layer('whole', { keys: keys(28, 103) }), layer('b', { keys: keys(from, to) })],
          'keys',
        ),
      ).toEqual({});
  });

  it('turns each overlap into a crossfade of its length', () => {
    const soft = layer('soft', { velocities: velocities(1, 80) });
    const hard = layer('hard', { velocities: velocities(61, 127) });
    expect(overlapsCrossfaded([soft, hard], 'velocities')).toEqual({
      soft: { velocities: velocities(1, 80, 0, 20) },
      hard: { velocities: velocities(61, 127, 20) },
    });
    expect(overlapsCrossfaded([soft], 'velocities')).toEqual({});
    const meets = layer('meets', { velocities: velocities(81, 127) });
    const apart = layer('apart', { velocities: velocities(90, 127) });
    expect(overlapsCrossfaded([soft, meets], 'velocities')).toEqual({});
    expect(overlapsCrossfaded([soft, apart], 'velocities')).toEqual({});
  });

  it('puts an end beside the neighbour, or at a key', () => {
    const bass = layer('bass', { keys: keys(28, 50) });
    const piano = layer('piano', { keys: keys(60, 103) });
    expect(besideNeighbour(bass, 'high', [bass, piano])).toEqual({ bass: { keys: keys(28, 59) } });
    expect(besideNeighbour(piano, 'low', [bass, piano])).toEqual({
      piano: { keys: keys(51, 103) },
    });
    expect(besideNeighbour(piano, 'high', [bass, piano])).toEqual({});
    expect(endingAt(bass, 'high', 55)).toEqual({ bass: { keys: keys(28, 55) } });
    expect(endingAt(bass, 'high', 20)).toEqual({ bass: { keys: keys(20, 28) } });
  });
});
