import { beforeEach, describe, expect, it } from 'vitest';
import { IncomingClock } from '../clock/incoming-clock.js';
import { demoRig, keyboard } from '../testing/fixtures.js';
import { ScheduledOutput } from '../testing/scheduled-output.js';
import { EVEN_TOUCH } from '../touch/touch.js';
import { PlayerHost } from './player-host.js';
import { Player } from './notes/player.js';

let now: number;
let host: PlayerHost;
let clock: IncomingClock;
beforeEach(() => {
  now = 10;
  clock = new IncomingClock();
  host = new PlayerHost({
    player: new Player(new ScheduledOutput()),
    clock: (_port, ...message) => clock.take(...message),
    act: () => undefined,
    now: () => now,
  });
  host.setRig(demoRig, []);
});
const [upper] = demoRig;
const port = upper.kind === 'module' ? '' : upper.port;

describe('a tap', () => {
  it('sees every message with its time and device, clock messages too, until it is taken off', () => {
    const seen: unknown[] = [];
    const stop = host.tap((...message) => seen.push(message));
    host.receive(port, [0x90, 60, 0xf8, 100]);
    host.receive(port, [0xb0, 1, 20], port, 9.5);
    expect(seen).toEqual([
      [10, port, -1, 0xf8, 0, 0],
      [10, port, 0, 0x90, 60, 100],
      [9.5, port, 0, 0xb0, 1, 20],
    ]);
    stop();
    host.receive(port, [0x90, 61, 100]);
    expect(seen).toHaveLength(3);
  });

  it('can be taken off by what it sees, and the others see on', () => {
    const seen: number[] = [];
    const stop = host.tap(() => stop());
    host.tap((_time, _port, _device, _status, data1) => seen.push(data1));
    host.receive(port, [0x90, 60, 100, 61, 100]);
    expect(seen).toEqual([60, 61]);
  });
});

describe('a key that is played to set something', () => {
  it('counts as the layers hear it, after the keyboard’s own octave shift and touch', () => {
    const heard: number[][] = [];
    host.listenToKeys((key, velocity) => heard.push([key, velocity]));
    const touch = { ...EVEN_TOUCH, inLow: 20, below: 'silent' as const, outHigh: 100 };
    host.setRig([keyboard('upper', { octaveShift: 1, touch })], []);
    host.receive(port, [0x90, 60, 127, 60, 10, 120, 127]);
    expect(heard).toEqual([[72, 100]]);
  });
});
