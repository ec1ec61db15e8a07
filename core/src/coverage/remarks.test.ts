import { describe, expect, it } from 'vitest';
import type { Layer } from '../model/patch/layer.js';
import type { Sound } from '../model/library/sound.js';
import { newChooser } from '../model/patch/chooser.js';
import { compilePatch, compileRig, withPicks } from '../routing/compile.js';
import { compiled, demoRig, keys, layer, patchOf, velocities } from '../testing/fixtures.js';
import { remarks } from './remarks.js';

const bass: Sound = {
  id: 'library-sound-bass',
  name: 'Round upright bass',
  category: 'basses',
  tags: [],
  favourite: false,
  origin: { kind: 'house', recipe: 'round-upright-bass' },
  lowestNote: 28,
  highestNote: 60,
};
const say = (layers: Layer[], songShift = 0) =>
  remarks(compiled(layers, { songShift }), {
    devices: demoRig,
    sounds: new Map([[bass.id, bass]]),
    middleC: 4,
  }).map((remark) => remark.text);
const onUpper = { keyboards: ['keys1'] satisfies Layer['keyboards'] };

describe('remarks', () => {
  it('says nothing about a whole, simple patch', () => {
    expect(say([layer('all')])).toEqual([]);
    expect(say([])).toEqual([]);
  });

  it('names silent keys and silent velocities', () => {
    const left = layer('left', { ...onUpper, keys: keys(0, 54) });
    const soft = layer('soft', { ...onUpper, keys: keys(57, 127), velocities: velocities(1, 60) });
    const hard = layer('hard', {
      ...onUpper,
      keys: keys(56, 127),
      velocities: velocities(62, 127),
    });
    expect(say([left, soft, hard])).toEqual([
      '1 silent key: G3',
      'silent velocities 1–61 on A♭3',
      'silent velocity 61 on A3–G7',
    ]);
    const [silent] = remarks(compiled([left]), { devices: demoRig, sounds: new Map(), middleC: 4 });
    expect(silent.layerIds).toEqual([]);
  });

  it('notices the same sound twice on one spot, but not at another octave', () => {
    const a = layer('a', { ...onUpper, soundId: 'one' });
    const b = layer('b', { ...onUpper, soundId: 'one', keys: keys(60, 127) });
    expect(say([a, b])).toEqual(['A and B play the same sound on C4–G7']);
    expect(say([a, { ...b, transpose: 12 }])).toEqual([]);
    const c = layer('c', { ...onUpper, soundId: 'one', keys: keys(72, 127) });
    expect(say([a, b, c])).toEqual(['A, B and C play the same sound on C4–G7']);
  });

  it('notices two programs on one channel of a module', () => {
    const outside = (channel: number, program: number): Sound => ({
      ...{ id: 'x', name: 'x', category: 'outside', tags: [], favourite: false },
      origin: { kind: 'outside', place: 'module1', bank: null, channel, program },
      ...{ lowestNote: 0, highestNote: 127 },
    });
    const said = (second: Sound, changes = {}) =>
      remarks(compiled([layer('a'), layer('b', { transpose: 12, ...changes })]), {
        devices: demoRig,
        sounds: new Map([
          ['library-sound-a', outside(3, 7)],
          ['library-sound-b', second],
        ]),
        middleC: 4,
      }).filter(({ kind }) => kind === 'twoPrograms');
    expect(said(outside(3, 8)).map(({ text }) => text)).toEqual([
      'A and B want two programs on channel 3 of module 1: it plays one',
    ]);
    expect(said(outside(3, 8))[0].layerIds).toEqual(['b', 'a']);
    expect([
      said(outside(3, 7)),
      said(outside(4, 8)),
      said(outside(3, 8), { muted: true }),
    ]).toEqual([[], [], []]);
  });

  it('compares programs with the first one asked for, and passes over what no module plays', () => {
    const outside = (place: 'module1' | null, program: number): Sound => ({
      ...{ id: 'x', name: 'x', category: 'outside', tags: [], favourite: false },
      origin: { kind: 'outside', place, bank: null, channel: 3, program },
      ...{ lowestNote: 0, highestNote: 127 },
    });
    const said = (...programs: [place: 'module1' | null, program: number][]) => {
      const layers = programs.map((_, i) => layer(`layer-${i}`, { soundId: `${i}` }));
      const sounds = new Map(programs.map((p, i) => [`library-${i}`, outside(...p)]));
      return remarks(compiled(layers), { devices: demoRig, sounds, middleC: 4 })
        .filter(({ kind }) => kind === 'twoPrograms')
        .map(({ layerIds }) => layerIds.join(' '));
    };
    expect(said(['module1', 1], ['module1', 2], ['module1', 1])).toEqual(['layer-1 layer-0']);
    expect(said(['module1', 1], ['module1', 2], ['module1', 2])).toEqual([
      'layer-1 layer-0',
      'layer-2 layer-0',
    ]);
    expect(said([null, 1], [null, 2])).toEqual([]);
  });

  it('notices that a layer reaches beyond the upper end alone', () => {
    const whole = layer('all', onUpper);
    expect(say([whole, layer('high', { ...onUpper, keys: keys(90, 110) })])).toEqual([
      'B reaches beyond Upper keys: F♯6–D8',
    ]);
  });

  it('notices keys the keyboard lacks, notes outside MIDI and outside the natural range', () => {
    const whole = layer('all', onUpper);
    expect(say([whole, layer('low', { ...onUpper, keys: keys(20, 40) })])).toEqual([
      'B reaches beyond Upper keys: A♭0–E2',
    ]);
    expect(say([layer('high', { ...onUpper, transpose: 36 })])).toEqual([
      '12 silent keys: A♭6–G7',
      'A would sound outside the MIDI notes on some of its keys',
    ]);
    expect(say([whole, layer('bass', { ...onUpper, keys: keys(28, 54), transpose: -12 })])).toEqual(
      ['B sounds E0–F♯2; Round upright bass was made for E1–C4'],
    );
  });
});

it('judges what choosers pick as patches of their own, and says with which', () => {
  const low = layer('low', { ...onUpper, keys: keys(0, 60) });
  const high = layer('high', { ...onUpper, keys: keys(61, 127) });
  const half = layer('half', { ...onUpper, keys: keys(70, 127) });
  const patch = {
    ...patchOf([low, high, half]),
    choosers: [newChooser('c', 'Hand', [high, half])],
  };
  const made = compilePatch(patch, { rig: compileRig(demoRig), songShift: 0 });
  const settings = { devices: demoRig, sounds: new Map<string, Sound>(), middleC: 4 as const };
  expect(remarks(made, settings).map(({ text }) => text)).toEqual([
    '9 silent keys: C♯4–A4, with “half” picked',
  ]);
  const other = withPicks(made, () => 1);
  expect(other.layers.map(({ isChosen }) => isChosen)).toEqual([true, false, true]);
  expect(withPicks(made, () => 0)).toBe(made);
});
