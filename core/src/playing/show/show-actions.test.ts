import { beforeEach, describe, expect, it } from 'vitest';
import type { Device } from '../../model/rig/rig.js';
import type { ShowControl } from '../../model/show/show-control.js';
import { devices } from '../../testing/small-show.js';
import { ShowActions } from './show-actions.js';

const onPad = (note: number): Pick<ShowControl, 'place' | 'message'> => ({
  ...{ place: 'pads1', message: { kind: 'note', note } },
});
const next: ShowControl = { action: 'nextCue', ...onPad(36) };
const pedal: ShowControl = {
  ...{ action: 'previousCue', place: 'pedal3' },
  message: { kind: 'controller', controller: 80 },
};
const knob: ShowControl = {
  ...{ action: 'trim', place: 'pads1', layer: 0 },
  message: { kind: 'controller', controller: 20 },
};

let acted: [action: string, value: number, time: number][];
let actions: ShowActions;
beforeEach(() => {
  acted = [];
  actions = new ShowActions((control, value, time) => acted.push([control.action, value, time]));
});
const take = (port: string, ...message: [number, number, number]) =>
  actions.take(port, ...message, 3);

describe('a show control', () => {
  it('acts with the way down alone, with its strength and its time, and uses its message up', () => {
    actions.set(devices, [next]);
    expect(take('pad port', 0x99, 36, 90)).toBe(true);
    expect(take('pad port', 0x99, 36, 80)).toBe(true);
    expect(acted).toEqual([['nextCue', 90, 3]]);
    // Both sorts of note-off let it go.
    expect(take('pad port', 0x89, 36, 64)).toBe(true);
    take('pad port', 0x99, 36, 70);
    expect(take('pad port', 0x99, 36, 0)).toBe(true);
    take('pad port', 0x99, 36, 60);
    expect(acted.map(([, value]) => value)).toEqual([90, 70, 60]);
  });

  it('hears its own port, channel, kind and number only', () => {
    actions.set(devices, [next]);
    for (const [port, status, data1] of [
      ['upper port', 0x99, 36],
      ['pad port', 0x98, 36],
      ['pad port', 0xb9, 36],
      ['pad port', 0x99, 37],
    ] as const)
      expect(take(port, status, data1, 100)).toBe(false);
    expect(acted).toEqual([]);
  });

  it('of a pedal acts once on its way down, from 64 on', () => {
    actions.set(devices, [pedal]);
    for (const value of [63, 64, 90, 127, 64, 63, 10, 100]) take('upper port', 0xb0, 80, value);
    expect(acted).toEqual([
      ['previousCue', 64, 3],
      ['previousCue', 100, 3],
    ]);
  });

  it('that trims hears every position', () => {
    actions.set(devices, [knob]);
    for (const value of [1, 2, 127]) take('pad port', 0xb9, 20, value);
    expect(acted.map(([, value]) => value)).toEqual([1, 2, 127]);
  });

  it('takes the number of a program or a song, of one or of any', () => {
    actions.set(devices, [
      { action: 'chooseSong', place: 'pads1', message: { kind: 'programs' } },
      { action: 'chooseSong', place: 'pads1', message: { kind: 'songSelect' } },
      { action: 'click', place: 'pads1', message: { kind: 'program', program: 5 } },
    ]);
    expect(take('pad port', 0xc9, 5, 0)).toBe(true);
    expect(take('pad port', 0xc9, 6, 0)).toBe(true);
    expect(take('pad port', 0xf3, 12, 0)).toBe(true);
    expect(take('upper port', 0xf3, 12, 0)).toBe(false);
    expect(take('pad port', 0xc8, 6, 0)).toBe(false);
    expect(acted).toEqual([
      ['chooseSong', 5, 3],
      ['click', 5, 3],
      ['chooseSong', 6, 3],
      ['chooseSong', 12, 3],
    ]);
  });

  it('of the lowest number hears that alone, and none comes from a module', () => {
    actions.set(devices, [
      { action: 'nextCue', ...onPad(0) },
      { action: 'nextSong', place: 'module1', message: { kind: 'note', note: 36 } },
    ]);
    expect(take('pad port', 0x99, 5, 90)).toBe(false);
    expect(take('pad port', 0x99, 0, 90)).toBe(true);
    for (let channel = 0; channel < 16; channel++)
      expect(take('module port', 0x90 + channel, 36, 90)).toBe(false);
  });

  it('rests while the rig has not got its place', () => {
    actions.set(
      devices.filter(({ id }) => id !== 'pads'),
      [next, pedal],
    );
    expect(take('pad port', 0x99, 36, 90)).toBe(false);
    expect(take('upper port', 0xb0, 80, 90)).toBe(true);
  });

  it.each<[up: [number, number, number], anew: boolean]>([
    [[0x89, 36, 64], true],
    [[0x99, 36, 0], true],
    [[0xb0, 80, 63], true],
    // Still down, or another key, channel or kind.
    [[0x99, 36, 1], false],
    [[0xb0, 80, 64], false],
    [[0x89, 37, 0], false],
    [[0x88, 36, 0], false],
    [[0xb9, 36, 0], false],
  ])('that comes up for something nearer acts anew when it is pressed again: %j', (up, anew) => {
    actions.set(devices, [next, pedal]);
    const [port, other] = up[0] === 0xb0 ? ['upper port', 'pad port'] : ['pad port', 'upper port'];
    const press = () => (port === 'pad port' ? take(port, 0x99, 36, 9) : take(port, 0xb0, 80, 99));
    press();
    actions.letGo(other, ...up);
    press();
    expect(acted).toHaveLength(1);
    actions.letGo(port, ...up);
    press();
    expect(acted).toHaveLength(anew ? 2 : 1);
  });

  it('that is held while the show is edited does not act once more, and others do not stay held for it', () => {
    actions.set(devices, [next, pedal]);
    take('upper port', 0xb0, 80, 127);
    actions.set(devices, [{ action: 'click', ...onPad(36) }, pedal]);
    take('upper port', 0xb0, 80, 120);
    take('pad port', 0x99, 36, 50);
    expect(acted.map(([action]) => action)).toEqual(['previousCue', 'click']);
    // The same number of another port, channel or kind is another control.
    const [box] = devices.filter(({ kind }) => kind === 'controlBox');
    const boxes = [
      ...devices,
      { ...box, id: 'x', place: 'pads2', port: 'another port' },
      { ...box, id: 'y', place: 'pads3', channel: 11 },
    ] as Device[];
    for (const [place, port, status, message] of [
      ['pads2', 'another port', 0x99, { kind: 'note', note: 36 }],
      ['pads3', 'pad port', 0x9a, { kind: 'note', note: 36 }],
      ['pads1', 'pad port', 0xb9, { kind: 'controller', controller: 36 }],
    ] as const) {
      actions.set(boxes, [next]);
      take('pad port', 0x99, 36, 0);
      take('pad port', 0x99, 36, 50);
      acted.length = 0;
      actions.set(boxes, [{ action: 'nextSong', place, message }]);
      take(port, status, 36, 100);
      expect(acted.map(([action]) => action)).toEqual(['nextSong']);
    }
    actions.set(devices, [{ action: 'click', ...onPad(36) }, pedal]);
    take('pad port', 0x99, 36, 50);
    // Another number of the same device is another control.
    actions.set(devices, [{ action: 'nextSong', ...onPad(37) }, pedal]);
    take('pad port', 0x99, 37, 50);
    expect(acted.at(-1)?.[0]).toBe('nextSong');
  });
});
