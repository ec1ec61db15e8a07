import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyLayers, compiled, keys, layer, velocities } from '../testing/fixtures.js';
import { VERDICT, judge } from '../routing/judge.js';
import type { PlayedKey, Responses } from './plumb-line.js';
import { STRENGTH_VELOCITIES, threeStrengths } from './strengths.js';

const loud = (loudness: number) => [{ velocity: 1, loudness }];
const responses: Responses = new Map([
  ['library-one', loud(-14)],
  ['library-two', loud(-20)],
  ['library-three', loud(-32)],
]);
const played: PlayedKey[] = Array.from({ length: 76 }, (_, i) => ({
  device: 0,
  channel: 1,
  key: 28 + i,
}));
const made = (layers: Parameters<typeof compiled>[0]) =>
  threeStrengths(compiled(layers), responses, played);

describe('three strengths', () => {
  const three = [
    layer('strong', { soundId: 'one', level: 0 }),
    layer('soft', { soundId: 'two', level: 0 }),
    layer('thin', { soundId: 'three', level: 0 }),
  ];

  it('are 9 and 4 dB below the full one as measured, the thinnest layers first', () => {
    const strengths = made(three);
    expect(strengths?.map(({ name }) => name)).toEqual(['low', 'middle', 'full']);
    const muted = strengths?.map(({ balance }) =>
      Object.keys(balance).filter((id) => balance[id].muted),
    );
    // Without the strongest 7 dB are gone: enough for low, too much for middle.
    expect(muted).toEqual([['strong'], [], []]);
    const [low, middle, full] = strengths ?? [];
    expect(low.below).toBeCloseTo(9, 1);
    expect(middle.below).toBeCloseTo(4, 1);
    expect(full.below).toBeCloseTo(0, 6);
    expect(full.balance['strong']).toEqual({ level: 0, muted: false });
  });

  it('never silence a key or strength that spoke', () => {
    const [low] =
      made([
        layer('bass', { soundId: 'one', keys: keys(28, 54) }),
        layer('right', { soundId: 'three', keys: keys(55, 103) }),
        layer('gentle', { soundId: 'two', velocities: velocities(1, 90) }),
      ]) ?? [];
    expect(low.balance['bass'].muted).toBe(false);
    expect(low.balance['right'].muted).toBe(false);
    expect(low.balance['gentle'].muted).toBe(true);
  });

  it('leave alone what is muted, and say when there is nothing to measure', () => {
    const strengths = made([...three, layer('off', { soundId: 'one', muted: true })]);
    for (const { balance } of strengths ?? []) expect(balance['off'].muted).toBe(true);
    expect(made([layer('strange')])).toBeNull();
    expect(made([])).toBeNull();
  });

  it('meet their mark within half a decibel and rise, whatever the layers', () => {
    fc.assert(
      fc.property(anyLayers, (layers) => {
        const patch = compiled(layers);
        const strengths = threeStrengths(patch, responses, played);
        if (!strengths) return;
        strengths.forEach(({ below }, i) => {
          expect(Math.abs(below - [9, 4, 0][i])).toBeLessThan(0.5);
        });
        const heard = strengths.map(
          ({ balance }) => new Set(Object.keys(balance).filter((id) => !balance[id].muted)),
        );
        const [low, middle, full] = heard;
        for (const id of low) expect(middle.has(id)).toBe(true);
        for (const id of middle) expect(full.has(id)).toBe(true);
        for (const { device, channel, key } of played)
          for (const velocity of STRENGTH_VELOCITIES) {
            const sounding = patch.layers.filter(
              (one) =>
                responses.has(one.librarySoundId) &&
                judge(one, device, channel, key, velocity) === VERDICT.sounds,
            );
            if (sounding.length > 0) expect(sounding.some(({ id }) => low.has(id))).toBe(true);
          }
      }),
      { numRuns: 60 },
    );
  });
});
