import { beforeEach, describe, expect, it } from 'vitest';
import { newChooser } from '../../model/patch/chooser.js';
import { newTreatment, type Treatment } from '../../model/patch/treatment.js';
import type { Layer } from '../../model/patch/layer.js';
import { compilePatch, compileRig } from '../../routing/compile.js';
import { demoRig, keyboard, layer, patchOf } from '../../testing/fixtures.js';
import { ScheduledOutput } from '../../testing/scheduled-output.js';
import { Player } from './player.js';

let output: ScheduledOutput;
let player: Player;
beforeEach(() => {
  output = new ScheduledOutput();
  player = new Player(output, () => output.time);
});
const rig = compileRig(demoRig);
const patch = (
  layers: Layer[],
  { id = 'patch', treatments = [] as Treatment[], chosen = 0, choosers = false } = {},
) => {
  const plain = patchOf(layers, id);
  const chooser = { ...newChooser('chooser', 'Chooser', layers), chosen };
  return compilePatch(
    { ...plain, treatments, choosers: choosers ? [chooser] : [] },
    { rig, songShift: 0 },
  );
};
const sounding = () => [...output.sounding.values()].sort((a, b) => a - b);
const beganLayers = () => output.began.splice(0).map(({ layer: id }) => id);

describe.each([0, 1])('a key of device %d', (device) => {
  const channel = device + 1;

  it('is down with its velocity, on each of its channels by itself', () => {
    player.take(patch([layer('a')]));
    player.noteOn(device, channel, 60, 90);
    player.noteOff(device, 16, 60);
    expect([sounding(), player.velocityOf(device, 60)]).toEqual([[], 0]);
    player.noteOn(device, 16, 60, 90);
    player.noteOff(device, channel, 60);
    expect(sounding()).toEqual([]);
    player.noteOn(device, channel, 60, 90);
    player.noteOn(device, 16, 60, 80);
    player.noteOff(device, channel, 60);
    expect(sounding()).toEqual([60]);
    player.endChannel(device, 16);
    expect([sounding(), player.velocityOf(device, 60)]).toEqual([[], 0]);
    player.noteOn(device, channel, 127, 90);
    player.noteOn(device, 16, 127, 80);
    player.endChannel(device, channel);
    expect([sounding(), player.velocityOf(device, 127)]).toEqual([[127], 80]);
  });

  it('is held by the pedal of its device, until that comes up on whichever channel', () => {
    player.take(patch([layer('a')]));
    player.pedalMoved(device, 16, true);
    player.noteOn(device, 16, 60, 90);
    player.noteOff(device, 16, 60);
    player.pedalMoved(device, channel, false);
    expect([sounding(), player.pedalDown(device, 16)]).toEqual([[], false]);
    player.pedalMoved(device, channel, true);
    player.pedalMoved(device, 16, true);
    player.pedalMoved(device, channel, false);
    expect(player.pedalDown(device, 16)).toBe(true);
  });
});

describe('a key', () => {
  it('is heard where its keyboard is shifted to', () => {
    const shifted = [keyboard('upper', { octaveShift: 1 }), keyboard('lower', { octaveShift: -2 })];
    player.take(compilePatch(patchOf([layer('a')]), { rig: compileRig(shifted), songShift: 0 }));
    player.noteOn(0, 1, 60, 90);
    player.noteOn(1, 2, 60, 90);
    expect(sounding()).toEqual([36, 72]);
  });

  it('is up when its channel is ended, unless another channel holds it', () => {
    player.take(patch([layer('a')]));
    player.noteOn(1, 2, 61, 77);
    player.noteOn(1, 2, 62, 70);
    player.noteOn(1, 3, 62, 71);
    player.endChannel(1, 2);
    expect([player.velocityOf(1, 61), player.velocityOf(1, 62)]).toEqual([0, 71]);
    expect(sounding()).toEqual([62]);
  });

  it('counts, with what it was and whether anybody answered', () => {
    expect([player.noteCount, player.silentNoteCount, player.lastNote.device]).toEqual([0, 0, -1]);
    player.noteOn(1, 2, 61, 77);
    expect([player.noteCount, player.silentNoteCount]).toEqual([1, 1]);
    player.take(patch([layer('a', { keyboards: ['keys1'] })]));
    player.shiftDevice(0, 12);
    player.noteOn(0, 1, 60, 90);
    expect([player.noteCount, player.silentNoteCount]).toEqual([2, 1]);
    expect(player.lastNote).toEqual({ device: 0, channel: 1, key: 60, velocity: 90, shift: 12 });
    player.noteOn(1, 2, 61, 77);
    expect([player.noteCount, player.silentNoteCount]).toEqual([3, 2]);
    expect(player.lastNote).toEqual({ device: 1, channel: 2, key: 61, velocity: 77, shift: 0 });
  });
});

describe('a pedal', () => {
  it('that comes up on another channel than it went down on comes up all the same', () => {
    player.take(patch([layer('a')]));
    player.message(0, 0xb0, 64, 127);
    player.noteOn(0, 1, 60, 90);
    player.noteOff(0, 1, 60);
    expect(sounding()).toEqual([60]);
    player.message(0, 0xb1, 64, 0);
    expect([sounding(), player.pedalDown(0, 1)]).toEqual([[], false]);
    // One of two comes up alone.
    player.message(0, 0xb0, 64, 127);
    player.message(0, 0xb1, 64, 127);
    player.message(0, 0xb1, 64, 0);
    expect([player.pedalDown(0, 1), player.pedalDown(0, 2)]).toEqual([true, false]);
    player.message(0, 0xb0, 64, 0);
    player.message(1, 0xb0, 64, 127);
    player.message(0, 0xb1, 64, 0);
    expect(player.pedalDown(1, 1)).toBe(true);
  });

  it('that is told to be up once more lets go of nothing that another holds', () => {
    player.take(patch([layer('a')]));
    player.message(0, 0xb0, 64, 127);
    player.noteOn(0, 1, 60, 90);
    player.noteOff(0, 1, 60);
    player.pedal(0, 2, false);
    player.pedal(1, 1, false);
    player.message(0, 0xb0, 64, 127);
    expect(sounding()).toEqual([60]);
  });
});

describe('what comes to an end', () => {
  const hold = () => {
    player.take(patch([layer('a')]));
    player.message(0, 0xb0, 64, 127);
    player.noteOn(0, 1, 60, 90);
    player.noteOff(0, 1, 60);
    player.noteOn(0, 2, 62, 90);
    player.noteOn(1, 2, 72, 90);
  };

  it('with a device are its keys and pedals on all channels', () => {
    hold();
    player.noteOn(0, 16, 64, 90);
    player.endDevice(0);
    expect(sounding()).toEqual([72]);
    expect([player.pedalDown(0, 1), player.velocityOf(0, 62), player.velocityOf(1, 72)]).toEqual([
      ...[false, 0, 90],
    ]);
  });

  it('with a channel are its keys, but for those that its pedal or another channel holds', () => {
    hold();
    player.noteOn(0, 1, 62, 70);
    player.endChannel(0, 1);
    expect(sounding()).toEqual([60, 62, 62, 72]);
    player.endChannel(0, 2);
    expect(sounding()).toEqual([60, 62, 72]);
    expect(player.velocityOf(0, 62)).toBe(0);
    player.pedal(0, 1, false);
    expect(sounding()).toEqual([72]);
    player.noteOn(0, 1, 62, 70);
    player.noteOn(0, 2, 62, 71);
    player.endChannel(0, 1);
    expect(player.velocityOf(0, 62)).toBe(71);
  });

  it('with controllers at rest are wheel, pressure and modulation, and expression is full', () => {
    const told: unknown[] = [];
    for (const name of ['bend', 'pressure', 'control'] as const)
      output[name] = (...args: unknown[]) => void told.push([name, ...args]);
    player.message(0, 0xb4, 121, 0);
    expect(told).toEqual([
      ['bend', 0, 5, 0],
      ['pressure', 0, 5, 0],
      ['control', 0, 5, 1, 0],
      ['control', 0, 5, 11, 127],
    ]);
  });
});

describe('an octave that a control moves', () => {
  it('is heard from the next key on, and goes with its device', () => {
    player.take(patch([layer('a')]));
    player.noteOn(0, 1, 60, 90);
    player.shiftDevice(0, -12);
    player.noteOn(0, 1, 62, 90);
    expect(sounding()).toEqual([50, 60]);
    player.noteOff(0, 1, 60);
    player.noteOff(0, 1, 62);
    expect(sounding()).toEqual([]);
    player.moveDevices([-1, 0]);
    expect([player.shiftOf(0), player.shiftOf(1)]).toEqual([0, -12]);
    player.moveDevices([0]);
    expect([player.shiftOf(0), player.shiftOf(1)]).toEqual([0, 0]);
    player.shiftDevice(-1, 12);
    player.shiftDevice(32, 12);
    expect([player.shiftOf(31), player.shiftOf(0)]).toEqual([0, 0]);
    player.shiftDevice(31, 24);
    expect(player.shiftOf(31)).toBe(24);
  });
});

describe('held notes', () => {
  it('are cut by another patch only, and only when the show says so', () => {
    const play = (id: string, heldNotes: 'finish' | 'cut') => {
      player.take(patch([layer('a')], { id }), heldNotes);
      return sounding();
    };
    play('one', 'cut');
    player.noteOn(0, 1, 60, 90);
    expect(play('one', 'cut')).toEqual([60]);
    expect(play('two', 'finish')).toEqual([60]);
    expect(play('one', 'cut')).toEqual([]);
    player.noteOn(0, 1, 60, 90);
    player.take(null, 'cut');
    expect(sounding()).toEqual([]);
    player.noteOn(0, 1, 60, 90);
    expect(player.silentNoteCount).toBe(1);
  });
});

describe('what a control has switched', () => {
  const lifted = (on: boolean) => layer('a', { lift: { floor: 100, on } });
  const velocity = () => {
    output.began.length = 0;
    player.noteOn(0, 1, 60, 20);
    player.noteOff(0, 1, 60);
    return output.began[0].velocity;
  };

  it('is a lift, until another patch is taken', () => {
    player.take(patch([lifted(false)]));
    const plain = velocity();
    expect(player.switchedTo('a')).toBeNull();
    player.switchLift('a', true);
    expect(player.switchedTo('a')).toBe(true);
    expect(velocity()).toBeGreaterThanOrEqual(100);
    player.switchLift('other', true);
    expect(player.switchedTo('other')).toBe(true);
    player.switchLift('a', false);
    expect(velocity()).toBe(plain);
    // Taking the patch anew after an edit leaves it as it was switched.
    player.switchLift('a', true);
    player.take(patch([lifted(false), layer('b')]));
    expect(velocity()).toBeGreaterThanOrEqual(100);
    player.take(patch([lifted(false)], { id: 'another' }));
    expect([velocity(), player.switchedTo('a')]).toEqual([plain, null]);
  });

  it('is forgotten when the desk switches the same thing, and nothing else', () => {
    const chord = (id: string, on: boolean) => ({
      ...newTreatment('chord', id, ['a']),
      on,
    });
    const with_ = (lift: boolean, one: boolean, two: boolean) =>
      patch([lifted(lift)], { treatments: [chord('one', one), chord('two', two)] });
    const switches = () => ['a', 'one', 'two'].map((id) => player.switchedTo(id));
    player.take(with_(false, true, true));
    player.switchLift('a', true);
    player.switchTreatment('one', false);
    player.switchTreatment('two', false);
    player.take(with_(false, true, true));
    expect(switches()).toEqual([true, false, false]);
    player.take(with_(true, true, true));
    expect(switches()).toEqual([null, false, false]);
    player.take(with_(true, false, true));
    expect(switches()).toEqual([null, null, false]);
    player.forgetSwitches(['a', 'two']);
    expect(switches()).toEqual([null, null, null]);
    player.switchTreatment('one', true);
    player.forgetSwitches(['two']);
    expect(switches()).toEqual([null, true, null]);
    player.forgetSwitches();
    expect(switches()).toEqual([null, null, null]);
  });

  it('can be switched while nothing plays, and is forgotten with the next patch', () => {
    player.switchLift('a', true);
    player.take(null);
    player.take(null);
    expect(player.switchedTo('a')).toBe(true);
    player.take(patch([lifted(false)]));
    expect(player.switchedTo('a')).toBeNull();
  });

  it('is a treatment, heard with the next key', () => {
    const notes = () => {
      output.began.length = 0;
      player.noteOn(0, 1, 60, 90);
      player.noteOff(0, 1, 60);
      return output.began.length;
    };
    player.take(patch([layer('a')], { treatments: [newTreatment('chord', 'one', ['a'])] }));
    expect(notes()).toBe(3);
    player.switchTreatment('one', false);
    expect(notes()).toBe(1);
    player.switchTreatment('one', true);
    expect(notes()).toBe(3);
  });
});

describe('what a chooser has picked', () => {
  const layers = [layer('a'), layer('b'), layer('c')];
  const played = () => {
    output.began.length = 0;
    player.noteOn(0, 1, 60, 90);
    player.noteOff(0, 1, 60);
    return beganLayers();
  };

  it('plays from then on, until another patch is taken or the desk chooses', () => {
    const chosen = (at: number, id = 'patch') => patch(layers, { id, chosen: at, choosers: true });
    player.take(chosen(0));
    expect([played(), player.pickedBy('chooser')]).toEqual([['a'], null]);
    player.pick('chooser', 2);
    expect([played(), player.pickedBy('chooser')]).toEqual([['c'], 2]);
    player.take(chosen(0));
    expect(played()).toEqual(['c']);
    player.take(chosen(1));
    expect([played(), player.pickedBy('chooser')]).toEqual([['b'], null]);
    player.pick('chooser', 2);
    player.forgetSwitches(['chooser']);
    expect(played()).toEqual(['b']);
    player.pick('chooser', 2);
    player.forgetSwitches();
    expect(played()).toEqual(['b']);
    player.pick('chooser', 2);
    player.take(chosen(0, 'another'));
    expect([played(), player.pickedBy('chooser')]).toEqual([['a'], null]);
  });
});

describe('two choosers', () => {
  it('are picked and set each by itself', () => {
    const layers = [layer('a'), layer('b')];
    const with_ = (one: number, two: number) =>
      compilePatch(
        {
          ...patchOf(layers),
          choosers: [
            { ...newChooser('one', 'One', layers), chosen: one },
            { ...newChooser('two', 'Two', []), chosen: two },
          ],
        },
        { rig, songShift: 0 },
      );
    player.take(with_(0, 1));
    player.pick('one', 1);
    player.pick('two', 0);
    player.take(with_(0, 1));
    expect(['one', 'two'].map((id) => player.pickedBy(id))).toEqual([1, 0]);
    player.take(with_(1, 1));
    expect(['one', 'two'].map((id) => player.pickedBy(id))).toEqual([null, 0]);
  });
});
