import { describe, expect, it } from 'vitest';
import type { Layer } from '../model/patch/layer.js';
import type { Patch } from '../model/patch/patch.js';
import { compilePatch, compileRig } from '../routing/compile.js';
import { demoRig, keyboard, keys, layer, patchOf, velocities } from '../testing/fixtures.js';
import { mendOf, type LayerChanges } from './mends.js';
import { movingSplit, type RangeChanges } from './moving-split.js';
import { remarks } from './remarks.js';

const rig = compileRig(demoRig);
const response = (loudest: number) => [
  { velocity: 1, loudness: loudest - 30 },
  { velocity: 127, loudness: loudest },
];
const responses = new Map([
  ['library-sound-a', response(-20)],
  ['library-sound-b', response(-20)],
]);
const remarksOf = (patch: Patch) =>
  remarks(compilePatch(patch, { rig, songShift: 0 }), {
    devices: demoRig,
    sounds: new Map(),
    middleC: 4,
    responses,
  });
const mended = (patch: Patch, changes: LayerChanges): Patch => ({
  ...patch,
  layers: patch.layers.map((l) => ({ ...l, ...changes[l.id] })),
});
const upper = (id: string, changes: Partial<Layer>) =>
  layer(id, { keyboards: ['keys1'], level: 0, ...changes });

describe('a layer that is never heard', () => {
  it.each<[string, Partial<Layer>, string]>([
    ['no keyboard', { keyboards: ['keys9'] }, 'let it hear any keyboard'],
    ['another channel', { channel: 7 }, 'let it hear any channel'],
    ['mute', { muted: true }, 'unmute it'],
    ['silence', { level: -60 }, 'bring it up'],
    [
      'touch',
      {
        velocities: velocities(1, 60),
        touch: { ...layer('x').touch, inLow: 77, below: 'silent' },
      },
      'give it an even touch',
    ],
  ])('is made to sound again: %s', (_why, changes, words) => {
    const patch = patchOf([layer('quiet', changes)]);
    const first = remarksOf(patch).find((remark) => remark.kind === 'neverHeard');
    const mend = first && mendOf(first, patch, demoRig);
    expect(first?.text).toMatch(/^A is never heard: /);
    expect(mend?.words).toBe(words);
    const after = remarksOf(mended(patch, mend?.changes ?? {}));
    expect(after.filter((remark) => remark.kind === 'neverHeard')).toEqual([]);
  });

  it('is told when the keyboard’s own touch never reaches its strengths', () => {
    const touch = { ...layer('x').touch, outHigh: 90 };
    const soft = [keyboard('upper', { touch })];
    const patch = patchOf([layer('hard', { velocities: velocities(100, 127) })]);
    const found = remarks(compilePatch(patch, { rig: compileRig(soft), songShift: 0 }), {
      devices: soft,
      sounds: new Map(),
      middleC: 4,
    }).find(({ kind }) => kind === 'neverHeard');
    expect(found?.text).toBe(
      'A is never heard: no keyboard it listens to plays as it answers, from 100 to 127',
    );
    const mend = found && mendOf(found, patch, soft);
    expect(mend?.changes.hard.velocities).toMatchObject({ low: 1, high: 127 });
  });

  it('says so, without a mend, where there is none that is plainly right', () => {
    const nowhere = patchOf([layer('high', { keys: keys(110, 120) })]);
    const first = remarksOf(nowhere).filter((remark) => remark.kind === 'neverHeard')[0];
    expect(first.text).toBe('A is never heard: its keys lie on no keyboard');
    expect(mendOf(first, nowhere, demoRig)).toBeNull();
    const beyond = remarksOf(patchOf([layer('x', { keys: keys(96, 103), transpose: 60 })]));
    expect(beyond.map((r) => r.text)).toContain(
      'A is never heard: all it would sound lies outside MIDI',
    );
  });
});

describe('one-click mends', () => {
  it('trim a layer to its keyboard', () => {
    const patch = patchOf([
      layer('a', { keyboards: ['keys2'], keys: keys(30, 127, 0, 40), level: 0 }),
    ]);
    const beyond = remarksOf(patch).find((remark) => remark.kind === 'beyondKeyboard');
    const mend = beyond && mendOf(beyond, patch, demoRig);
    expect(mend?.words).toBe('end at the keyboard');
    expect(mend?.changes['a'].keys).toEqual(keys(36, 96, 0, 40));
  });

  it('leave the larger of two keyboards its keys, and the remark speaks of both', () => {
    const both = patchOf([layer('a', { level: 0, keys: keys(20, 110) })]);
    const said = remarksOf(both).filter(({ kind }) => kind === 'beyondKeyboard');
    expect(said.map(({ text }) => text)).toEqual(['A reaches beyond its keyboards: A♭0–D8']);
    const mend = mendOf(said[0], both, demoRig);
    expect(mend?.changes.a.keys).toMatchObject({ low: 28, high: 103 });
    const within = patchOf([layer('a', { level: 0, keys: keys(30, 100) })]);
    expect(remarksOf(within).filter(({ kind }) => kind === 'beyondKeyboard')).toEqual([]);
  });

  it('keep to MIDI on a keyboard that is shifted beyond it, and offer nothing where there is nothing', () => {
    const shifted = [keyboard('upper', { octaveShift: 3 })];
    const said = (patch: Patch) =>
      remarks(compilePatch(patch, { rig: compileRig(shifted), songShift: 0 }), {
        devices: shifted,
        sounds: new Map(),
        middleC: 4,
      });
    const low = patchOf([upper('low', { keys: keys(0, 100) })]);
    const [silent] = said(low);
    expect(silent.kind).toBe('silentKeys');
    expect(mendOf(silent, low, shifted)?.changes).toMatchObject({ low: { keys: { high: 127 } } });
    const whole = patchOf([upper('whole', {})]);
    const [beyond] = said(whole);
    expect(beyond.kind).toBe('silentKeys');
    expect(mendOf(beyond, whole, shifted)).toBeNull();
  });

  it('turn the overlap behind a leap or a dip into a crossfade, and it is gone', () => {
    const louder = new Map([...responses, ['library-sound-b', response(-10)]]);
    const patch = patchOf([
      upper('a', { velocities: velocities(1, 95) }),
      upper('b', { velocities: velocities(60, 127) }),
    ]);
    const settings = {
      devices: demoRig,
      sounds: new Map(),
      middleC: 4 as const,
      responses: louder,
    };
    const said = (p: Patch) => remarks(compilePatch(p, { rig, songShift: 0 }), settings);
    const [first] = said(patch);
    expect(first.kind).toBe('leap');
    const mend = mendOf(first, patch, demoRig);
    expect(mend?.words).toBe('crossfade them');
    expect(said(mended(patch, mend?.changes ?? {})).filter((r) => r.kind === 'leap')).toEqual([]);
  });

  it('move by octaves into the range that a sound was made for, and into MIDI', () => {
    const bass = {
      id: 'library-sound-a',
      name: 'Bass',
      category: 'basses' as const,
      tags: [],
      favourite: false,
      origin: { kind: 'house' as const, recipe: 'bass' },
      lowestNote: 28,
      highestNote: 60,
    };
    const said = (p: Patch) =>
      remarks(compilePatch(p, { rig, songShift: -1 }), {
        devices: demoRig,
        sounds: new Map([[bass.id, bass]]),
        middleC: 4,
      });
    const mendedBy = (changes: Partial<Layer>, id: string) => {
      const patch = patchOf([upper(id, changes)]);
      const remark = said(patch).find((r) => r.octaves !== undefined);
      const mend = remark && mendOf(remark, patch, demoRig);
      return mend && [mend.words, mend.changes[id].transpose];
    };
    expect(mendedBy({ keys: keys(36, 54), transpose: -24, soundId: 'sound-a' }, 'a')).toEqual([
      'sound two octaves higher',
      0,
    ]);
    expect(mendedBy({ keys: keys(60, 80), transpose: 55 }, 'b')).toEqual([
      'sound an octave lower',
      43,
    ]);
    // Too wide for the bass at any octave: there is nothing to offer.
    expect(mendedBy({ keys: keys(28, 103), soundId: 'sound-a' }, 'a')).toBeUndefined();
  });

  it('do not pretend where nothing is plainly right', () => {
    const patch = patchOf([upper('a', {}), upper('b', { soundId: 'sound-a' })]);
    const twice = remarksOf(patch).find((r) => r.kind === 'sameSoundTwice');
    expect(twice && mendOf(twice, patch, demoRig)).toBeNull();
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
    const strengths = patchOf([
      upper('soft', { velocities: velocities(1, 80) }),
      upper('hard', { velocities: velocities(81, 127) }),
      upper('apart', { keys: keys(120, 127), velocities: velocities(81, 127) }),
    ]);
    const low = { ...strengths.layers[0], keys: keys(28, 103) };
    const moved = movingSplit(
      { ...strengths, layers: [low, ...strengths.layers.slice(1)] },
      'soft',
      4,
      {
        axis: 'velocities',
      },
    );
    expect(
      Object.entries(moved ?? {}).map(([id, { velocities: v }]) => [id, v?.low, v?.high]),
    ).toEqual([
      ['soft', 1, 84],
      ['hard', 85, 127],
    ]);
  });

  it('stops where a layer would have no key left, and does nothing without a neighbour', () => {
    expect(limits(movingSplit(split, 'left', -100))[0]).toEqual(['left', 28, 28]);
    expect(movingSplit(split, 'elsewhere', 1)).toBeNull();
    expect(movingSplit(split, 'gone', 1)).toBeNull();
  });
});
