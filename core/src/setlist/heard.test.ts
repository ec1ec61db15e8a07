import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cueSchema, newCue, type Cue } from '../model/show/cue.js';
import { newChooser } from '../model/patch/chooser.js';
import { newTreatment } from '../model/patch/treatment.js';
import { layer, patchOf } from '../testing/fixtures.js';
import { partChanges } from './balancing.js';
import { cueDifferences, taken } from './cue-differences.js';
import { heardOf, type Heard } from './heard.js';
import { withCue } from './recall.js';

const patch = {
  ...patchOf([layer('a', { level: -4 }), layer('b', { level: -9 })]),
  treatments: [newTreatment('doubling', 't', ['b'])],
};
const cue: Cue = {
  ...newCue('lift', 'song', 0, 'lift', 'patch'),
  balance: { a: { level: -20 }, gone: { level: 0 } },
  treatments: { t: false },
};
const anyHeard: fc.Arbitrary<Heard> = fc
  .record({
    level: fc.integer({ min: -60, max: 12 }),
    muted: fc.boolean(),
    lift: fc.boolean(),
    reverb: fc.integer({ min: -60, max: 0 }),
    on: fc.boolean(),
    controller: fc.option(fc.integer({ min: 0, max: 127 })),
    tempo: fc.constantFrom(100, 92),
  })
  .map(({ level, muted, lift, reverb, on, controller, tempo }) => {
    const heard = heardOf(patch, cue, 100);
    const { sends } = heard.layers['b'];
    return {
      ...heard,
      layers: { ...heard.layers, b: { level, muted, lift, sends: { ...sends, reverb } } },
      treatments: { t: on },
      controllers: controller === null ? [] : [{ controller: 20, value: controller }],
      tempo,
    };
  });

describe('what is heard against what a cue says', () => {
  it('is the same while nobody touches anything', () => {
    expect(cueDifferences(cue, patch, heardOf(patch, cue, 100), 100)).toEqual([]);
  });

  it('is told line by line, in a player’s units', () => {
    const heard = heardOf(patch, cue, 100);
    const moved: Heard = {
      ...heard,
      layers: { ...heard.layers, a: { ...heard.layers['a'], level: -2.5 } },
      treatments: { t: true },
      controllers: [{ controller: 20, value: 80 }],
      tempo: 92,
    };
    expect(cueDifferences(cue, patch, moved, 100)).toEqual([
      { layerId: 'a', what: 'level', before: '−20.0 dB', now: '−2.5 dB' },
      { layerId: 'b', what: 'doubling', before: 'off', now: 'on' },
      { layerId: null, what: 'CC 20', before: '—', now: '80' },
      { layerId: null, what: 'tempo', before: '100', now: '92' },
    ]);
    // Another patch is none of this cue's business.
    expect(cueDifferences(cue, patch, { ...moved, patchId: 'other' }, 100)).toEqual([]);
  });

  it('taken over is a cue that recalls exactly that, so that nothing differs any more', () => {
    fc.assert(
      fc.property(anyHeard, (heard) => {
        const next = { ...cue, ...taken(heard, patch, 100) };
        expect(cueSchema.safeParse(next).error).toBeUndefined();
        expect(cueDifferences(next, patch, heard, 100)).toEqual([]);
        expect(heardOf(patch, next, 100)).toEqual(heard);
      }),
    );
  });

  it('stays as it was taken when the patch is changed afterwards', () => {
    const next = { ...cue, ...taken(heardOf(patch, cue, 100), patch, 100) };
    const louder = { ...patch, layers: patch.layers.map((l) => ({ ...l, level: 0 })) };
    expect(withCue(louder, next).layers.map(({ level }) => level)).toEqual([-20, -9]);
  });
});

describe('a change made to a layer as a cue has it', () => {
  const [written] = patch.layers;
  const [shown] = withCue(patch, { ...cue, balance: { a: { level: -20, lift: true } } }).layers;

  it('is the cue’s where it is balance, and the patch’s otherwise', () => {
    expect(partChanges(shown, written, { level: -3, muted: true, pan: 0.5 })).toEqual({
      ofCue: { level: -3, muted: true },
      ofPatch: { pan: 0.5 },
    });
    const sends = { ...shown.sends, delay: -6 };
    expect(partChanges(shown, written, { sends })).toEqual({
      ofCue: { sends: { delay: -6 } },
      ofPatch: {},
    });
  });

  it('keeps the floor of a lift with the patch, and whether it is on with the cue', () => {
    expect(partChanges(shown, written, { lift: { floor: 70, on: true } })).toEqual({
      ofCue: {},
      ofPatch: { lift: { floor: 70, on: false } },
    });
    expect(partChanges(shown, written, { lift: { floor: 55, on: false } })).toEqual({
      ofCue: { lift: false },
      ofPatch: {},
    });
  });
});

describe('what a chooser has picked', () => {
  const chooser = newChooser('right', 'Right hand', patch.layers);
  const chosen = { ...patch, choosers: [chooser] };
  const picking = { ...cue, choices: { right: 1 } };

  it('is the cue’s, or as the patch is written where it says nothing or what is not there', () => {
    expect(withCue(chosen, picking).choosers[0].chosen).toBe(1);
    expect(withCue(chosen, cue).choosers[0]).toBe(chooser);
    expect(withCue(chosen, { ...cue, choices: { right: 15 } }).choosers[0]).toBe(chooser);
    expect(heardOf(chosen, picking, 100).choices).toEqual({ right: 1 });
  });

  it('is told by the names of the choices when a hand has picked another, and taken as it is', () => {
    const heard = heardOf(chosen, picking, 100);
    expect(cueDifferences(picking, chosen, heard, 100)).toEqual([]);
    const moved = { ...heard, choices: { right: 0 } };
    expect(cueDifferences(picking, chosen, moved, 100)).toEqual([
      {
        ...{ layerId: null, what: 'Right hand' },
        ...{ before: chooser.choices[1].name, now: chooser.choices[0].name },
      },
    ]);
    expect(taken(heard, chosen, 100).choices).toEqual({ right: 1 });
    // What is as it is written need not be said.
    expect(taken(moved, chosen, 100).choices).toEqual({});
  });
});

it('a tempo that is the song’s is written as none, and goes along when the song’s is changed', () => {
  const heard = heardOf(patch, { ...cue, tempo: 92 }, 100);
  expect(taken(heard, patch, 100).tempo).toBe(92);
  expect(taken({ ...heard, tempo: 100 }, patch, 100).tempo).toBeNull();
  expect(heardOf(patch, { ...cue, tempo: null }, 77).tempo).toBe(77);
});
