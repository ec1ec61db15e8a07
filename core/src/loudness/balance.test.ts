import { describe, expect, it } from 'vitest';
import { EVEN_TOUCH } from '../touch/touch.js';
import { compiled, keys, layer, velocities } from '../testing/fixtures.js';
import { gainFromDb } from '../units/decibels.js';
import { balance } from './balance.js';
import { loudnessKey } from '../model/patch/colour.js';
import { measureResponse, MEASURED_VELOCITIES, type Response } from './response.js';
import { PLAIN_TIMBRE } from '../model/patch/timbre.js';
import { sineSound } from '../testing/sine-sound.js';

const rising: Response = [
  { velocity: 1, loudness: -127 },
  { velocity: 127, loudness: -1 },
];
const responses = new Map([
  ['library-rising', rising],
  ['library-flat', [{ velocity: 1, loudness: -20 }]],
  ['library-nothing', []],
]);
const told = (changes: Parameters<typeof layer>[1], relation?: ReadonlyMap<string, number>) => {
  const [first] = balance(
    compiled([layer('a', { soundId: 'rising', level: 0, ...changes })]),
    responses,
    relation,
  );
  return first;
};
/** With the rising response, the velocity at which a layer without fades was compared. */
const comparedAt = (changes: Parameters<typeof layer>[1]) => told(changes).loudnessBefore + 128;

describe('where layers are compared', () => {
  it('is velocity 80, or the nearest that they answer', () => {
    expect(comparedAt({})).toBeCloseTo(80, 9);
    expect(comparedAt({ velocities: velocities(1, 70) })).toBeCloseTo(70, 9);
    expect(comparedAt({ velocities: velocities(90, 127) })).toBeCloseTo(90, 9);
    expect(comparedAt({ velocities: velocities(80, 80) })).toBeCloseTo(80, 9);
    const touch = { ...EVEN_TOUCH, inLow: 95, outLow: 40, below: 'silent' as const };
    const first = told({ touch });
    expect(first.loudnessBefore).toBeCloseTo(
      -128 + compiled([layer('a', { touch })]).layers[0].touch[95],
      6,
    );
  });

  it('is where they are at half their greatest power at least, on either side', () => {
    for (const [low, high, fadeIn, fadeOut] of [
      [60, 127, 60, 0],
      [1, 100, 0, 90],
    ]) {
      const ranges = { velocities: velocities(low, high, fadeIn, fadeOut) };
      const gains = compiled([layer('a', { soundId: 'rising', ...ranges })]).layers[0].velocityGain;
      const best = Math.max(...gains);
      const enough = Array.from(gains.keys())
        .filter((v) => gains[v] >= best * Math.SQRT1_2)
        .sort((a, b) => Math.abs(a - 80) - Math.abs(b - 80))[0];
      expect(told(ranges).loudnessBefore).toBeCloseTo(
        -128 + enough + 20 * Math.log10(gains[enough]),
        6,
      );
      expect(enough).not.toBe(80);
    }
  });

  it('counts the best of the keys', () => {
    const faded = { soundId: 'flat', keys: keys(60, 61, 2) };
    const { keyGain } = compiled([layer('a', faded)]).layers[0];
    expect(Math.max(...keyGain)).toBeLessThan(1);
    expect(told(faded).loudnessBefore).toBeCloseTo(-20 + 20 * Math.log10(Math.max(...keyGain)), 9);
  });
});

describe('what is told of a layer', () => {
  it('is its level and loudness before and after, in tenths of a decibel', () => {
    const [a, b] = balance(
      compiled([
        layer('a', { soundId: 'flat', level: 0 }),
        layer('b', { soundId: 'flat', level: -10 }),
      ]),
      responses,
    );
    // Both at the mean of the two powers.
    const common = 10 * Math.log10((1 + gainFromDb(-20)) / 2);
    const level = Math.round(common * 10) / 10;
    expect(a).toMatchObject({ layerId: 'a', before: 0, after: level, missing: 0 });
    expect(b).toMatchObject({ layerId: 'b', before: -10, after: level, missing: 0 });
    expect([a.loudnessBefore, b.loudnessBefore]).toEqual([-20, -30]);
    expect(a.loudnessAfter).toBeCloseTo(-20 + level, 9);
  });

  it('shares by the relation wished for, and by none where nothing is wished', () => {
    const patch = compiled(['a', 'b', 'c'].map((id) => layer(id, { soundId: 'flat', level: 0 })));
    const after = balance(
      patch,
      responses,
      new Map([
        ['b', 3],
        ['c', -3],
      ]),
    ).map((r) => r.after);
    const common = 10 * Math.log10(3 / (1 + 10 ** 0.3 + 10 ** -0.3));
    expect(after).toEqual([0, 3, -3].map((wish) => Math.round((common + wish) * 10) / 10));
    expect(told({ level: 5 })).toMatchObject({ before: 5, after: 5, missing: 0 });
  });

  it('leaves out layers with an empty response', () => {
    expect(told({ soundId: 'nothing' })).toBeUndefined();
  });
});

describe('a measured response', () => {
  it('has the velocities that are measured, and never less than −90 LUFS', () => {
    const silent = measureResponse(sineSound({ amplitude: 0 }), 69);
    expect(silent).toEqual(MEASURED_VELOCITIES.map((velocity) => ({ velocity, loudness: -90 })));
    const sounding = measureResponse(sineSound(), 69);
    expect(sounding.every(({ loudness }) => loudness > -30)).toBe(true);
  });

  it('is kept under the sound alone, or with its seven numbers of colour', () => {
    const tone = { low: 0, high: 0 };
    expect(loudnessKey('harp', { timbre: PLAIN_TIMBRE, tone })).toBe('harp');
    const key = loudnessKey('harp', {
      timbre: { ...PLAIN_TIMBRE, vibrato: 0.5 },
      tone: { low: -3, high: 0 },
    });
    expect(key).not.toBe('harp');
    expect(key).toContain('-3');
    expect(key).toContain('0.5');
    expect(loudnessKey('harp', { timbre: PLAIN_TIMBRE, tone: { low: 0, high: 1 } })).toContain(
      ' 1',
    );
  });
});
