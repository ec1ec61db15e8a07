import { beforeEach, describe, expect, it } from 'vitest';
import type { ShowControl } from '../model/show/show-control.js';
import { compiled, keyboard, layer } from '../testing/fixtures.js';
import { ScheduledOutput } from '../testing/scheduled-output.js';
import { devices } from '../testing/small-show.js';
import { EVEN_TOUCH } from '../touch/touch.js';
import { PlayerHost } from './player-host.js';
import { Player } from './notes/player.js';

const padKey: ShowControl = {
  ...{ action: 'nextCue', place: 'pads1' },
  message: { kind: 'note', note: 36 },
};
const songs: ShowControl = {
  ...{ action: 'chooseSong', place: 'keys1' },
  message: { kind: 'songSelect' },
};

let output: ScheduledOutput;
let player: Player;
let host: PlayerHost;
/** Who was asked or told, in order. */
let asked: unknown[][];
let ties: (device: number, status: number, data1: number) => boolean;
let nearer: boolean;
beforeEach(() => {
  asked = [];
  ties = () => false;
  nearer = false;
  output = new ScheduledOutput();
  player = new Player(output);
  host = new PlayerHost({
    player,
    act: ({ action }, value, time) => void asked.push(['act', action, value, time]),
    tied: (device, status, data1, data2, time) => {
      asked.push(['tied', device, status, data1, data2, time]);
      return ties(device, status, data1);
    },
    isNearer: () => nearer,
    seen: (...message) => void asked.push(['seen', ...message]),
    clock: (...message) => void asked.push(['clock', ...message]),
    now: () => 3,
  });
  host.setRig(devices, [padKey, songs]);
  player.take(compiled([layer('a')], { devices }));
});
const held = () => [...output.sounding.values()].sort((a, b) => a - b);
const bytes = (port: string, ...told: number[]) => host.receive(port, told);

describe('a message', () => {
  it('that does something to the show goes to nobody else, unless something nearer has it', () => {
    bytes('pad port', 0x99, 36, 80);
    expect(asked).toEqual([['act', 'nextCue', 80, 3]]);
    nearer = true;
    bytes('pad port', 0x99, 36, 0, 36, 80);
    expect(asked.slice(1).map(([who]) => who)).toEqual(['tied', 'tied']);
    const pedal: ShowControl = {
      ...{ action: 'nextCue', place: 'keys1' },
      message: { kind: 'controller', controller: 67 },
    };
    host.setRig(devices, [pedal]);
    asked.length = 0;
    bytes('upper port', 0xb0, 67, 127);
    expect(asked.map(([who]) => who)).toEqual(['tied']);
    nearer = false;
    bytes('upper port', 0xb0, 67, 0, 67, 127);
    expect(asked.slice(1).map(([who]) => who)).toEqual(['act']);
  });

  it('that is tied plays nothing, but lets go of what it held', () => {
    bytes('upper port', 0x90, 60, 100, 62, 100);
    bytes('upper port', 0xb0, 64, 127);
    bytes('upper port', 0x90, 62, 0);
    expect(held()).toEqual([60, 62]);
    ties = () => true;
    bytes('upper port', 0x90, 64, 100, 60, 100);
    bytes('upper port', 0xb0, 60, 0);
    bytes('upper port', 0x80, 60, 0);
    expect(held()).toEqual([60, 62]);
    // Aftertouch of key 64 is no pedal.
    bytes('upper port', 0xa0, 64, 0);
    expect(player.pedalDown(0, 1)).toBe(true);
    // A pedal that went down as one comes up as one; what goes down now is no pedal any more.
    bytes('upper port', 0xb0, 64, 64);
    expect(player.pedalDown(0, 1)).toBe(true);
    bytes('upper port', 0xb0, 1, 0);
    expect(held()).toEqual([60, 62]);
    bytes('upper port', 0xb0, 64, 63);
    expect(player.pedalDown(0, 1)).toBe(false);
    expect(held()).toEqual([]);
    bytes('upper port', 0xb0, 64, 127);
    expect(player.pedalDown(0, 1)).toBe(false);
  });

  it('that is tied lets a key go in either way', () => {
    for (const off of [
      [0x90, 60, 0],
      [0x80, 60, 64],
    ]) {
      ties = () => false;
      bytes('upper port', 0x90, 60, 100);
      ties = () => true;
      bytes('upper port', 0x90, 60, 100);
      bytes('upper port', 0xb0, 60, 0);
      expect(held()).toEqual([60]);
      bytes('upper port', ...off);
      expect(held()).toEqual([]);
    }
  });

  it('of the system is told as it comes, with its port and its time', () => {
    host.receive('pad port', [0xfa, 0xf8], 'pad port', 7);
    expect(asked).toEqual([
      ['clock', 'pad port', 0xfa, 0, 0, 7],
      ['clock', 'pad port', 0xf8, 0, 0, 7],
    ]);
    expect(host.last.count).toBe(0);
    asked.length = 0;
    bytes('upper port', 0xf3, 6);
    expect(asked).toEqual([['act', 'chooseSong', 6, 3]]);
  });

  it('is the last one that came, by the name of its device or of its port', () => {
    bytes('pad port', 0xb9, 20, 5);
    expect(host.last).toEqual({ count: 1, device: 'Pads', status: 0xb9, data1: 20, data2: 5 });
    host.setRig(
      devices.filter(({ kind }) => kind === 'module'),
      [],
    );
    bytes('stranger', 0xb0, 7, 8);
    expect(host.last).toEqual({ count: 2, device: 'stranger', status: 0xb0, data1: 7, data2: 8 });
    // Nobody plays it.
    bytes('stranger', 0x90, 60, 100);
    expect([asked.filter(([who]) => who === 'tied').length, held()]).toEqual([1, []]);
  });
});

describe('learning', () => {
  it('uses up whatever a hand does, and tells that it was seen', () => {
    const learnt: unknown[] = [];
    const stop = host.listenToControls((place, message) => {
      learnt.push([place, message]);
      return true;
    });
    bytes('upper port', 0xb0, 7, 1, 119, 1);
    bytes('upper port', 0x90, 61, 100);
    bytes('upper port', 0xc0, 4);
    bytes('upper port', 0xe0, 0, 64);
    bytes('upper port', 0xd0, 9);
    bytes('upper port', 0xa0, 61, 9);
    bytes('upper port', 0xf3, 2);
    expect(learnt).toEqual([
      ['keys1', { kind: 'controller', controller: 7 }],
      ['keys1', { kind: 'controller', controller: 119 }],
      ['keys1', { kind: 'note', note: 61 }],
      ['keys1', { kind: 'program', program: 4 }],
      ['keys1', { kind: 'bend' }],
      ['keys1', { kind: 'pressure' }],
      ['keys1', { kind: 'keyPressure' }],
      ['keys1', { kind: 'songSelect' }],
    ]);
    expect(asked.map(([who]) => who)).toEqual(Array.from({ length: 7 }, () => 'seen'));
    expect(asked[0]).toEqual(['seen', 0, 0xb0, 7, 1]);
    expect(held()).toEqual([]);
    const place = (port: string) => {
      learnt.length = 0;
      bytes(port, 0xf3, 2);
      return learnt.map((one) => (one as unknown[])[0]);
    };
    expect(['pad port', 'module port', 'stranger'].map(place)).toEqual([['pads1'], [], []]);
    // A release and a channel mode are nothing that could be learnt.
    learnt.length = 0;
    bytes('upper port', 0x90, 61, 0, 0x80, 61, 0, 0xb0, 120, 0);
    expect(learnt).toEqual([]);
    stop();
    bytes('upper port', 0xb0, 7, 1);
    expect(learnt).toEqual([]);
  });

  it('leaves what no listener wants to the others, and asks every listener', () => {
    let told = 0;
    host.listenToControls(() => ++told < 0);
    host.listenToControls(() => ++told > 0);
    host.listenToControls(() => ++told < 0);
    bytes('upper port', 0x90, 61, 100);
    expect([told, held()]).toEqual([3, []]);
    const acted: string[] = [];
    const other = new PlayerHost({ player, act: ({ action }) => void acted.push(action) });
    other.setRig(devices, [padKey]);
    other.receive('pad port', [0x99, 36, 80]);
    expect(acted).toEqual(['nextCue']);
    other.listenToControls(() => false);
    other.receive('upper port', [0x90, 61, 100]);
    expect(held()).toEqual([61]);
  });
});

describe('what comes while learning', () => {
  it('from nobody of the rig is left alone, and a release still lets go', () => {
    bytes('upper port', 0x90, 60, 100);
    host.listenToControls(() => true);
    bytes('upper port', 0x80, 60, 0);
    expect(held()).toEqual([]);
    host.setRig([], []);
    bytes('stranger', 0xb0, 7, 1);
    expect(host.last.device).toBe('stranger');
  });
});

describe('a struck key', () => {
  it('is told to fields as the layers hear it', () => {
    const told: unknown[] = [];
    const touch = { ...EVEN_TOUCH, inLow: 20, below: 'silent' as const };
    host.setRig([keyboard('upper', { octaveShift: 1, touch, port: 'upper port' })], []);
    const stop = host.listenToKeys((...key) => told.push(key));
    bytes('upper port', 0x90, 60, 127, 60, 0, 60, 10, 115, 127, 116, 127);
    player.shiftDevice(0, -12);
    bytes('upper port', 0x90, 11, 127, 0, 127);
    expect(told).toEqual([
      [72, 127, 'upper'],
      [127, 127, 'upper'],
      [11, 127, 'upper'],
      [0, 127, 'upper'],
    ]);
    stop();
    bytes('upper port', 0x90, 62, 127);
    expect(told).toHaveLength(4);
    // A controller is no key, nor is a release.
    host.setRig([keyboard('upper', { port: 'upper port' })], []);
    host.listenToKeys((...key) => told.push(key));
    bytes('upper port', 0xb0, 60, 100);
    bytes('upper port', 0x80, 60, 100);
    bytes('upper port', 0x90, 60, 0);
    expect(told).toHaveLength(4);
    // Below the lowest key there is none.
    host.listenToKeys((...key) => told.push(key));
    player.shiftDevice(0, -24);
    bytes('upper port', 0x90, 11, 127);
    expect(told).toHaveLength(4);
  });
});

describe('what is long or broken', () => {
  it('is tapped with its bytes, its length and what is wrong with it', () => {
    const told: unknown[] = [];
    const stop = host.tapLong((time, port, status, data, length, fault) =>
      told.push([time, port, status, [...data].slice(0, length), length, fault]),
    );
    bytes('pad port', 0xf0, 0x7d, 1, 0xf7);
    bytes('pad port', 5, 6);
    expect(told[0]).toEqual([3, 'pad port', 0xf0, expect.anything(), expect.anything(), null]);
    expect(told.slice(1).every((one) => (one as unknown[])[2] === 0)).toBe(true);
    expect(host.brokenBytes).toBe(2);
    const count = told.length;
    let others = 0;
    host.tapLong(() => others++);
    stop();
    bytes('pad port', 0xf0, 0x7d, 1, 0xf7);
    expect([told.length, others]).toEqual([count, 1]);
  });
});

describe('a rig that changes', () => {
  const upper = keyboard('upper', { port: 'upper port' });
  const lower = keyboard('lower', { port: 'lower port' });
  const module = devices.filter(({ kind }) => kind === 'module');
  const play = () => {
    host.setRig([upper, lower, ...module], []);
    player.take(compiled([layer('a')], { devices: [upper, lower] }));
    player.allNotesOff();
    bytes('upper port', 0x90, 60, 100);
    bytes('lower port', 0x91, 72, 100);
    expect(held()).toEqual([60, 72]);
  };

  it('ends everything when devices change places, and their octaves go with them', () => {
    play();
    player.shiftDevice(1, 12);
    host.setRig([lower, upper, ...module], []);
    expect([held(), player.shiftOf(0), player.shiftOf(1)]).toEqual([[], 12, 0]);
    player.shiftDevice(0, 0);
    play();
    host.setRig([upper, lower], []);
    expect(held()).toEqual([]);
  });
});
