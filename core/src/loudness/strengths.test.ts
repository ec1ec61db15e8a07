import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyLayers, compiled, keys, layer, velocities } from '../testing/fixtures.js';
import { VERDICT, judge } from '../routing/judge.js';
import type { PlayedKey, Responses } from './plumb-line.js';
import { PLAIN_TIMBRE } from '../model/patch/timbre.js';
import { sineSound } from '../testing/sine-sound.js';
import {
  measureMixture,
  powerOfMixture,
  probesOf,
  STRENGTH_VELOCITIES,
  voicesOf,
  type Mixture,
} from './mixture.js';
import { threeStrengths } from './strengths.js';

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

  it('leave the loudest out first, whatever their order', () => {
    const [low] = made([...three].reverse()) ?? [];
    expect(Object.keys(low.balance).filter((id) => low.balance[id].muted)).toEqual(['strong']);
  });

  it('leave out no more than lets every key speak, however loud what is left is', () => {
    const left = keys(28, 65);
    const [low] =
      made([
        layer('left', { soundId: 'one', keys: left }),
        layer('left too', { soundId: 'one', keys: left, level: -7 }),
        layer('right', { soundId: 'one', keys: keys(66, 103), level: -8 }),
      ]) ?? [];
    expect(Object.keys(low.balance).filter((id) => low.balance[id].muted)).toEqual(['left']);
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

describe('what layers make together', () => {
  const colour = { timbre: PLAIN_TIMBRE, tone: { low: 0, high: 0 } };
  const voice = (layerId: string, phase: number) => ({
    ...{ layerId, sound: sineSound({ phase }), note: 69, velocity: 127, gain: 1, pan: 0, colour },
  });
  const inDb = (mixture: Mixture, gains: Record<string, number>) =>
    10 * Math.log10(powerOfMixture(mixture, (id) => gains[id] ?? 0));

  it('is more than the sum of their powers in step, and less against each other', () => {
    const inStep = measureMixture([voice('a', 0), voice('b', 0)], 1);
    const alone = inDb(inStep, { a: 1 });
    expect(inDb(inStep, { a: 1, b: 1 }) - alone).toBeCloseTo(6.02, 1);
    const apart = measureMixture([voice('a', 0), voice('b', 0.25)], 1);
    expect(inDb(apart, { a: 1, b: 1 }) - inDb(apart, { a: 1 })).toBeCloseTo(3.01, 1);
    const against = measureMixture([voice('a', 0), voice('b', 0.5)], 1);
    expect(inDb(against, { a: 1, b: 0.5 }) - inDb(against, { a: 1 })).toBeCloseTo(-6.02, 1);
  });

  it('is what velocities are made of, where it is given', () => {
    const layers = ['one', 'two'].map((id) => layer(id, { soundId: id, level: 0 }));
    const patch = compiled(layers);
    const probes = probesOf(patch, played);
    expect(probes).toHaveLength(1);
    expect(probes[0].layers.map(({ id }) => id)).toEqual(['one', 'two']);
    const mixtures = probes.map((probe) =>
      measureMixture(
        voicesOf(probe, ({ id }) => ({
          sound: sineSound({ phase: id === 'one' ? 0 : 0.25 }),
          colour,
        })),
        probe.weight,
      ),
    );
    const strengths = threeStrengths(patch, responses, played, mixtures);
    strengths?.forEach(({ below }, i) => expect(below).toBeCloseTo([9, 4, 0][i], 1));
    // As it sounds, a quarter apart: one of them alone is 3 dB less.
    const [{ balance }] = strengths ?? [];
    const heard = inDb(
      mixtures[0],
      Object.fromEntries(
        Object.keys(balance).map((id) => [
          id,
          balance[id].muted ? 0 : 10 ** ((balance[id].level ?? 0) / 20),
        ]),
      ),
    );
    expect(inDb(mixtures[0], { one: 1, two: 1 }) - heard).toBeCloseTo(9, 1);
  });
});
