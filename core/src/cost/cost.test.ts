import { describe, expect, it } from 'vitest';
import { layer, patchOf } from '../testing/fixtures.js';
import { newAccompanist, placedPattern, type Accompanist } from '../model/patch/accompanist.js';
import { HOUSE_PATTERNS } from '../patterns/house/index.js';
import { SILENCE_DB } from '../units/decibels.js';
import { newPatchSound, type Patch, type PatchSound } from '../model/patch/patch.js';
import { patchCost, sharingAdvice, type MeasuredCosts } from './cost.js';
import { measureBudget, measureVoiceCost } from './measuring.js';

const costs: MeasuredCosts = {
  voices: new Map([
    ['library-tine', 0.004],
    ['library-pad', 0.006],
  ]),
  effects: { reverb: 0.05, delay: 0.01, chorus: 0.02 },
};
const dry = { reverb: SILENCE_DB, delay: SILENCE_DB, chorus: SILENCE_DB };
const right = layer('right', { soundId: 'tine', sends: dry });
const left = layer('left', { soundId: 'tine', sends: dry });
const pad = layer('pad', { soundId: 'pad', sends: dry });

describe('what a patch costs', () => {
  it('counts a shared sound once, and halves it between its layers', () => {
    const { total, layers, sounds } = patchCost(patchOf([right, left, pad]), costs);
    expect(total).toBeCloseTo(0.1);
    expect(sounds.get('tine')).toBeCloseTo(0.04);
    expect([layers.get('right'), layers.get('left'), layers.get('pad')]).toEqual([
      0.02, 0.02, 0.06,
    ]);
  });

  it('counts an effect once as soon as one layer sends to it', () => {
    const sent = { ...pad, sends: { ...dry, reverb: -18 } };
    const alone = patchCost(patchOf([sent]), costs);
    expect(alone.effects).toEqual({ reverb: 0.05, delay: 0, chorus: 0 });
    const both = patchOf([sent, { ...right, sends: { ...dry, reverb: -6 } }]);
    expect(patchCost(both, costs).total).toBeCloseTo(0.06 + 0.04 + 0.05);
  });

  it('counts what accompanists play besides the hands: their fullest pattern, or all of those that may be several', () => {
    const note = (beat: number, key: number) => ({ beat, length: 1, key, velocity: 80 });
    const [one] = HOUSE_PATTERNS;
    const patterns = new Map([
      ['two', { ...one, id: 'two', notes: [note(0, 60), note(0.5, 64), note(1, 67)] }],
      ['one', { ...one, id: 'one', notes: [note(0, 60), note(1, 60)] }],
    ]);
    const band = (more: Partial<Accompanist>): Patch => ({
      ...patchOf([pad]),
      accompanists: [
        {
          ...newAccompanist('band', 'Band', 'keys1'),
          layerIds: ['pad'],
          patterns: [placedPattern('a', 'two', 40), placedPattern('b', 'one', 41)],
          ...more,
        },
      ],
    });
    const total = (more: Partial<Accompanist>) => patchCost(band(more), costs, patterns).total;
    expect(total({})).toBeCloseTo(12 * 0.006);
    expect(total({ several: true })).toBeCloseTo(13 * 0.006);
    expect(total({ muted: true })).toBeCloseTo(10 * 0.006);
  });

  it('costs less with fewer voices, and nothing while it is not measured', () => {
    const patch = patchOf([pad, layer('new', { sends: dry })]);
    patch.sounds[0] = { ...patch.sounds[0], polyphony: 1 };
    expect(patchCost(patch, costs).total).toBeCloseTo(0.006);
  });
});

describe('advice to share', () => {
  it('names two that are the same, with what sharing saves', () => {
    const patch = patchOf([right, { ...left, soundId: 'tine-2' }, pad]);
    patch.sounds = patch.sounds.map((s) =>
      s.id === 'tine-2' ? newPatchSound('tine-2', 'library-tine') : s,
    );
    expect(sharingAdvice(patch, costs)).toEqual([
      { keep: 'tine', drop: 'tine-2', layerNames: ['right', 'left'], saves: 0.04 },
    ]);
    patch.sounds[1] = { ...patch.sounds[1], timbre: { ...patch.sounds[1].timbre, brightness: 1 } };
    expect(sharingAdvice(patch, costs)).toEqual([]);
  });
});

describe('advice on several', () => {
  const twice = (changes: Partial<PatchSound> = {}) => {
    const ids = ['tine', 'tine-2', 'pad', 'pad-2'];
    const patch = patchOf(ids.map((id) => layer(id, { soundId: id, sends: dry })));
    patch.sounds = ids.map((id) => newPatchSound(id, `library-${id.replace('-2', '')}`));
    patch.sounds[1] = { ...patch.sounds[1], ...changes };
    return patch;
  };
  const pairs = (patch: Patch) => sharingAdvice(patch, costs).map((a) => [a.keep, a.drop, a.saves]);

  it('comes with the most saving first', () => {
    expect(pairs(twice())).toEqual([
      ['pad', 'pad-2', 0.06],
      ['tine', 'tine-2', 0.04],
    ]);
  });

  it.each([{ polyphony: 4 as const }, { glideSeconds: 0.1 }])(
    'is not given for sounds that are played in another way: %o',
    (changes) => {
      expect(pairs(twice(changes))).toEqual([['pad', 'pad-2', 0.06]]);
    },
  );
});

describe('measuring', () => {
  const samples = new Float32Array(4800).map((_, i) => Math.sin(i / 8));
  const zone = {
    rootKey: 60,
    keys: { low: 0, high: 127 },
    velocities: { low: 1, high: 127 },
    sampleRate: 48_000,
    left: samples,
    right: samples,
    loopStart: 0,
    loopEnd: 4800,
    loopDecay: 0,
  };
  const sound = {
    voicing: { attack: 0.01, release: 0.1, dynamics: 20, brightness: 9000, darkening: 1 },
    zones: [zone],
  };

  it('finds that a voice costs something, and far less than a core', () => {
    const cost = measureVoiceCost(sound, 60, () => Date.now());
    expect(cost).toBeGreaterThan(0);
    expect(cost).toBeLessThan(0.2);
  });

  it('allows less on a machine that computes unevenly', () => {
    const stopwatch = (stalls: boolean) => {
      let time = 0;
      let calls = 0;
      return () => (time += stalls && ++calls % 20 === 0 ? 9 : 1);
    };
    const even = measureBudget(sound, 60, stopwatch(false));
    expect(even).toBeCloseTo(0.7);
    expect(measureBudget(sound, 60, stopwatch(true))).toBeLessThan(even / 2);
  });
});
