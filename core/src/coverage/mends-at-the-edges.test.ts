import { describe, expect, it } from 'vitest';
import type { Layer } from '../model/patch/layer.js';
import { keyboard, demoRig, keys, layer, patchOf, velocities } from '../testing/fixtures.js';
import { mendOf } from './mends.js';
import { movingSplit } from './moving-split.js';
import type { Remark } from './remark.js';

const upper = (id: string, changes: Partial<Layer> = {}) =>
  layer(id, { keyboards: ['keys1'], level: 0, ...changes });
const remark = (kind: Remark['kind'], layerIds: string[], more: Partial<Remark> = {}): Remark => ({
  ...{ patchId: 'patch', kind, id: kind, weight: 'note', text: '', keyboardId: 'upper', layerIds },
  where: { keys: { low: 28, high: 103 }, velocities: { low: 1, high: 127 } },
  ...more,
});
const mend = (said: Remark, ...layers: Layer[]) => mendOf(said, patchOf(layers), demoRig);

describe('a mend', () => {
  it('is for the layers that the remark names', () => {
    const muted = upper('muted', { muted: true });
    expect(mend(remark('neverHeard', ['muted']), upper('a'), muted)?.changes).toEqual({
      muted: { muted: false },
    });
    const soft = upper('soft', { velocities: velocities(1, 80) });
    const hard = upper('hard', { velocities: velocities(70, 127) });
    for (const kind of ['dip', 'leap', 'sameSoundTwice'] as const) {
      const found = mend(remark(kind, ['soft', 'hard']), upper('other'), soft, hard);
      expect(Object.keys(found?.changes ?? {})).toEqual(['soft', 'hard']);
    }
    const kept = remark('outsideNaturalRange', ['b'], { keys: { low: 40, high: 50 } });
    expect(mend(kept, upper('a', { keys: keys(0, 60) }), upper('b'))?.changes).toEqual({
      b: { keys: keys(40, 50) },
    });
  });

  it('is none without a place or a keyboard', () => {
    const soft = upper('soft', { velocities: velocities(1, 80) });
    const hard = upper('hard', { velocities: velocities(70, 127) });
    expect(mend(remark('leap', ['soft', 'hard'], { where: null }), soft, hard)).toBeNull();
    expect(mend(remark('leap', ['soft', 'hard'], { keyboardId: 'gone' }), soft, hard)).toBeNull();
  });

  it('of silent keys looks at the keyboard on which they are', () => {
    const both = [
      layer('high', { keyboards: ['keys2'], keys: keys(50, 96) }),
      upper('upper', { keys: keys(50, 103) }),
    ];
    const where = { keys: { low: 36, high: 49 }, velocities: { low: 1, high: 127 } };
    const lower = remark('silentKeys', [], { keyboardId: 'lower', where });
    expect(mend(lower, ...both)?.changes).toEqual({ high: { keys: keys(36, 96) } });
    // Nobody is beside them.
    const far = { ...where, keys: { low: 36, high: 40 } };
    expect(mend(remark('silentKeys', [], { where: far }), ...both)).toBeNull();
    // Below the lowest note of MIDI no layer can answer.
    const below = { ...where, keys: { low: -8, high: 49 } };
    expect(mend(remark('silentKeys', [], { where: below }), ...both)?.changes).toEqual({
      upper: { keys: keys(0, 103) },
    });
  });

  it('of a step by strength leaves both layers a strength of their own', () => {
    const step = (low: Layer['velocities'], high: Layer['velocities']) =>
      mend(
        remark('dip', ['soft', 'hard']),
        upper('soft', { velocities: low }),
        upper('hard', { velocities: high }),
      );
    expect(step(velocities(1, 99), velocities(100, 103))).toEqual({
      patchId: 'patch',
      words: 'crossfade them over 11 velocities',
      changes: {
        soft: { velocities: velocities(1, 102, 0, 11) },
        hard: { velocities: velocities(92, 103, 11) },
      },
    });
    expect(step(velocities(96, 99), velocities(100, 127))?.changes).toEqual({
      soft: { velocities: velocities(96, 107, 0, 11) },
      hard: { velocities: velocities(97, 127, 11) },
    });
    // They fade already, or do not meet.
    expect(step(velocities(1, 80, 0, 11), velocities(70, 127, 11))).toBeNull();
    expect(step(velocities(1, 60), velocities(70, 127))).toBeNull();
    expect(step(velocities(1, 80), velocities(1, 127))).toBeNull();
  });

  it('of the same sound twice needs two that have a part of their own each', () => {
    const twice = remark('sameSoundTwice', ['a', 'b']);
    expect(
      mend(twice, upper('a', { keys: keys(40, 60) }), upper('b', { keys: keys(40, 80) })),
    ).toBe(null);
  });

  it('trims what is beyond on either side, and is none where nothing is', () => {
    const to = (range: Layer['keys']) =>
      mend(
        remark('outsideMidi', ['a'], { keys: { low: 40, high: 60 } }),
        upper('a', { keys: range }),
      )?.changes.a.keys;
    expect(to(keys(40, 60))).toBeUndefined();
    expect(to(keys(45, 50))).toBeUndefined();
    expect(to(keys(30, 60))).toEqual(keys(40, 60));
    expect(to(keys(40, 70))).toEqual(keys(40, 60));
    expect(to(keys(61, 70))).toBeUndefined();
  });

  it('brings a layer that was turned down all the way up to −6 dB', () => {
    const silent = mend(remark('neverHeard', ['a']), upper('a', { level: -60 }));
    expect(silent?.changes).toEqual({ a: { level: -6 } });
  });
});

describe('moving a split between two others', () => {
  it('moves the side that is asked for', () => {
    const three = patchOf([
      upper('left', { keys: keys(28, 50) }),
      upper('middle', { keys: keys(51, 70) }),
      upper('right', { keys: keys(71, 103) }),
    ]);
    const moved = (side?: 'low' | 'high') =>
      Object.keys(movingSplit(three, 'middle', 1, { side }) ?? {});
    expect(moved('low')).toEqual(['left', 'middle']);
    expect(moved('high')).toEqual(['middle', 'right']);
    expect(moved()).toEqual(['middle', 'right']);
  });

  it('is of layers on one keyboard at least', () => {
    const two = patchOf([
      upper('left', { keys: keys(28, 50) }),
      layer('right', { keyboards: ['keys2'], keys: keys(51, 96) }),
    ]);
    expect(movingSplit(two, 'left', 1)).toBeNull();
    expect(keyboard('lower').place).toBe('keys2');
  });
});
