import { describe, expect, it } from 'vitest';
import { compiled, keys, layer, velocities } from '../testing/fixtures.js';
import { powerOf } from './bs1770.js';
import { plumbLine, responseOf, summedLoudness, unevenness } from './plumb-line.js';
import { loudnessAt, powerTable, type Response } from './response.js';
import { threeStrengths } from './strengths.js';
import { wholeLoudness } from './whole-loudness.js';

/** A sum of loudness by velocity: even, with other values from some velocities on. */
function sum(...from: [velocity: number, loudness: number][]): Float64Array {
  const values = new Float64Array(127);
  for (const [velocity, loudness] of from) values.fill(loudness, velocity - 1);
  return values;
}
const flat: Response = [{ velocity: 1, loudness: -20 }];
const rising: Response = [
  { velocity: 1, loudness: -50 },
  { velocity: 127, loudness: -20 },
];
const responses = new Map([
  ['library-flat', flat],
  ['library-rising', rising],
]);
const keysFrom = (low: number, high: number) =>
  Array.from({ length: high - low + 1 }, (_, i) => ({ device: 0, channel: 1, key: low + i }));

describe('an uneven sum', () => {
  it('dips where it falls by 1.5 dB, from its peak to its lowest', () => {
    expect(unevenness(sum([1, -20], [60, -21.5]))).toEqual([
      { kind: 'dip', from: 59, to: 60, size: 1.5 },
    ]);
    expect(unevenness(sum([1, -20], [60, -21.49]))).toEqual([]);
    // The peak is the last of its height; the bottom the first of its own.
    expect(
      unevenness(sum([1, -25], [40, -20], [50, -22], [60, -24], [70, -23], [80, -19])),
    ).toEqual([{ kind: 'dip', from: 49, to: 60, size: 4 }]);
  });

  it('dips twice where it recovers between, and to the very end', () => {
    const twice = unevenness(sum([1, -20], [30, -23], [40, -20], [100, -22], [127, -24]));
    expect(twice.map(({ kind, from, to, size }) => [kind, from, to, size])).toEqual([
      ['dip', 29, 30, 3],
      ['dip', 99, 127, 4],
    ]);
  });

  it('leaps where it rises by 6 dB within four velocities', () => {
    expect(unevenness(sum([1, -30], [60, -24]))).toEqual([
      { kind: 'leap', from: 56, to: 60, size: 6 },
    ]);
    expect(unevenness(sum([1, -30], [60, -24.01]))).toEqual([]);
    // A slope that needs five velocities is none.
    expect(
      unevenness(sum([1, -30], [60, -28], [61, -27], [62, -26], [63, -25], [64, -24])),
    ).toEqual([]);
    expect(unevenness(sum([1, -30], [127, -20]))).toHaveLength(1);
    expect(unevenness(sum([1, -30], [2, -20]))).toEqual([
      { kind: 'leap', from: 1, to: 5, size: 10 },
    ]);
    expect(unevenness(sum([1, -60], [60, -50], [62, -42]))).toHaveLength(2);
  });

  it('is told from soft to hard, whatever it does', () => {
    const found = unevenness(sum([1, -30], [40, -20], [80, -25], [100, -10]));
    expect(found.map(({ kind, from }) => [kind, from])).toEqual([
      ['leap', 36],
      ['dip', 79],
      ['leap', 96],
    ]);
  });

  it('begins anew after silence', () => {
    const silent = sum([1, -20], [40, -Infinity], [50, -30], [60, -31]);
    expect(unevenness(silent)).toEqual([]);
    expect(unevenness(sum([1, -20], [40, -Infinity], [50, -30], [60, -32]))).toEqual([
      { kind: 'dip', from: 59, to: 60, size: 2 },
    ]);
  });
});

describe('a response by velocity', () => {
  it('is a power for every velocity, none for 0', () => {
    const table = powerTable(rising);
    expect(table).toHaveLength(128);
    expect(table[0]).toBe(0);
    expect(table[1]).toBeCloseTo(powerOf(-50), 12);
    expect(table[64]).toBeCloseTo(powerOf(-35), 12);
    expect(table[127]).toBeCloseTo(powerOf(-20), 12);
    expect(powerTable(rising)).toBe(table);
    expect(powerTable(flat)).not.toBe(table);
  });

  it('is held below what was measured, and met where it was', () => {
    const three: Response = [
      { velocity: 20, loudness: -40 },
      { velocity: 60, loudness: -30 },
      { velocity: 100, loudness: -10 },
    ];
    expect([1, 20, 40, 60, 80, 100, 127].map((v) => loudnessAt(three, v))).toEqual([
      -40, -40, -35, -30, -20, -10, -10,
    ]);
  });

  it('of a colour that is not measured is that of the sound as it was made; of neither, none', () => {
    const [one, other] = compiled([
      layer('a', { soundId: 'flat', tone: { low: 3, high: 0 } }),
      layer('b', { soundId: 'unknown' }),
    ]).layers;
    expect(responseOf(one, responses)).toBe(flat);
    expect(responseOf(other, responses)).toBeUndefined();
  });
});

describe('the sum at a key', () => {
  it('is the same alone as beside its layers, and counts level, fade and touch', () => {
    const patch = compiled([
      layer('a', { soundId: 'flat', level: -6, velocities: velocities(20, 90, 30) }),
      layer('b', { soundId: 'rising', level: 3, keys: keys(60, 80, 5) }),
      layer('c', { soundId: 'unknown', level: 0 }),
    ]);
    const line = plumbLine(patch, responses, 0, 1, 62);
    expect(summedLoudness(patch, responses, { device: 0, channel: 1, key: 62 })).toEqual(line.sum);
    expect(line.key).toBe(62);
    const [a, b, c] = line.layers.map(({ loudness }) => loudness);
    const gainOf = (gain: number) => 20 * Math.log10(gain);
    expect(a[18]).toBe(-Infinity);
    expect(a[90]).toBe(-Infinity);
    expect(a[29]).toBeCloseTo(-26 + gainOf(patch.layers[0].velocityGain[30]), 6);
    expect(a[89]).toBeCloseTo(-26, 6);
    expect(b[126]).toBeCloseTo(-17 + gainOf(patch.layers[1].keyGain[62]), 6);
    expect(c.every((loudness) => loudness === -Infinity)).toBe(true);
  });

  it('is silent where a layer is muted, or listens elsewhere', () => {
    const elsewhere: Parameters<typeof layer>[1][] = [
      { muted: true },
      { keyboards: ['keys2'] },
      { channel: 5 },
    ];
    for (const changes of elsewhere) {
      const patch = compiled([layer('a', { soundId: 'flat', level: 0, ...changes })]);
      const { sum } = plumbLine(patch, responses, 0, 1, 62);
      expect(sum.every((loudness) => loudness === -Infinity)).toBe(true);
    }
  });
});

describe('a patch as a whole', () => {
  it('is as loud as the mean of all that is answered, muted or not', () => {
    const whole = (...layers: Parameters<typeof layer>[]) =>
      wholeLoudness(
        compiled(layers.map(([id, changes]) => layer(id, { level: 0, ...changes }))),
        responses,
        keysFrom(60, 79),
      );
    expect(whole(['a', { soundId: 'flat' }])).toBeCloseTo(-20, 6);
    expect(whole(['a', { soundId: 'flat', level: -5 }])).toBeCloseTo(-25, 6);
    const fading = { soundId: 'flat', keys: keys(60, 79, 20) };
    const { keyGain } = compiled([layer('a', fading)]).layers[0];
    const powers = keysFrom(60, 79).map(({ key }) => keyGain[key] ** 2);
    const mean = powers.reduce((sum, power) => sum + power, 0) / powers.length;
    expect(whole(['a', fading])).toBeCloseTo(-20 + 10 * Math.log10(mean), 6);
    // Half of the keys: those that nobody answers are not counted.
    expect(whole(['a', { soundId: 'flat', keys: keys(60, 69) }])).toBeCloseTo(-20, 6);
    const halves = [
      ['a', { soundId: 'flat', keys: keys(60, 69) }],
      ['b', { soundId: 'flat', keys: keys(70, 79) }],
    ] as const;
    expect(whole([...halves[0]], [...halves[1]])).toBeCloseTo(-20, 6);
    // What is muted is answered and silent: half as loud.
    expect(whole([...halves[0]], ['b', { ...halves[1][1], muted: true }])).toBeCloseTo(-23.01, 2);
    expect(whole(['a', { soundId: 'flat' }], ['b', { soundId: 'flat' }])).toBeCloseTo(-16.99, 2);
    // One third of the velocities that are listened to.
    expect(
      whole(
        ['a', { soundId: 'flat' }],
        ['b', { soundId: 'flat', velocities: velocities(100, 127) }],
      ),
    ).toBeCloseTo(-20 + 10 * Math.log10(4 / 3), 6);
    expect(whole(['a', { soundId: 'unknown' }])).toBe(-Infinity);
    expect(whole()).toBe(-Infinity);
  });

  it('has three strengths that hold levels within what levels can be', () => {
    const made = (level: number) =>
      threeStrengths(
        compiled([
          layer('a', { soundId: 'flat', level: 0 }),
          layer('quiet', { soundId: 'unknown', level }),
          layer('mute', { soundId: 'flat', level: -7, muted: true }),
        ]),
        responses,
        keysFrom(60, 79),
      );
    expect(made(-55)?.map(({ name, balance }) => [name, balance])).toEqual([
      [
        'low',
        {
          a: { level: -9, muted: false },
          quiet: { level: -60, muted: false },
          mute: { level: -7, muted: true },
        },
      ],
      [
        'middle',
        {
          a: { level: -4, muted: false },
          quiet: { level: -59, muted: false },
          mute: { level: -7, muted: true },
        },
      ],
      [
        'full',
        {
          a: { level: 0, muted: false },
          quiet: { level: -55, muted: false },
          mute: { level: -7, muted: true },
        },
      ],
    ]);
  });

  it('is thinned by the loudest first, never below its mark', () => {
    const strengths = threeStrengths(
      compiled([
        layer('a', { soundId: 'flat', level: 0 }),
        layer('b', { soundId: 'flat', level: -3 }),
        layer('c', { soundId: 'flat', level: -12 }),
      ]),
      responses,
      keysFrom(60, 79),
    );
    const heard = strengths?.map(({ balance }) =>
      Object.entries(balance).map(([, { level, muted }]) => (muted ? 'out' : level)),
    );
    // Without the loudest 4.4 dB are gone, without both far more than nine.
    const power = (...levels: number[]) => levels.reduce((all, l) => all + 10 ** (l / 10), 0);
    const gone = 10 * Math.log10(power(0, -3, -12) / power(-3, -12));
    expect(gone).toBeGreaterThan(4);
    const turned = Math.round(10 * (gone - 9)) / 10;
    expect(heard?.[0]).toEqual(['out', -3 + turned, -12 + turned]);
    expect(heard?.[1]).toEqual([-4, -7, -16]);
    expect(heard?.[2]).toEqual([0, -3, -12]);
  });
});
