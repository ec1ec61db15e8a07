import { describe, expect, it } from 'vitest';
import { newTreatment, type Treatment } from '../model/patch/treatment.js';
import {
  compiled,
  demoRig,
  keyboard,
  keys,
  layer,
  patchOf,
  velocities,
} from '../testing/fixtures.js';
import { EVEN_TOUCH } from '../touch/touch.js';
import { compilePatch, compileRig } from './compile.js';
import { judge, VERDICT } from './judge.js';
import { isHeard, trace, traceInWords } from './trace.js';

const choosy = layer('choosy', {
  keyboards: ['keys1'],
  channel: 1,
  keys: keys(40, 60, 3),
  velocities: velocities(20, 100),
  touch: { ...EVEN_TOUCH, inLow: 30, below: 'silent' },
});

describe('judging a played note', () => {
  const [it0] = compiled([choosy]).layers;
  it.each([
    ['other keyboard, before anything else', 1, 2, 0, 1, VERDICT.otherKeyboard],
    ['other channel', 0, 2, 0, 1, VERDICT.otherChannel],
    ['below its keys', 0, 1, 39, 1, VERDICT.belowKeys],
    ['above its keys', 0, 1, 61, 1, VERDICT.aboveKeys],
    ['softer than it answers', 0, 1, 50, 19, VERDICT.softer],
    ['harder than it answers', 0, 1, 50, 101, VERDICT.harder],
    ['touch silences it', 0, 1, 50, 29, VERDICT.touchSilences],
    ['sounds', 0, 1, 50, 30, VERDICT.sounds],
  ])('%s', (_name, device, channel, key, velocity, verdict) => {
    expect(judge(it0, device, channel, key, velocity)).toBe(verdict);
  });

  it('puts muted before not soloed before touch', () => {
    const other = layer('other');
    const soloed = new Set(['other']);
    const both = compiled([{ ...choosy, muted: true }, other], { soloed });
    expect(judge(both.layers[0], 0, 1, 50, 25)).toBe(VERDICT.muted);
    const unmuted = compiled([choosy, other], { soloed });
    expect(judge(unmuted.layers[0], 0, 1, 50, 25)).toBe(VERDICT.notSoloed);
    expect(judge(unmuted.layers[1], 0, 1, 50, 25)).toBe(VERDICT.sounds);
  });

  it('judges the key as played and only then transposes', () => {
    const [down, fixed] = compiled(
      [
        layer('down', { keys: keys(0, 12), transpose: -12 }),
        layer('fixed', { transpose: 12, followsSong: false }),
      ],
      { songShift: -1 },
    ).layers;
    expect(judge(down, 0, 1, 12, 64)).toBe(VERDICT.outsideMidi);
    expect([down.shift, fixed.shift]).toEqual([-13, 12]);
    expect(judge(fixed, 0, 1, 115, 64)).toBe(VERDICT.sounds);
    expect(judge(fixed, 0, 1, 116, 64)).toBe(VERDICT.outsideMidi);
  });
});

describe('trace', () => {
  it('takes the keyboard’s octave shift and touch first, then says what each layer did', () => {
    const devices = [
      keyboard('upper', { octaveShift: 1, touch: { ...EVEN_TOUCH, outLow: 40 } }),
      keyboard('lower'),
    ];
    const patch = compiled(
      [
        layer('whole', { transpose: 12, level: -4 }),
        layer('low', { keys: keys(0, 63) }),
        layer('soft', { velocities: velocities(1, 20) }),
        layer('lower only', { keyboards: ['keys2'] }),
        choosy,
      ],
      { devices },
    );
    const followed = trace(patch, { device: 0, channel: 1, key: 60, velocity: 1 });
    expect([followed.heardKey, followed.heardVelocity]).toEqual([72, 40]);
    expect(followed.layers.map((entry) => traceInWords(entry, followed, patch, 4))).toEqual([
      'sounds C6 at 40, −4.0 dB',
      'above its keys, which end at E♭4',
      'harder than it answers, which is up to 20',
      'listens to Lower keys',
      'above its keys, which end at C4',
    ]);
  });

  it('says why a layer keeps silent, whatever the reason', () => {
    const digIn = { ...EVEN_TOUCH, inLow: 77, below: 'silent' as const };
    const rows: [Parameters<typeof layer>[1], string][] = [
      [{ channel: 9 }, 'listens on channel 9; this came on 1'],
      [{ keys: keys(64, 127) }, 'below its keys, which begin at E4'],
      [{ velocities: velocities(60, 127) }, 'softer than it answers, which is from 60'],
      [{ muted: true }, 'muted'],
      [{}, 'another layer is soloed'],
      [{ keyboards: ['keys9'] }, 'listens to a keyboard that is not in the rig'],
    ];
    const patch = compiled(
      rows.map(([changes], i) => layer(`l${i}`, changes)),
      { soloed: new Set(['l0', 'l1', 'l2', 'l3', 'l5']) },
    );
    const followed = trace(patch, { device: 0, channel: 1, key: 60, velocity: 50 });
    expect(followed.layers.map((entry) => traceInWords(entry, followed, patch, 4))).toEqual(
      rows.map(([, words]) => words),
    );
    expect(followed.layers.map((entry) => [isHeard(entry), entry.note, entry.treatments])).toEqual(
      rows.map(() => [false, null, []]),
    );
    const silent = compiled([
      layer('a', { touch: digIn }),
      layer('b', { transpose: 60, keys: keys(68, 127) }),
    ]);
    const said = (key: number, velocity: number, i: number, patch = silent) => {
      const followed = trace(patch, { device: 0, channel: 1, key, velocity });
      return traceInWords(followed.layers[i], followed, patch, 4);
    };
    expect(said(60, 50, 0)).toBe('its touch silences everything under 77');
    expect(said(68, 50, 1)).toBe('would sound outside the MIDI notes 0–127');
    expect(said(67, 90, 0)).toMatch(/^sounds/);
    const heavy = compiled([layer('a', { velocities: velocities(40, 100) })], {
      devices: [keyboard('upper', { touch: digIn })],
    });
    expect(said(60, 50, 0, heavy)).toBe('the keyboard’s own touch silences it');
  });

  it('adds fades and level in dB', () => {
    const patch = compiled([layer('a', { keys: keys(60, 72, 3), level: -2 })]);
    const [entry] = trace(patch, { device: 0, channel: 1, key: 60, velocity: 90 }).layers;
    expect(entry.gainDb).toBeCloseTo(-10.34, 2);
  });

  it('tells what a note goes through, and the sieve that holds it back', () => {
    const filter = {
      ...newTreatment('sieve', 'f', ['a']),
      keys: { low: 48, high: 72 },
      velocities: { low: 90, high: 127 },
    } as Treatment;
    const arpeggio = newTreatment('arpeggio', 'up', ['a']);
    const patch = compilePatch(
      { ...patchOf([layer('a', { level: 0 })]), treatments: [filter, arpeggio] },
      { rig: compileRig(demoRig), songShift: 0 },
    );
    const said = (velocity: number, switched?: (id: string) => boolean | null, key = 60) => {
      const followed = trace(patch, { device: 0, channel: 1, key, velocity }, switched);
      const [entry] = followed.layers;
      return [isHeard(entry), traceInWords(entry, followed, patch, 4)];
    };
    expect(said(80)).toEqual([false, 'its sieve lets through velocities 90–127']);
    expect(said(100, undefined, 84)).toEqual([false, 'its sieve lets through keys C3–C5']);
    expect(said(100)).toEqual([true, 'sounds C4 at 100, 0.0 dB, through sieve, arpeggio']);
    // A control has switched the filter off.
    const off = (id: string) => (id === 'f' ? false : null);
    expect(said(80, off)).toEqual([true, 'sounds C4 at 80, 0.0 dB, through arpeggio']);
  });
});

it('tells the level at which a layer really stands, and what moved it', () => {
  const patch = compiled([layer('a', { level: -3 })]);
  const levels = { a: { level: -24, by: 'by knob 2' } };
  const followed = trace(
    patch,
    { device: 0, channel: 1, key: 60, velocity: 90 },
    undefined,
    levels,
  );
  expect(traceInWords(followed.layers[0], followed, patch, 4)).toBe(
    'sounds C4 at 90, −24.0 dB, by knob 2',
  );
});
