import { newChooser } from './patch/chooser.js';
import type { Place } from './rig/place.js';
import { newRig, NOTHING_KNOWN, rigSchema } from './rig/rig.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { keyboard, layer, patchOf } from '../testing/fixtures.js';
import {
  controlInWords,
  cutText,
  cueSchema,
  deviceSchema,
  faultSchema,
  idSchema,
  layerLetter,
  nameSchema,
  newCue,
  newLayer,
  newShow,
  newSong,
  newTreatment,
  orderEntrySchema,
  patchSchema,
  pathInWords,
  savedSchemas,
  showSchema,
  songEntry,
  songSchema,
  soundSchema,
  textSchema,
  type ShowControl,
} from './index.js';

const firstFault = (schema: { safeParse(value: unknown): unknown }, value: unknown) => {
  const result = schema.safeParse(value) as {
    success: boolean;
    error?: { issues: { path: PropertyKey[]; message: string }[] };
  };
  return result.error ? pathInWords(result.error.issues[0].path) : null;
};

describe('what counts as a patch', () => {
  it('takes a fresh layer as it is', () => {
    const patch = patchOf([newLayer('a', 'A layer', 'sound')]);
    expect(patchSchema.parse(patch)).toEqual(patch);
  });

  it.each<[string, unknown, string]>([
    ['a layer without its sound', { ...patchOf([layer('a')]), sounds: [] }, 'layers[0].soundId'],
    ['two layers of one id', patchOf([layer('a'), layer('a')]), 'layers[1].id'],
    ['an empty name', { ...patchOf([]), name: '  ' }, 'name'],
    ['a level beyond +12 dB', patchOf([layer('a', { level: 13 })]), 'layers[0].level'],
    ['a level that is no number', patchOf([layer('a', { level: NaN })]), 'layers[0].level'],
    ['channel 0', patchOf([layer('a', { channel: 0 })]), 'layers[0].channel'],
    ['half a semitone', patchOf([layer('a', { transpose: 0.5 })]), 'layers[0].transpose'],
    ['no keyboard at all', patchOf([layer('a', { keyboards: [] })]), 'layers[0].keyboards'],
    [
      'a keyboard by its device',
      patchOf([layer('a', { keyboards: ['upper'] as never })]),
      'layers[0].keyboards',
    ],
    [
      'a chooser of a layer that is not there',
      { ...patchOf([layer('a')]), choosers: [newChooser('c', 'C', [{ id: 'b', name: 'B' }])] },
      'choosers[0].choices',
    ],
    [
      'a choice that a chooser does not have',
      {
        ...patchOf([layer('a')]),
        choosers: [{ ...newChooser('c', 'C', [layer('a')]), chosen: 2 }],
      },
      'choosers[0].chosen',
    ],
    [
      'two choosers of one id',
      {
        ...patchOf([layer('a')]),
        choosers: [newChooser('c', 'C', []), newChooser('c', 'D', [])],
      },
      'choosers[1].id',
    ],
    [
      'more layers than there is room for',
      patchOf(Array.from({ length: 33 }, (_, i) => layer(`l-${i}`, { soundId: 'one' }))),
      'layers',
    ],
  ])('refuses %s and says where', (_name, patch, path) => {
    expect(firstFault(patchSchema, patch)).toBe(path);
  });

  it('letters layers beyond the alphabet', () => {
    expect([0, 7, 25, 26, 31].map(layerLetter)).toEqual(['A', 'H', 'Z', 'AA', 'AF']);
  });
});

describe('what counts as the rest', () => {
  it('refuses ids that could not stand in an address', () => {
    for (const bad of ['', 'a/b', '../x', 'a b', 'x'.repeat(65)])
      expect(idSchema.safeParse(bad).success).toBe(false);
    expect(idSchema.safeParse('9f0c-AB').success).toBe(true);
  });

  it('knows devices by their kind and takes no field of another', () => {
    expect(deviceSchema.safeParse(keyboard('upper')).success).toBe(true);
    expect(firstFault(deviceSchema, { ...keyboard('upper'), kind: 'theremin' })).toBe('kind');
    expect(deviceSchema.safeParse({ ...keyboard('upper'), padNotes: [] }).success).toBe(false);
  });

  it('keeps cues, songs, sounds, shows and order entries within their bounds', () => {
    const cue = newCue('c', 's', 0, 'intro', 'p');
    expect(firstFault(cueSchema, cue)).toBeNull();
    expect(firstFault(cueSchema, { ...cue, fadeSeconds: -1 })).toBe('fadeSeconds');
    expect(firstFault(cueSchema, { ...cue, controllers: [{ controller: 120, value: 1 }] })).toBe(
      'controllers[0].controller',
    );
    expect(firstFault(cueSchema, { ...cue, balance: { layer: { level: 99 } } })).toBe(
      'balance.layer.level',
    );
    const key = { tonic: 0, mode: 'major' };
    const song = { ...newSong('s', 'Song'), fingered: key, sounding: key };
    expect(songSchema.parse(song).fingered.spelling).toBe('usual');
    expect(firstFault(songSchema, { ...song, metre: { beats: 4, unit: 5 } })).toBe('metre.unit');
    expect(firstFault(songSchema, { ...song, tempo: 0 })).toBe('tempo');
    const sound = {
      id: 's',
      name: 'x',
      category: 'basses',
      tags: [],
      favourite: false,
      origin: { kind: 'house', recipe: 'r' },
      lowestNote: 0,
      highestNote: 1,
    };
    expect(firstFault(soundSchema, { ...sound, category: 'trumpets' })).toBe('category');
    expect(
      firstFault(soundSchema, {
        ...sound,
        origin: { kind: 'outside', place: null, bank: null, channel: 17, program: 0 },
      }),
    ).toBe('origin.channel');
    expect(
      firstFault(orderEntrySchema, { kind: 'talk', id: 'e', name: 'talk', lengthSeconds: 7201 }),
    ).toBe('lengthSeconds');
    const show = newShow('s', 'x', '2027-02-28', 'r');
    expect(firstFault(showSchema, show)).toBeNull();
    expect(firstFault(showSchema, { ...show, date: '2027-02-30' })).toBe('date');
    expect(firstFault(showSchema, { ...show, start: '24:00' })).toBe('start');
    expect(
      firstFault(showSchema, {
        ...show,
        order: [{ ...songEntry('e', 's'), tonight: { tempo: 90 } }],
      }),
    ).toBe('order[0].tonight.leftOut');
  });

  it('wraps what is saved in its revision, and nothing else', () => {
    const value = patchOf([]);
    expect(savedSchemas.patches.safeParse({ revision: 3, value }).success).toBe(true);
    expect(savedSchemas.patches.safeParse({ revision: -1, value }).success).toBe(false);
    expect(savedSchemas.patches.safeParse({ revision: 3, value, by: 'me' }).success).toBe(false);
    expect(
      faultSchema.safeParse({ error: { code: 'stale', message: 'm', present: null } }).success,
    ).toBe(true);
    expect(faultSchema.safeParse({ error: { code: 'odd', message: 'm' } }).success).toBe(false);
  });

  it('names where a control is, in a player’s words', () => {
    const pads = {
      kind: 'controlBox',
      id: 'pads',
      rigId: 's',
      position: 1,
      name: 'Pads',
      place: 'pads1',
      port: 'p',
      at: null,
      alsoAt: [],
      heardAs: null,
      settings: { known: null, wanted: {} },
      channel: 10,
      padNotes: [36, 39],
      knobControllers: [],
    } as const;
    const pedal = {
      kind: 'pedal',
      id: 'right',
      rigId: 's',
      position: 2,
      name: 'Right pedal',
      place: 'pedal3',
      port: 'p',
      at: null,
      alsoAt: [],
      channel: 1,
      controller: 80,
      action: 'switch',
    } as const;
    const devices = [
      keyboard('upper'),
      {
        ...pads,
        padNotes: [...pads.padNotes],
        knobControllers: [],
        alsoAt: [],
        settings: NOTHING_KNOWN,
      },
      { ...pedal, alsoAt: [] },
    ];
    const note = (place: Place, n: number): ShowControl => ({
      action: 'nextCue',
      place,
      message: { kind: 'note', note: n },
    });
    expect(controlInWords({ place: 'pads1', message: { kind: 'pad', pad: 1 } }, devices)).toBe(
      'pad 2',
    );
    expect(controlInWords(note('keys1', 39), devices)).toBe('Upper keys note 39');
    expect(controlInWords(note('keys9', 39), devices)).toBe('keys 9 note 39');
    expect(controlInWords({ place: 'pedal3', message: { kind: 'pedal' } }, devices)).toBe(
      'right pedal',
    );
  });
});

describe('text', () => {
  const flag = '\u{1f3b9}';

  it('is counted as one reads it, and never cut in the midst of a character', () => {
    expect(nameSchema.safeParse(flag.repeat(80)).success).toBe(true);
    expect(nameSchema.safeParse(flag.repeat(81)).success).toBe(false);
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 100 }), (text) => {
        const cut = cutText(text, 80);
        expect(cut === '' || nameSchema.safeParse(cut).success).toBe(true);
      }),
    );
    expect(cutText(` ${'x'.repeat(79)}${flag}`, 80)).toBe(`${'x'.repeat(79)}${flag}`);
  });

  it('with half a character in it is refused, wherever it stands', () => {
    const half = `x${flag[0]}`;
    expect(nameSchema.safeParse(half).success).toBe(false);
    expect(nameSchema.safeParse(flag[1]).success).toBe(false);
    expect(textSchema(500).safeParse(`${'y'.repeat(499)}${flag[0]}`).success).toBe(false);
  });
});

it('no two things of one list bear one id', () => {
  const patch = patchOf([layer('a')]);
  const [sound] = patch.sounds;
  const treatment = newTreatment('chord', 't', ['a']);
  const control = {
    ...{ id: 'c', place: 'pads1', message: { kind: 'note', note: 1 }, from: 0, to: 1 },
    target: { kind: 'treatment', treatmentId: 't' },
  };
  const whole = { ...patch, treatments: [treatment], controls: [control] };
  expect(firstFault(patchSchema, whole)).toBeNull();
  expect(firstFault(patchSchema, { ...whole, sounds: [sound, sound] })).toBe('sounds[1].id');
  expect(firstFault(patchSchema, { ...whole, treatments: [treatment, treatment] })).toBe(
    'treatments[1].id',
  );
  expect(firstFault(patchSchema, { ...whole, controls: [control, control] })).toBe(
    'controls[1].id',
  );
});

describe('a rig', () => {
  const rig = newRig('home', 'Home');

  it('labels sixteen channels, each in as many characters as there is room for', () => {
    expect(firstFault(rigSchema, rig)).toBeNull();
    expect(firstFault(rigSchema, { ...rig, labels: rig.labels.slice(1) })).toBe('labels');
    expect(firstFault(rigSchema, { ...rig, labels: rig.labels.with(6, 'x'.repeat(25)) })).toBe(
      'labels[6]',
    );
  });

  it('holds devices where they can stand, on a stage that has an end', () => {
    const upper = keyboard('upper');
    expect(firstFault(deviceSchema, { ...upper, at: { x: 0, y: 1200 } })).toBeNull();
    expect(firstFault(deviceSchema, { ...upper, at: { x: -1, y: 0 } })).toBe('at.x');
    expect(firstFault(deviceSchema, { ...upper, place: 'module1' })).toBe('place');
    expect(firstFault(deviceSchema, { ...upper, alsoAt: ['keys2', 'attic'] })).toBe('alsoAt[1]');
    expect(firstFault(deviceSchema, { ...upper, heardAs: 17 })).toBe('heardAs');
    const wanted = { padSensitivity: [9] };
    expect(firstFault(deviceSchema, { ...upper, settings: { known: null, wanted } })).toBe(
      'settings.wanted.padSensitivity[0]',
    );
  });
});
