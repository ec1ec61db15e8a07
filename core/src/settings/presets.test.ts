import { describe, expect, it } from 'vitest';
import type { DeviceSettings } from '../model/rig/device-settings.js';
import type { Recipe } from '../model/rig/recipe.js';
import type { Device } from '../model/rig/rig.js';
import { keyboard } from '../testing/fixtures.js';
import { devices as stage } from '../testing/small-show.js';
import { factorySettings } from './comparing.js';
import { forCopy, heldOtherwise, presetOf, wantingPreset } from './presets.js';
import { RecipeRun, stepInWords } from './recipes.js';

const upper = keyboard('upper');
const held: DeviceSettings = { ...factorySettings(upper), sendsOn: [5] };

describe('settings of a whole rig', () => {
  const rig: Device[] = [
    { ...upper, settings: { known: held, wanted: { octave: 1 } } },
    stage[1],
    stage[2],
  ];

  it('are kept as they are wanted, of every device that has any', () => {
    const preset = presetOf('Evening', rig);
    expect(Object.keys(preset.settings)).toEqual(['upper', 'pads']);
    expect(preset.settings['upper']).toEqual({ ...held, octave: 1 });
  });

  it('are wanted again, as far as devices hold them otherwise', () => {
    const preset = { name: 'Old', settings: { upper: { ...held, sendsOn: [1] }, gone: held } };
    expect(wantingPreset(preset, rig)).toEqual({
      upper: { settings: { known: held, wanted: { sendsOn: [1] } } },
    });
    const unread = wantingPreset(preset, [upper])['upper'].settings.wanted;
    expect(Object.keys(unread)).toEqual(['sendsOn', 'octave', 'curve', 'local']);
  });

  it('are compared with what was read, and said to be unknown where nobody has', () => {
    const [first, second] = rig as [typeof upper, typeof upper];
    expect(heldOtherwise(first)?.map(({ setting }) => setting)).toEqual(['octave']);
    expect(heldOtherwise(second)).toBeNull();
  });

  it('go along with a copy of the rig, for its own devices', () => {
    const presets = [{ name: 'One', settings: { upper: held } }];
    const recipes: Recipe[] = [
      { id: 'r', deviceId: 'upper', name: 'Channel', steps: [{ kind: 'press', button: 'Set' }] },
    ];
    const copy = forCopy({ presets, recipes }, new Map([['upper', 'copied']]));
    expect(copy.presets[0].settings).toEqual({ copied: held });
    expect(copy.recipes[0].deviceId).toBe('copied');
  });
});

describe('a recipe', () => {
  const recipe: Recipe = {
    ...{ id: 'r', deviceId: 'upper', name: 'To channel 3' },
    steps: [
      { kind: 'hold', button: 'Set' },
      { kind: 'key', key: 50 },
      { kind: 'letGo', button: 'Set' },
      { kind: 'arrivesOn', channel: 3 },
    ],
  };

  it('is gone through by saying what sends nothing, and by what arrives', () => {
    const run = new RecipeRun(recipe);
    run.message(0x90, 50, 80);
    expect(run.at).toBe(0);
    run.say();
    run.message(0x90, 51, 80);
    run.message(0x90, 50, 0);
    expect(run.at).toBe(1);
    run.message(0x90, 50, 80);
    run.say();
    expect([run.at, run.canSay]).toEqual([3, false]);
    run.say();
    expect(run.at).toBe(3);
    run.message(0x90, 60, 80);
    expect([run.at, run.problem]).toEqual([
      3,
      'It arrived on channel 1, not 3: go back, and try again.',
    ]);
    run.message(0x92, 60, 80);
    expect([run.at, run.step, run.problem]).toEqual([4, null, null]);
  });

  it('goes back, and a key that sends nothing while a button is held can be said to be done', () => {
    const run = new RecipeRun(recipe);
    run.say();
    run.say();
    run.say();
    run.back();
    expect(run.at).toBe(2);
    expect(recipe.steps.map((step) => stepInWords(step, 4))).toEqual([
      'hold Set',
      'press the key D3',
      'let go of Set',
      'play any key: it has to arrive on channel 3',
    ]);
  });
});
