import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Layer } from '../model/patch/layer.js';
import { placeInWords, placeSchema, type Place } from '../model/rig/place.js';
import {
  deviceSchema,
  heardChannel,
  isKeyboard,
  type Device,
  type Keyboard,
} from '../model/rig/rig.js';
import type { Sound } from '../model/library/sound.js';
import { newShow } from '../model/show/show.js';
import { usualManner, type Tie } from '../model/patch/tie.js';
import { demoRig, keyboard, keys, layer, patchOf } from '../testing/fixtures.js';
import { devices as stage } from '../testing/small-show.js';
import { channelTable, LAYERS_ROW, markInWords } from './channels.js';
import { KEY_COUNTS, NEUTRAL_KINDS, newDevice } from './kinds.js';
import { missingAt, placesUsed, standingIn } from './moving.js';
import { drawnDevice, planOf, stageOf } from './plan.js';
import { mendOfOtherChannel, rigRemarks, type RigMend } from './rig-remarks.js';

const songTie: Tie = {
  ...{ id: 'tie', place: 'knobs1', message: { kind: 'knob', knob: 0 }, from: 0, to: 1 },
  ...{ target: { kind: 'octave', place: 'keys1' }, ...usualManner({ kind: 'knob', knob: 0 }) },
};

const NO_LABELS = Array.from({ length: 16 }, () => '');

/** A rig into which devices of these kinds were put, one after the other. */
function rigOf(...kinds: string[]): Device[] {
  const devices: Device[] = [];
  for (const id of kinds) {
    const kind = NEUTRAL_KINDS.find((one) => one.id === id);
    if (!kind) throw new Error(`there is no kind ${id}`);
    devices.push(newDevice(kind, `device-${devices.length}`, 'rig', devices));
  }
  return devices;
}

describe('places', () => {
  it('bear a player’s words, and nothing else is a place', () => {
    const words = (['keys1', 'keys2', 'keys5', 'pedal3', 'pads2', 'module1'] as Place[]).map(
      placeInWords,
    );
    expect(words).toEqual([
      'upper keys',
      'lower keys',
      'keys 5',
      'right pedal',
      'pads 2',
      'module 1',
    ]);
    for (const bad of ['keys', 'keys0', 'keys100', 'organ1', 'keys1.5', ' keys1', 1])
      expect(placeSchema.safeParse(bad).success, String(bad)).toBe(false);
  });

  it('are taken by devices that can stand there', () => {
    const [upper] = demoRig;
    expect(deviceSchema.safeParse({ ...upper, place: 'pedalboard1' }).success).toBe(true);
    expect(deviceSchema.safeParse({ ...upper, place: 'pads1' }).success).toBe(false);
  });
});

describe('a new device', () => {
  it('of any kind is whole, stands at a place of its own, and sends on a channel that nobody sends on', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...NEUTRAL_KINDS.map(({ id }) => id)), { maxLength: 12 }),
        (kinds) => {
          const devices = rigOf(...kinds);
          for (const device of devices)
            expect(deviceSchema.safeParse(device).error).toBeUndefined();
          expect(new Set(devices.map(({ place }) => place)).size).toBe(devices.length);
          const own = devices.filter(({ kind }) => kind !== 'pedal' && kind !== 'module');
          const channels = own.map((device) => 'channel' in device && device.channel);
          expect(new Set(channels).size).toBe(own.length);
        },
      ),
    );
  });

  it('has its real number of keys, and is drawn with them, inside its case', () => {
    for (const count of KEY_COUNTS) {
      const [device] = rigOf(`keys-${count}`);
      const { size, parts } = drawnDevice(device);
      expect(parts).toHaveLength(count);
      for (const part of parts) {
        expect(part.x).toBeGreaterThan(0);
        expect(part.x + part.width).toBeLessThan(size.width);
        expect(part.y + part.depth).toBeLessThan(size.depth);
      }
    }
    // 88 keys have 52 white ones of 2.35 cm.
    expect(drawnDevice(rigOf('keys-88')[0]).size.width).toBeCloseTo(52 * 2.35 + 18);
  });

  it('lies beside the others until somebody moves it', () => {
    const devices = rigOf('keys-76', 'keys-61', 'pads', 'sustain', 'expression', 'module');
    const placed = planOf(devices);
    for (const a of placed)
      for (const b of placed)
        if (a !== b) {
          const apart =
            a.x + a.width <= b.x ||
            b.x + b.width <= a.x ||
            a.y + a.depth <= b.y ||
            b.y + b.depth <= a.y;
          expect(apart, `${a.device.name} and ${b.device.name}`).toBe(true);
        }
    const moved = planOf(devices.map((d, i) => (i === 2 ? { ...d, at: { x: 300, y: 20 } } : d)));
    expect(moved[2]).toMatchObject({ x: 300, y: 20 });
    expect(stageOf(moved).width).toBeGreaterThan(300 + moved[2].width);
  });
});

describe('who sends and who listens', () => {
  const patch = patchOf([
    layer('a', { keyboards: ['keys1'], channel: 1 }),
    layer('b', { keyboards: 'any', channel: 7 }),
    layer('c', { keyboards: ['keys1'] }),
  ]);

  it('stands in one table, a translated channel where it arrives', () => {
    const rig = [keyboard('upper', { heardAs: 7 }), keyboard('lower')];
    const rows = channelTable(rig, patch, new Map());
    const marks = (row: number) =>
      rows[row].marks.flatMap((mark, at) => (mark ? [[at + 1, mark.kind]] : []));
    expect(marks(0)).toEqual([
      [1, 'leaves'],
      [7, 'arrives'],
    ]);
    expect(marks(1)).toEqual([[2, 'sends']]);
    const layers = rows.find(({ id }) => id === LAYERS_ROW);
    expect(layers?.marks[6]).toEqual({ kind: 'listens', layers: [1] });
    expect(layers?.any).toEqual([2]);
    expect(layers?.marks[6] && markInWords(layers, layers.marks[6], 7)).toBe(
      'B listens to channel 7',
    );
  });

  it('shows what a keyboard is yet to send on, and which layers play a module, on its own row and channel alone', () => {
    const origin = { kind: 'outside', place: 'module1', channel: 3, bank: null, program: 0 };
    const reeds = [layer('a', { soundId: 'reeds' }), layer('b'), layer('c', { soundId: 'reeds' })];
    const [keys1] = [keyboard('upper')];
    const wanted = { ...keys1.settings.wanted, sendsOn: [1, 5] };
    const rig = [
      { ...keys1, settings: { ...keys1.settings, wanted } },
      ...rigOf('module', 'module', 'switch'),
    ];
    const rows = channelTable(
      rig,
      {
        ...patchOf(reeds),
        sounds: [{ ...patchOf(reeds).sounds[0], id: 'reeds', librarySoundId: 'reeds' }],
      },
      new Map([['reeds', { origin } as unknown as Sound]]),
    );
    expect(
      rows.map((row) =>
        row.marks.flatMap((mark, at) => (mark ? [markInWords(row, mark, at + 1)] : [])),
      ),
    ).toEqual([
      [
        `${keys1.name} sends on channel 1`,
        `${keys1.name} will send on channel 5, once that is written`,
      ],
      [],
      [`A, C play ${rig[1].name} on channel 3`],
      [],
    ]);
  });

  /** A rig and a patch after a mend. */
  function after(rig: readonly Device[], layers: readonly Layer[], mend: RigMend) {
    return {
      rig: rig.map((device) => ({ ...device, ...mend.devices?.[device.id] })),
      patch: patchOf(layers.map((one) => ({ ...one, ...mend.layers?.[one.id] }))),
    };
  }

  const labels = NO_LABELS.with(6, 'parked stack');
  const cases: [string, Device[], Layer[]][] = [
    [
      'oneChannelTwice',
      [keyboard('upper'), keyboard('lower', { channel: 1 })],
      [layer('a'), layer('b')],
    ],
    ['nobodySends', demoRig, [layer('a'), layer('b', { channel: 7 })]],
    ['nobodyHears', demoRig, [layer('a', { keyboards: ['keys1'] })]],
  ];
  it.each(cases)(
    'is a remark where they miss one another, and each mend takes it away: %s',
    (kind, rig, layers) => {
      const found = rigRemarks(rig, patchOf(layers), labels);
      expect(found.map((remark) => remark.kind)).toEqual([kind]);
      expect(found[0].mends.length).toBeGreaterThan(0);
      for (const mend of found[0].mends) {
        const mended = after(rig, layers, mend);
        expect(rigRemarks(mended.rig, mended.patch, labels), mend.words).not.toContainEqual(
          expect.objectContaining({ kind }),
        );
      }
    },
  );

  it('names a channel by its label, and offers nothing where nothing would help', () => {
    const [remark] = rigRemarks(demoRig, patchOf([layer('a'), layer('b', { channel: 7 })]), labels);
    expect(remark.words).toBe(
      'No keyboard sends on channel 7 “parked stack”, where B of “A patch” listens',
    );
    const alike = [keyboard('upper'), keyboard('lower', { port: 'upper', channel: 1 })];
    expect(rigRemarks(alike, null, NO_LABELS)).toMatchObject([{ kind: 'onePortTwice', mends: [] }]);
    expect(rigRemarks(demoRig, patchOf([layer('a')]), NO_LABELS)).toEqual([]);
  });

  it('is remarked on where a device sends otherwise than is written of it, and writing it down is the mend', () => {
    const arrived = new Map([
      ['upper', 5],
      ['lower', heardChannel(demoRig[1] as Keyboard)],
    ]);
    const layers = [layer('a')];
    const [remark, ...others] = rigRemarks(demoRig, patchOf(layers), labels, arrived);
    expect(others).toEqual([]);
    expect(remark).toMatchObject({ kind: 'sendsElsewhere' });
    expect(remark.words).toMatch(/sends on channel 5; channel 1 is written of it$/);
    const { rig, patch } = after(demoRig, layers, remark.mends[0]);
    expect(rigRemarks(rig, patch, labels, arrived)).toEqual([]);
  });

  it.each<[string, Layer[], number, string | null]>([
    [
      'heard where the layers listen',
      [layer('a', { channel: 1 })],
      5,
      'treat Upper keys as channel 1',
    ],
    ['listened to anywhere', [layer('a', { channel: 9 })], 1, 'let A listen to any channel'],
    ['left alone where a layer hears it', [layer('a'), layer('b', { channel: 9 })], 1, null],
    ['left alone where none listens to its keys', [layer('a', { keyboards: ['keys2'] })], 5, null],
  ])('a key on a channel of no layer is %s', (_what, layers, channel, words) => {
    const patch = patchOf(layers);
    const mend = mendOfOtherChannel(demoRig, patch, 'upper', channel);
    expect(mend?.words ?? null).toBe(words);
    if (!mend) return;
    const mended = after(demoRig, layers, mend);
    expect(
      mendOfOtherChannel(mended.rig, mended.patch, 'upper', words?.endsWith('1') ? 1 : channel),
    ).toBeNull();
  });
});

describe('a show that is moved to another rig', () => {
  const show = {
    ...newShow('show', 'Show', '2027-01-01', 'home'),
    controls: [
      { action: 'nextCue', place: 'pads1', message: { kind: 'pad', pad: 7 } },
      { action: 'nextCue', place: 'pedal3', message: { kind: 'pedal' } },
    ] as const,
  };
  const patches = [
    patchOf([
      layer('high', { keyboards: ['keys1'], keys: keys(60, 103) }),
      layer('low', { keyboards: ['keys2'], keys: keys(0, 59) }),
    ]),
  ];
  const home = [keyboard('upper'), keyboard('lower', { lowestKey: 36, highestKey: 96 })];
  const uses = placesUsed(
    {
      show: { ...show, controls: [...show.controls] },
      songs: [{ name: 'Low Water Mark', ties: [{ ...songTie, place: 'knobs2' }] }],
      ...{ patches, sounds: new Map() },
    },
    home,
  );

  it('says of each place in use what is wanting, and what would stand in best', () => {
    expect(uses.map(({ place }) => place)).toEqual([
      ...['keys1', 'keys2', 'pads1', 'knobs2', 'pedal3'],
    ]);
    expect(uses[3].by).toEqual(['Low Water Mark']);
    // On the lower keys only what lies on them counts.
    expect(uses[1].ground).toMatchObject([{ low: 36, high: 59 }]);
    const small = rigOf('keys-61', 'pads');
    const missing = missingAt(uses, small);
    expect(missing.map(({ place, wanting, proposal }) => [place, wanting, proposal])).toEqual([
      ['keys1', 'keys', null],
      ['keys2', 'device', 'keys1'],
      ['knobs2', 'device', 'pads1'],
      ['pedal3', 'device', null],
    ]);
    expect(missing[0].words).toMatch(/^\w+ of .+ loses .+–.+/);
    const whole = [...rigOf('keys-88', 'keys-61', 'pads'), stage[2]];
    expect(missingAt(uses, whole).map(({ place }) => place)).toEqual(['knobs2']);
  });

  it('tells of controls that a box does not have', () => {
    const box = rigOf('knobs').map((device): Device => ({ ...device, place: 'pads1' }));
    const [missing] = missingAt(
      uses.filter(({ place }) => place === 'pads1'),
      box,
    );
    expect(missing).toMatchObject({ wanting: 'controls', words: 'it has no pad 8' });
  });

  it('takes pads for knobs and a board of pedals for keys, the nearest of equals, and keeps what stands in already', () => {
    const use = (place: Place) => ({ place, ground: [], controls: [], by: [] });
    const rig = rigOf('keys-61', 'keys-61', 'knobs');
    const proposed = (place: Place) => missingAt([use(place)], rig).map(({ proposal }) => proposal);
    expect((['pads2', 'pedalboard1', 'keys3', 'module1'] as Place[]).map(proposed)).toEqual([
      ['knobs1'],
      ['keys1'],
      ['keys2'],
      [null],
    ]);
    const before = rig.map((device): Device => ({ ...device, alsoAt: ['keys9'] }));
    const chosen = new Map<Place, Place>([
      ['keys9', 'keys1'],
      ['keys3', 'keys1'],
      ['pads2', 'pads7'],
    ]);
    expect(standingIn(chosen, before)).toEqual({ [rig[0].id]: ['keys9', 'keys3'] });
  });

  it('is played there by what stands in, and nothing is missing any more', () => {
    const rig = rigOf('keys-88', 'pads', 'switch');
    const chosen = new Map(missingAt(uses, rig).map(({ place }) => [place, null]));
    expect([...chosen.keys()]).toEqual(['keys2', 'knobs2', 'pedal3']);
    const alsoAt = standingIn(
      new Map<Place, Place>([
        ['keys2', 'keys1'],
        ['knobs2', 'pads1'],
        ['pedal3', 'pedal1'],
      ]),
      rig,
    );
    const then = rig.map((device) => ({ ...device, alsoAt: alsoAt[device.id] ?? device.alsoAt }));
    expect(missingAt(uses, then)).toEqual([]);
    expect(then.filter(isKeyboard).map(heardChannel)).toEqual([1]);
  });
});
