import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Tone } from '../model/patch/layer.js';
import { PLAIN_TIMBRE, type Timbre } from '../model/patch/timbre.js';
import { compiled, keys, layer, velocities } from '../testing/fixtures.js';
import { sineSound } from '../testing/sine-sound.js';
import { planZones, recipeOf, renderZone } from '../synthesis/index.js';
import { balance } from './balance.js';
import { integratedLoudness, lufsOf, momentaryMaximum, powerOf } from './bs1770.js';
import type { Colour } from '../model/patch/colour.js';
import { plumbLine, unevenness } from './plumb-line.js';
import { loudnessAt, measureNote, measureResponse, type Response } from './response.js';

/** A stereo sine of stretches [dBFS, seconds]. */
function sine(
  frequency: number,
  stretches: [level: number, seconds: number][],
  sampleRate = 48000,
) {
  const length = stretches.reduce((sum, [, seconds]) => sum + seconds * sampleRate, 0);
  const left = new Float32Array(length);
  let at = 0;
  for (const [level, seconds] of stretches) {
    const amplitude = 10 ** (level / 20);
    for (let i = 0; i < seconds * sampleRate; i++, at++)
      left[at] = amplitude * Math.sin((2 * Math.PI * frequency * at) / sampleRate);
  }
  return { left, right: left, sampleRate };
}

describe('BS.1770 loudness', () => {
  // EBU Tech 3341, minimum requirement test signals 1 to 5.
  it.each<[string, [number, number][], number]>([
    ['case 1', [[-23, 20]], -23],
    ['case 2', [[-33, 20]], -33],
    [
      'case 3',
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
      -23,
    ],
    [
      'case 4',
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
      -23,
    ],
    [
      'case 5',
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
      -23,
    ],
  ])('%s of the published signals within 0.1 LU', (_name, stretches, expected) => {
    expect(Math.abs(integratedLoudness(sine(1000, stretches)) - expected)).toBeLessThanOrEqual(0.1);
  });

  it('is the same at other sample rates, and −∞ for silence', () => {
    expect(integratedLoudness(sine(1000, [[-23, 5]], 44100))).toBeCloseTo(-23, 1);
    expect(integratedLoudness(sine(1000, [[-200, 2]]))).toBe(-Infinity);
    expect(
      momentaryMaximum(
        sine(1000, [
          [-40, 1],
          [-20, 1],
          [-40, 1],
        ]),
      ),
    ).toBeCloseTo(-20, 1);
    expect(lufsOf(powerOf(-17.5))).toBeCloseTo(-17.5, 9);
  });
});

const straight = (at127: number): Response => [
  { velocity: 1, loudness: at127 - 30 },
  { velocity: 127, loudness: at127 },
];
const responses = new Map([
  ['library-soft', straight(-20)],
  ['library-hard', straight(-20)],
  ['library-loud', straight(-8)],
]);
const patchOf = (...layers: Parameters<typeof layer>[]) =>
  compiled(layers.map(([id, changes]) => layer(id, { level: 0, ...changes })));

describe('a sound’s response', () => {
  it('rises with velocity when measured on house sounds', () => {
    for (const id of ['felt-piano', 'slow-tide-strings']) {
      const recipe = recipeOf(id);
      if (!recipe) throw new Error(id);
      const zones = planZones(recipe).filter((p) => p.keys.low <= 60 && p.keys.high >= 60);
      const response = measureResponse(
        { voicing: recipe.voicing, zones: zones.map(renderZone) },
        60,
      );
      const values = response.map((point) => point.loudness);
      expect(values).toEqual([...values].sort((a, b) => a - b));
      expect(values.at(-1)).toBeGreaterThan(-40);
      expect(values[0]).toBeGreaterThan(-90);
    }
  });
});

describe('the plumb line', () => {
  it('adds layers in power and follows level, touch and fades', () => {
    const two = patchOf(['a', { soundId: 'soft' }], ['b', { soundId: 'hard' }]);
    const { sum, layers } = plumbLine(two, responses, 0, 1, 60);
    expect(layers[0].loudness[126]).toBe(-20);
    expect(sum[126]).toBeCloseTo(-20 + 10 * Math.log10(2), 9);
    const faded = patchOf(['a', { soundId: 'soft', level: -3, keys: keys(60, 80, 3) }]);
    expect(plumbLine(faded, responses, 0, 1, 60).sum[126]).toBeCloseTo(-20 - 3 - 8.34, 2);
    expect(plumbLine(faded, responses, 0, 1, 59).sum[126]).toBe(-Infinity);
    expect(plumbLine(faded, responses, 1, 1, 60).layers).toHaveLength(1);
  });

  it('finds no unevenness in a crossfade of equals', () => {
    const smooth = patchOf(
      ['a', { soundId: 'soft', velocities: velocities(1, 92, 0, 24) }],
      ['b', { soundId: 'hard', velocities: velocities(69, 127, 24) }],
    );
    expect(unevenness(plumbLine(smooth, responses, 0, 1, 60).sum)).toEqual([]);
  });
});

describe('a sound in another colour', () => {
  const colour = (changes: Partial<Timbre>, tone: Partial<Tone> = {}): Colour => ({
    timbre: { ...PLAIN_TIMBRE, ...changes },
    tone: { low: 0, high: 0, ...tone },
  });

  it('is as loud as it is measured with its timbre and its shelves', () => {
    const recipe = recipeOf('tine-piano');
    if (!recipe) throw new Error('there is no tine piano');
    const plans = planZones(recipe).filter((plan) => plan.keys.low <= 60 && plan.keys.high >= 60);
    const sound = { voicing: recipe.voicing, zones: plans.map(renderZone) };
    const at80 = (c?: Colour) => loudnessAt(measureResponse(sound, 60, c), 80);
    expect(at80(colour({}))).toBe(at80());
    expect(at80(colour({ brightness: -1 }))).toBeLessThan(at80() - 0.5);
    expect(at80(colour({}, { low: 9, high: 9 }))).toBeGreaterThan(at80() + 2);
    expect(at80(colour({}, { low: -9 }))).toBeLessThan(at80() - 1);
  });
});

describe('balancing', () => {
  it('brings layers to the relation wished for and keeps the whole as loud', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -20, max: 6 }), { minLength: 3, maxLength: 3 }),
        fc.integer({ min: -10, max: 6 }),
        (levels, wish) => {
          const patch = patchOf(
            ['a', { soundId: 'soft', level: levels[0] }],
            ['b', { soundId: 'hard', level: levels[1] }],
            ['c', { soundId: 'loud', level: levels[2] }],
          );
          const result = balance(patch, responses, new Map([['c', wish]]));
          const [a, b, c] = result.map((r) => r.loudnessAfter);
          if (result.some((r) => r.missing !== 0)) {
            expect(result.some((r) => r.after === 12 || r.after === -60)).toBe(true);
            return;
          }
          expect(a - b).toBeCloseTo(0, 0);
          expect(c - a).toBeCloseTo(wish, 0);
          const whole = (all: number[]) => lufsOf(all.reduce((sum, l) => sum + powerOf(l), 0));
          // Levels are set in tenths of a decibel.
          expect(
            Math.abs(whole([a, b, c]) - whole(result.map((r) => r.loudnessBefore))),
          ).toBeLessThan(0.06);
        },
      ),
    );
  });

  it('changes nothing that is balanced, and leaves out what is muted or not measured', () => {
    const patch = patchOf(
      ['a', { soundId: 'soft', level: -4 }],
      ['b', { soundId: 'hard', level: -4 }],
      ['c', { soundId: 'unknown' }],
      ['d', { soundId: 'loud', muted: true }],
    );
    expect(balance(patch, responses).map((r) => [r.layerId, r.before, r.after])).toEqual([
      ['a', -4, -4],
      ['b', -4, -4],
    ]);
    expect(balance(patchOf(), responses)).toEqual([]);
  });

  it('says what it could not reach', () => {
    const patch = patchOf(
      ['a', { soundId: 'soft', level: 12 }],
      ['b', { soundId: 'loud', level: 12 }],
    );
    const [a, b] = balance(patch, responses, new Map([['a', 20]]));
    expect([a.after, a.missing > 5, b.missing]).toEqual([12, true, 0]);
    const silent = balance(patch, responses, new Map([['a', -100]]));
    expect([silent[0].after, silent[0].missing < -10]).toEqual([-60, true]);
  });

  it('counts fades: what is told is what is heard where the layer is about at its best', () => {
    const patch = patchOf(
      ['a', { soundId: 'soft', level: 0, velocities: velocities(60, 127, 60) }],
      ['b', { soundId: 'soft', level: 0, keys: keys(60, 63, 2, 2) }],
    );
    const [a, b] = balance(patch, responses);
    const { layers } = plumbLine(patch, responses, 0, 1, 61);
    const best = Math.max(...layers[1].loudness);
    expect(b.loudnessBefore).toBeCloseTo(layers[1].loudness[79], 6);
    expect(b.loudnessBefore).toBeLessThanOrEqual(best);
    // Half of the way up its fade, not at its edge.
    const wide = plumbLine(patch, responses, 0, 1, 100).layers[0].loudness;
    const at = wide.findIndex((loudness) => Math.abs(loudness - a.loudnessBefore) < 1e-6) + 1;
    expect(at).toBeGreaterThan(80);
    expect(Math.sin((Math.PI * (at - 59)) / 122)).toBeGreaterThanOrEqual(Math.SQRT1_2);
  });
});

describe('measuring', () => {
  it('waits until a slow attack has risen', () => {
    const sound = (attack: number) => sineSound({ attack });
    expect(measureNote(sound(2.5), 69, 127)).toBeCloseTo(measureNote(sound(0.001), 69, 127), 0);
  });
});
