import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contains, widthOf } from '../range/range.js';
import { judge, VERDICT } from '../routing/judge.js';
import {
  anyLayers,
  compiled,
  demoRig,
  keyboard,
  keys,
  layer,
  velocities,
} from '../testing/fixtures.js';
import { coverage } from './coverage.js';

const upper = keyboard('upper');

describe('coverage of one keyboard', () => {
  it('finds the silent keys between two halves as one rectangle', () => {
    const patch = compiled([
      layer('bass', { keys: keys(0, 54) }),
      layer('piano', { keys: keys(57, 127) }),
    ]);
    expect(coverage(patch, upper).silent).toEqual([
      { keys: { low: 55, high: 56 }, velocities: { low: 1, high: 127 } },
    ]);
  });

  it('names silent keys as keys and a silent band of strengths as one band', () => {
    const patch = compiled([
      layer('soft', { keys: keys(40, 127), velocities: velocities(1, 60) }),
      layer('hard', { keys: keys(40, 127), velocities: velocities(70, 127) }),
      layer('bells', { keys: keys(80, 127), velocities: velocities(1, 127) }),
    ]);
    expect(coverage(patch, upper).silent).toEqual([
      { keys: { low: 28, high: 39 }, velocities: { low: 1, high: 127 } },
      { keys: { low: 40, high: 79 }, velocities: { low: 61, high: 69 } },
    ]);
  });

  it('joins silent ground along keys or along strengths, whichever gives fewer pieces', () => {
    const piece = (low: number, high: number, from: number, to: number) => ({
      ...{ keys: { low, high }, velocities: { low: from, high: to } },
    });
    // Two pieces that overlap in the middle strengths: three along the keys, two along the strengths.
    const crossed = compiled([
      layer('a', { keys: keys(28, 59), velocities: velocities(1, 40) }),
      layer('b', { keys: keys(60, 103), velocities: velocities(81, 127) }),
    ]);
    expect(coverage(crossed, upper).silent).toEqual([
      piece(28, 59, 41, 127),
      piece(60, 103, 1, 80),
    ]);
    // As many either way: along the keys.
    const cornered = compiled([
      layer('a', { keys: keys(28, 59), velocities: velocities(60, 127) }),
      layer('b', { keys: keys(60, 103), velocities: velocities(30, 127) }),
    ]);
    expect(coverage(cornered, upper).silent).toEqual([
      piece(28, 103, 1, 29),
      piece(28, 59, 30, 59),
    ]);
  });

  it('names whole keys from low to high, then silent velocities', () => {
    const patch = compiled([
      layer('a', { keys: keys(30, 50), velocities: velocities(20, 127) }),
      layer('b', { keys: keys(60, 100) }),
    ]);
    expect(coverage(patch, upper).silent.map(({ keys: { low } }) => low)).toEqual([
      28, 51, 101, 30,
    ]);
  });

  it('counts the 32 layers that a patch can have, and no more', () => {
    const many = Array.from({ length: 33 }, (_, i) =>
      layer(`layer-${i}`, { keys: i === 32 ? keys(30, 30) : keys(40 + i, 40 + i) }),
    );
    const { keys: strip } = coverage(compiled(many), upper);
    expect(strip.find(({ key }) => key === 30)?.layers).toEqual([]);
    expect(strip.find(({ key }) => key === 40)?.layers).toEqual([0]);
    expect(strip.find(({ key }) => key === 71)?.layers).toEqual([31]);
  });

  it('is silent all over for a keyboard that the rig has not', () => {
    const { silent } = coverage(compiled([layer('a')]), keyboard('stranger'));
    expect(silent).toHaveLength(1);
  });

  it('names as few rectangles as it can, whole keys first', () => {
    const stepped = compiled([
      layer('a', { keys: keys(28, 39), velocities: velocities(1, 90) }),
      layer('b', { keys: keys(40, 50), velocities: velocities(1, 60) }),
      layer('c', { keys: keys(51, 80), velocities: velocities(1, 90) }),
      layer('d', { keys: keys(90, 103) }),
    ]);
    const { silent, keys: strip } = coverage(stepped, upper);
    expect(silent).toEqual([
      { keys: { low: 81, high: 89 }, velocities: { low: 1, high: 127 } },
      { keys: { low: 28, high: 80 }, velocities: { low: 91, high: 127 } },
      { keys: { low: 40, high: 50 }, velocities: { low: 61, high: 90 } },
    ]);
    expect(strip.filter(({ partlySilent }) => partlySilent).map(({ key }) => key)).toEqual(
      Array.from({ length: 62 }, (_, i) => 28 + i),
    );
    const island = compiled([
      layer('a'),
      layer('b', { keys: keys(40, 60), velocities: velocities(61, 127) }),
    ]);
    const found = coverage(island, upper).cells.map(({ keys: k, velocities: v, layers }) => [
      ...[k.low, k.high, v.low, v.high, layers.join()],
    ]);
    expect(found).toEqual([
      [28, 39, 1, 127, '0'],
      [40, 103, 1, 60, '0'],
      [40, 60, 61, 127, '0,1'],
      [61, 103, 61, 127, '0'],
    ]);
  });

  it('counts the layers stacked on each key', () => {
    const patch = compiled([layer('a'), layer('b', { keys: keys(60, 72) })]);
    const strip = coverage(patch, upper).keys;
    expect(strip).toHaveLength(76);
    expect(strip.find((k) => k.key === 59)?.layers).toEqual([0]);
    expect(strip.find((k) => k.key === 60)).toEqual({
      key: 60,
      layers: [0, 1],
      ...{ partlySilent: false, starts: false },
    });
  });

  it('follows the keyboard’s octave shift', () => {
    const shifted = keyboard('upper', { octaveShift: -1 });
    const patch = compiled([layer('a', { keys: keys(28, 127) })], { devices: [shifted] });
    expect(coverage(patch, shifted).silent[0].keys).toEqual({ low: 16, high: 27 });
  });

  it('agrees with judging every single key and velocity', () => {
    fc.assert(
      fc.property(anyLayers, fc.integer({ min: 0, max: 1 }), (layers, device) => {
        const board = demoRig[device];
        if (board.kind !== 'keyboard') throw new Error('the rig begins with its keyboards');
        const patch = compiled(layers);
        const { cells, silent, ground } = coverage(patch, board);
        let area = 0;
        for (const cell of cells) area += widthOf(cell.keys) * widthOf(cell.velocities);
        expect(area).toBe(widthOf(ground.keys) * 127);
        for (let key = ground.keys.low; key <= ground.keys.high; key++) {
          for (let velocity = 1; velocity <= 127; velocity++) {
            const sounding = patch.layers
              .filter((l) => judge(l, device, board.channel, key, velocity) === VERDICT.sounds)
              .map((l) => l.index);
            const cell = cells.find(
              (c) => contains(c.keys, key) && contains(c.velocities, velocity),
            );
            if (String(cell?.layers) !== String(sounding))
              throw new Error(
                `key ${key} velocity ${velocity}: ${String(cell?.layers)} is not ${String(sounding)}`,
              );
            const inSilence = silent.filter(
              (g) => contains(g.keys, key) && contains(g.velocities, velocity),
            ).length;
            if (inSilence !== (sounding.length === 0 ? 1 : 0))
              throw new Error(`silent ground is wrong at key ${key} velocity ${velocity}`);
          }
        }
      }),
      { numRuns: 40 },
    );
  });
});
