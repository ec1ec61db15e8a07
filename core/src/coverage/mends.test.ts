import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Layer } from '../model/patch/layer.js';
import { patchSchema, type Patch } from '../model/patch/patch.js';
import type { Sound } from '../model/library/sound.js';
import { compilePatch, compileRig } from '../routing/compile.js';
import {
  anyLayers,
  demoRig,
  keyboard,
  keys,
  layer,
  patchOf,
  velocities,
} from '../testing/fixtures.js';
import { devices as wholeStage } from '../testing/small-show.js';
import { crossfading, lookAt, mendOf, provenMendOf, withMend } from './mends.js';
import { movingSplit, type RangeChanges } from './moving-split.js';
import type { Remark } from './remark.js';
import { remarks } from './remarks.js';

const response = (...points: [velocity: number, loudness: number][]) =>
  points.map(([velocity, loudness]) => ({ velocity, loudness }));
const responses = new Map([
  ['library-loud', response([1, -38], [127, -8])],
  ['library-plain', response([1, -50], [127, -20])],
  ['library-leaping', response([1, -50], [80, -50], [81, -20], [127, -20])],
  ['library-dipping', response([1, -20], [80, -20], [81, -40], [127, -40])],
]);
const bass: Sound = {
  ...{ id: 'library-bass', name: 'Bass', category: 'basses', tags: [], favourite: false },
  ...{ origin: { kind: 'house', recipe: 'bass' }, lowestNote: 28, highestNote: 60 },
};
const remarksOf = (patch: Patch, devices = demoRig): Remark[] =>
  remarks(compilePatch(patch, { rig: compileRig(devices), songShift: 0 }), {
    ...{ devices, sounds: new Map([[bass.id, bass]]), middleC: 4 as const, responses },
  });
const upper = (id: string, changes: Partial<Layer> = {}) =>
  layer(id, { soundId: 'unmeasured', keyboards: ['keys1'], level: 0, ...changes });
const said = (...layers: Layer[]) => remarksOf(patchOf(layers));
const alarms = (all: readonly Remark[]) => all.filter(({ weight }) => weight === 'alarm').length;
/** The remark of a kind, and its mend. */
const mendingOf = (kind: Remark['kind'], ...layers: Layer[]) => {
  const patch = patchOf(layers);
  const remark = remarksOf(patch).find((r) => r.kind === kind);
  if (!remark) throw new Error(`nothing is said of ${kind}`);
  return mendOf(remark, patch, demoRig);
};

describe('a mend that is offered', () => {
  it('takes its remark away, raises no alarm, and can be saved, whatever the patch', () => {
    const sounds = ['loud', 'plain', 'bass'];
    let proven = 0;
    fc.assert(
      fc.property(anyLayers, fc.nat(100), (layers, which) => {
        const patch = patchOf(
          layers.slice(0, 4).map((l, i) => ({ ...l, level: 0, soundId: sounds[i % 3] })),
        );
        const before = remarksOf(patch);
        const remark = before.at(which % Math.max(1, before.length));
        if (!remark) return;
        expect(lookAt(remark)).toMatch(/^(look|give) /);
        const mend = provenMendOf(remark, patch, demoRig, before, (p) => remarksOf(p));
        const good = (one: typeof mend) => {
          if (!one) return false;
          const mended = withMend(patch, one);
          const after = remarksOf(mended);
          return (
            patchSchema.safeParse(mended).success &&
            after.every(({ id }) => id !== remark.id) &&
            alarms(after) <= alarms(before)
          );
        };
        // The first idea is taken where it is good; what is offered instead is good too.
        const first = mendOf(remark, patch, demoRig);
        if (good(first)) expect(mend).toEqual(first);
        if (mend) expect(good(mend)).toBe(true);
        if (mend) proven++;
      }),
    );
    expect(proven).toBeGreaterThan(5);
  });

  it('is the second best where the first would raise an alarm', () => {
    // An octave lower suits the bass on the upper keys, and leaves MIDI on the lower ones.
    const devices = [
      keyboard('upper', { lowestKey: 44, highestKey: 60 }),
      keyboard('lower', { lowestKey: 0, highestKey: 10 }),
    ];
    const patch = patchOf([layer('a', { soundId: 'bass', transpose: 6 }), layer('b')]);
    const before = remarksOf(patch, devices);
    const remark = before.find(({ id }) => id === 'outsideNaturalRange upper a');
    if (!remark) throw new Error('nothing is said of the upper keys');
    expect(mendOf(remark, patch, devices)?.words).toBe('sound an octave lower');
    const offered = provenMendOf(remark, patch, devices, before, (p) => remarksOf(p, devices));
    expect(offered).toEqual({
      patchId: patch.id,
      words: 'keep to those keys',
      changes: { a: { keys: keys(44, 54) } },
    });
    const nothing = provenMendOf(remark, patch, devices, before, () => before);
    expect(nothing).toBeNull();
  });
});

describe('what is said', () => {
  it('comes with the alarms first, and says where, and of whom', () => {
    const found = said(
      upper('a', { muted: true, soundId: 'other' }),
      upper('b', { keys: keys(20, 110) }),
      upper('c', { keys: keys(28, 103), velocities: velocities(90, 127), transpose: 30 }),
    );
    expect(found.map(({ kind, weight, layerIds }) => [kind, weight, ...layerIds])).toEqual([
      ['outsideMidi', 'alarm', 'c'],
      ['beyondKeyboard', 'note', 'b'],
      ['neverHeard', 'note', 'a'],
    ]);
    expect(found[0]).toMatchObject({
      where: { keys: { low: 28, high: 103 }, velocities: { low: 90, high: 127 } },
      keys: { low: 28, high: 97 },
    });
    expect(found[0].octaves).toBe(-12);
    expect(found[1].where).toEqual({
      keys: { low: 20, high: 110 },
      velocities: { low: 1, high: 127 },
    });
  });

  it('is the same with pads and pedals on the stage', () => {
    const keyboards = wholeStage.filter(({ kind }) => kind === 'keyboard');
    expect(keyboards.length).toBeLessThan(wholeStage.length);
    const patch = patchOf([
      layer('a', { keys: keys(0, 40) }),
      layer('b', { keys: keys(50, 60), channel: 7 }),
    ]);
    expect(remarksOf(patch, wholeStage)).toEqual(remarksOf(patch, keyboards));
  });

  it('names layers in their order, whichever meet first', () => {
    const same = (id: string, low: number, high: number) =>
      upper(id, { soundId: 'same', keys: keys(low, high) });
    expect(said(same('a', 60, 127), same('b', 0, 127), same('c', 0, 72))[0].text).toBe(
      'A, B and C play the same sound on E1–G7',
    );
  });

  it('knows a natural range to the key', () => {
    const one = (low: number, high: number, transpose = 0) =>
      said(upper('all'), upper('b', { soundId: 'bass', keys: keys(low, high), transpose }));
    expect(one(28, 60)).toEqual([]);
    expect(one(40, 72, -12)).toEqual([]);
    expect(one(40, 61)[0]).toMatchObject({ keys: { low: 40, high: 60 }, octaves: -12 });
    expect(one(40, 72, -13)[0]).toMatchObject({ keys: { low: 41, high: 72 } });
    expect(one(28, 60, 12)[0]).toMatchObject({ octaves: -12 });
    expect(one(28, 60, -12)[0]).toMatchObject({ octaves: 12 });
    // As wide as the range, and off by half an octave.
    expect(one(34, 66)[0].octaves).toBeUndefined();
    expect(one(28, 103)[0].octaves).toBeUndefined();
  });

  it.each<[Partial<Layer>, why: string, mend: string | undefined]>([
    [
      { keyboards: ['keys9'] },
      'no keyboard of the rig is one it listens to',
      'let it hear any keyboard',
    ],
    [{ channel: 7 }, 'no keyboard it listens to sends on channel 7', 'let it hear any channel'],
    [{ muted: true }, 'it is muted', 'unmute it'],
    [{ level: -60 }, 'its level is at silence', 'bring it up'],
    [
      { velocities: velocities(1, 60), touch: { ...layer('x').touch, inLow: 77, below: 'silent' } },
      'its touch is silent below 77, and it answers up to 60',
      'give it an even touch',
    ],
    [{ keys: keys(110, 120) }, 'its keys lie on no keyboard', undefined],
    [{ keys: keys(28, 40), transpose: -60 }, 'all it would sound lies outside MIDI', undefined],
  ])('of a layer that is never heard: %j', (changes, words, mend) => {
    const never = (patch: Patch) => remarksOf(patch).filter(({ kind }) => kind === 'neverHeard');
    const patch = patchOf([upper('a', changes)]);
    const found = never(patch);
    expect(found.map(({ text }) => text)).toEqual([`A is never heard: ${words}`]);
    expect(found[0].weight).toBe(words.includes('muted') ? 'note' : 'alarm');
    const offered = mendOf(found[0], patch, demoRig);
    expect(offered?.words).toBe(mend);
    if (offered) expect(never(withMend(patch, offered))).toEqual([]);
  });

  it('of a layer whose strengths its keyboard’s touch never reaches is mended by its strengths', () => {
    const soft = [keyboard('upper', { touch: { ...layer('x').touch, outHigh: 90 } })];
    const patch = patchOf([layer('hard', { velocities: velocities(100, 127) })]);
    const found = remarksOf(patch, soft).filter(({ kind }) => kind === 'neverHeard');
    expect(found.map(({ text }) => text)).toEqual([
      'A is never heard: no keyboard it listens to plays as it answers, from 100 to 127',
    ]);
    const mend = mendOf(found[0], patch, soft);
    expect(mend?.changes.hard.velocities).toMatchObject({ low: 1, high: 127 });
  });

  it('is nothing of a layer that one keyboard of two can play', () => {
    const soft = { ...layer('x').touch, outHigh: 90 };
    const devices = [keyboard('upper', { touch: soft }), keyboard('lower')];
    const never = (patch: Patch) =>
      remarksOf(patch, devices).filter(({ kind }) => kind === 'neverHeard');
    const hardest = patchOf([layer('a', { velocities: velocities(127, 127) })]);
    expect(never(hardest)).toEqual([]);
    expect(never(patchOf([layer('a', { keys: keys(102, 110), transpose: -60 })]))).toEqual([]);
  });

  it('of loudness names those that sound where it steps, and no other', () => {
    const texts = (...layers: Layer[]) => said(...layers).map(({ text }) => text);
    const dip = [
      upper('a', { soundId: 'loud', velocities: velocities(1, 79) }),
      upper('b', { soundId: 'plain', velocities: velocities(80, 127) }),
    ];
    const soft = { soundId: 'plain', transpose: 12, level: -50 };
    const [found] = said(...dip, upper('c', { ...soft, velocities: velocities(1, 20) }));
    expect(found.text).toMatch(/^A and B dip/);
    expect(found).toMatchObject({
      where: { keys: { low: 28, high: 103 }, velocities: { low: 79, high: 80 } },
      layerIds: ['a', 'b'],
    });
    expect(texts(...dip, upper('c', soft))[0]).toMatch(/^A, B and C dip/);
    expect(texts(upper('a', { soundId: 'leaping' }))[0]).toMatch(
      /^A leaps 30\.0 dB near (79|8\d)$/,
    );
    expect(texts(upper('a', { soundId: 'dipping' }))[0]).toMatch(/^A dips 20\.0 dB near (79|8\d)$/);
  });

  it('of a split is which side is louder, unless a layer lies on both', () => {
    const left = upper('a', { soundId: 'loud', keys: keys(0, 59) });
    const right = upper('b', { soundId: 'plain', keys: keys(60, 127) });
    const [found] = said(left, right);
    expect(found.text).toBe('split at C4: the left is 12.0 dB louder');
    expect(found.where).toEqual({
      keys: { low: 59, high: 60 },
      velocities: { low: 80, high: 80 },
    });
    expect(said({ ...left, keys: keys(0, 127) }, right)).toEqual([]);
    const thin = upper('c', { soundId: 'plain', level: -50, transpose: 12 });
    expect(said(left, right, thin)).toEqual([]);
  });
});

describe('what a click changes', () => {
  const [loud, plain] = [
    upper('loud', { soundId: 'loud', keys: keys(0, 59) }),
    upper('plain', { soundId: 'plain', keys: keys(60, 127) }),
  ];

  it('is the level of both sides of a split, as far as levels go', () => {
    const other = upper('other', { keys: keys(40, 50), keyboards: ['keys2'], level: -30 });
    expect(mendingOf('unbalancedSplit', loud, plain, other)?.changes).toEqual({
      loud: { level: -6 },
      plain: { level: 6 },
    });
    const at = (level: number) =>
      mendingOf('unbalancedSplit', { ...loud, level }, { ...plain, level })?.changes.plain.level;
    expect([at(6), at(6.1), at(-54), at(-54.1)]).toEqual([12, undefined, -48, undefined]);
  });

  it('is where a layer ends: at its keyboard, the larger of two, and at the end of MIDI', () => {
    const lower = upper('a', { keyboards: ['keys2'], keys: keys(30, 127, 0, 40) });
    const trimmed = mendingOf('beyondKeyboard', lower);
    expect([trimmed?.words, trimmed?.changes.a.keys]).toEqual([
      ...['end at the keyboard', keys(36, 96, 0, 40)],
    ]);
    const both = { keyboards: 'any', keys: keys(20, 110) } as const;
    expect(said(upper('a', both))[0].text).toBe('A reaches beyond its keyboards: A♭0–D8');
    expect(mendingOf('beyondKeyboard', upper('a', both))?.changes.a.keys).toMatchObject({
      ...{ low: 28, high: 103 },
    });
    const within = said(upper('a', { ...both, keys: keys(30, 100) }));
    expect(within.filter(({ kind }) => kind === 'beyondKeyboard')).toEqual([]);
    // A keyboard that is shifted beyond MIDI.
    const shifted = [keyboard('upper', { octaveShift: 3 })];
    const mended = (changes: Partial<Layer>) => {
      const patch = patchOf([upper('low', changes)]);
      const [silent] = remarksOf(patch, shifted);
      expect(silent.kind).toBe('silentKeys');
      return mendOf(silent, patch, shifted)?.changes;
    };
    expect(mended({ keys: keys(0, 100) })).toMatchObject({ low: { keys: { high: 127 } } });
    expect(mended({})).toBeUndefined();
  });

  it('is a transposition of at most five octaves', () => {
    const at = (transpose: number, low: number) =>
      mendingOf(
        'outsideNaturalRange',
        upper('a', { soundId: 'bass', keys: keys(low, low + 10), transpose }),
      )?.changes.a;
    expect(at(-60, 80)).toEqual({ transpose: -48 });
    expect(at(55, 28)).toEqual({ transpose: 19 });
    expect(at(60, 36)).toEqual({ transpose: 12 });
    const low = upper('a', { soundId: 'bass', keys: keys(36, 54), transpose: -24 });
    expect(mendingOf('outsideNaturalRange', low)?.words).toBe('sound two octaves higher');
  });

  it('is a crossfade where two lie side by side and do not fade yet', () => {
    const pair = (low: number, high: number, fadeIn = 0, fadeOut = 0) => [
      upper('hard', { velocities: velocities(low, 127, fadeIn) }),
      upper('soft', { velocities: velocities(1, high, 0, fadeOut) }),
    ];
    const changed = (layers: Layer[]) => crossfading(layers, 'velocities')?.changes;
    const both = {
      soft: { velocities: velocities(1, 80, 0, 20) },
      hard: { velocities: velocities(61, 127, 20) },
    };
    expect(changed(pair(61, 80))).toEqual(both);
    expect(changed(pair(61, 80, 20))).toEqual(both);
    expect(changed(pair(61, 80, 0, 20))).toEqual(both);
    expect(changed(pair(61, 80, 20, 20))).toBeUndefined();
    expect(changed(pair(81, 80))).toBeUndefined();
    expect(changed(pair(1, 80))).toBeUndefined();
    expect(changed(pair(61, 127))).toBeUndefined();
    expect(changed([...pair(61, 80), upper('third')])).toBeUndefined();
    expect(changed(pair(61, 80).slice(1))).toBeUndefined();
  });

  it('is a crossfade behind a leap, which is gone with it', () => {
    const leaping = [
      upper('a', { soundId: 'plain', velocities: velocities(1, 95) }),
      upper('b', { soundId: 'loud', velocities: velocities(60, 127) }),
    ];
    const mend = mendingOf('leap', ...leaping);
    expect(mend?.words).toBe('crossfade them');
    const after = mend ? remarksOf(withMend(patchOf(leaping), mend)) : [];
    expect(after.filter(({ kind }) => kind === 'leap')).toEqual([]);
  });

  it('is the overlap of the same sound, whichever layer is the lower', () => {
    const same = (id: string, low: number, high: number) =>
      upper(id, { soundId: 'same', keys: keys(low, high) });
    expect(mendingOf('sameSoundTwice', same('b', 61, 103), same('a', 28, 70))?.changes).toEqual({
      a: { keys: keys(28, 65) },
      b: { keys: keys(66, 103) },
    });
    expect(mendingOf('sameSoundTwice', same('b', 28, 103), same('a', 28, 70))).toBeNull();
    expect(mendingOf('sameSoundTwice', same('b', 61, 103), same('a', 28, 103))).toBeNull();
    const third = same('c', 50, 103);
    expect(mendingOf('sameSoundTwice', same('b', 61, 103), same('a', 28, 70), third)).toBeNull();
  });

  it('is the ends of those beside silent keys that are heard there, and of no other', () => {
    const changes = mendingOf(
      'silentKeys',
      upper('a', { keys: keys(28, 54) }),
      upper('muted', { keys: keys(0, 54), muted: true }),
      upper('lower', { keys: keys(0, 54), keyboards: ['keys2'] }),
      upper('b', { keys: keys(57, 103) }),
    )?.changes;
    expect(Object.keys(changes ?? {})).toEqual(['a', 'b']);
    const strengths = mendingOf(
      'silentStrengths',
      upper('a', { keys: keys(28, 60), velocities: velocities(20, 127) }),
      upper('b', { keys: keys(61, 103) }),
      upper('c', { keys: keys(61, 70), velocities: velocities(20, 127) }),
    );
    expect(strengths?.changes).toEqual({ a: { velocities: velocities(1, 127) } });
  });

  it('moves a split across small gaps, of layers that share a keyboard and strengths', () => {
    const move = (layers: Layer[], id: string, axis: 'keys' | 'velocities' = 'keys') =>
      Object.keys(movingSplit(patchOf(layers), id, 1, { axis }) ?? {});
    const left = upper('left', { keys: keys(28, 59) });
    const from = (low: number, more: Partial<Layer> = {}) =>
      upper(`from ${low}`, { keys: keys(low, 103), ...more });
    expect(move([left, from(63)], 'left')).toEqual(['left', 'from 63']);
    expect(move([left, from(64)], 'left')).toEqual([]);
    expect(move([left, from(28)], 'left')).toEqual([]);
    expect(move([left, from(40, { keys: keys(40, 59) })], 'left')).toEqual([]);
    expect(move([left, from(60, { keyboards: 'any' })], 'left')).toEqual(['left', 'from 60']);
    expect(move([left, from(60, { keyboards: ['keys2', 'keys1'] })], 'left')).toHaveLength(2);
    const both = { ...left, keyboards: ['keys2', 'keys1'] as Layer['keyboards'] };
    expect(move([both, from(60)], 'left')).toHaveLength(2);
    expect(move([{ ...left, keyboards: 'any' }, from(60)], 'left')).toHaveLength(2);
    const soft = { ...left, velocities: velocities(1, 60) };
    expect(move([soft, from(60, { velocities: velocities(61, 127) })], 'left')).toHaveLength(2);
    const hard = from(28, { keys: keys(28, 59), velocities: velocities(61, 127) });
    expect(move([soft, hard], 'left', 'velocities')).toEqual(['left', 'from 28']);
  });
});

describe('moving a split', () => {
  const split = patchOf([
    upper('left', { keys: keys(28, 59) }),
    upper('right', { keys: keys(60, 103, 12) }),
    upper('pad', { keys: keys(60, 103) }),
    layer('elsewhere', { keyboards: ['keys2'], keys: keys(60, 96) }),
  ]);
  const limits = (changes: RangeChanges | null) =>
    Object.entries(changes ?? {}).map(([id, { keys: k }]) => [id, k?.low, k?.high]);

  it('moves every layer at the boundary, from either side, and no other', () => {
    const expected = [
      ['left', 28, 61],
      ['right', 62, 103],
      ['pad', 62, 103],
    ];
    expect(limits(movingSplit(split, 'left', 2))).toEqual(expected);
    expect(limits(movingSplit(split, 'right', 2))).toEqual(expected.slice(0, 2));
  });

  it('moves only the side that is asked for, and strengths as well as keys', () => {
    expect(limits(movingSplit(split, 'right', -3, { side: 'low' }))).toEqual([
      ['left', 28, 56],
      ['right', 57, 103],
    ]);
    expect(movingSplit(split, 'right', -3, { side: 'high' })).toBeNull();
    const strengths = [
      upper('soft', { velocities: velocities(1, 80), keys: keys(28, 103) }),
      upper('hard', { velocities: velocities(81, 127) }),
      upper('apart', { keys: keys(120, 127), velocities: velocities(81, 127) }),
    ];
    expect(movingSplit(patchOf(strengths), 'soft', 4, { axis: 'velocities' })).toEqual({
      soft: { velocities: velocities(1, 84) },
      hard: { velocities: velocities(85, 127) },
    });
  });

  it('stops where a layer would have no key left, and does nothing without a neighbour', () => {
    expect(limits(movingSplit(split, 'left', -100))[0]).toEqual(['left', 28, 28]);
    expect(movingSplit(split, 'elsewhere', 1)).toBeNull();
    expect(movingSplit(split, 'gone', 1)).toBeNull();
  });
});
