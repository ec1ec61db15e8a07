import { beforeEach, describe, expect, it } from 'vitest';
import { newChooser, type ChooserControl } from '../../model/patch/chooser.js';
import { layer } from '../../testing/fixtures.js';
import { devices } from '../../testing/small-show.js';
import { jobsNow } from '../../ties/in-force.js';
import { ChooserControls } from './chooser-controls.js';

const layers = ['a', 'b', 'c'].map((id) => layer(id));
const [keys, pads] = ['keys1', 'pads1'].map((place) =>
  devices.findIndex((device) => device.place === place),
);

describe('controls of a chooser', () => {
  let picked: number[];
  let now: number;
  let controls: ChooserControls;
  beforeEach(() => {
    [picked, now] = [[], 0];
    controls = new ChooserControls({
      pickedBy: () => now,
      pick: (_id, choice) => {
        now = choice;
        picked.push(choice);
      },
    });
  });
  const take = (...all: ChooserControl[]) => {
    const patch = {
      ...{ layers, treatments: [], controls: [] },
      choosers: [{ ...newChooser('hand', 'Hand', layers), controls: all }],
    };
    controls.take(jobsNow({ devices, patch, song: null, show: null, rig: null }));
  };
  const control = (
    picks: ChooserControl['picks'],
    message: ChooserControl['message'],
    place: ChooserControl['place'] = 'keys1',
  ): ChooserControl => ({ place, message, picks });
  const picks = () => picked.splice(0);

  it('pick by a pad as it goes down, at their own device and number', () => {
    take(control(2, { kind: 'note', note: 41 }, 'pads1'), control(1, { kind: 'note', note: 0 }));
    expect(controls.message(pads, 0x90, 41, 100)).toBe(true);
    // However quickly it is let go.
    expect(controls.message(pads, 0x80, 41, 100)).toBe(true);
    expect(picks()).toEqual([2]);
    expect(controls.message(keys, 0x90, 41, 100)).toBe(false);
    expect(controls.message(pads, 0x90, 42, 100)).toBe(false);
    expect(controls.message(pads, 0xb0, 41, 100)).toBe(false);
    expect(controls.message(keys, 0x90, 0, 1)).toBe(true);
    expect(controls.message(keys, 0x90, 0, 0)).toBe(true);
    expect(controls.message(keys, 0x90, 0, 1)).toBe(true);
    expect(picks()).toEqual([1, 1]);
    expect(controls.changes).toBe(3);
  });

  it('go to the next by a pedal, once each time it goes down, whatever is edited meanwhile', () => {
    const pedal = control('next', { kind: 'controller', controller: 70 });
    take(pedal);
    for (const value of [63, 64, 20, 100, 120, 20, 127]) controls.message(keys, 0xb0, 70, value);
    expect(picks()).toEqual([1, 2, 0]);
    take(pedal, control(0, { kind: 'controller', controller: 71 }));
    controls.message(keys, 0xb0, 70, 90);
    controls.message(keys, 0xb0, 71, 90);
    expect(picks()).toEqual([0]);
    now = 2;
    controls.message(keys, 0xb0, 70, 0);
    controls.message(keys, 0xb0, 70, 127);
    expect(picks()).toEqual([0]);
    // The same number of another device, or another kind of message, is another control.
    take(
      control(1, { kind: 'controller', controller: 70 }, 'pads1'),
      control(2, { kind: 'note', note: 70 }),
    );
    controls.message(pads, 0xb0, 70, 127);
    controls.message(keys, 0x90, 70, 127);
    expect(picks()).toEqual([1, 2]);
  });

  it('pick by the sector of a knob, and by the number of a program, as far as there are choices', () => {
    take(control('position', { kind: 'controller', controller: 70 }));
    for (const value of [0, 42, 43, 85, 86, 127]) controls.message(keys, 0xb0, 70, value);
    expect(picks()).toEqual([0, 0, 1, 1, 2, 2]);
    take(control('position', { kind: 'programs' }));
    for (const program of [0, 2, 3, 99]) controls.message(keys, 0xc0, program, 0);
    expect(picks()).toEqual([0, 2]);
    take(control(1, { kind: 'program', program: 7 }));
    controls.message(keys, 0xc0, 7, 0);
    controls.message(keys, 0xc0, 7, 0);
    controls.message(keys, 0xc0, 8, 0);
    expect(picks()).toEqual([1, 1]);
  });

  it('pick nothing that is not there', () => {
    take(control(3, { kind: 'note', note: 41 }));
    controls.message(keys, 0x90, 41, 100);
    expect([picks(), controls.changes]).toEqual([[], 0]);
  });
});
