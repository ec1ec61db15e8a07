import { describe, expect, it } from 'vitest';
import type { Device } from '../model/rig/rig.js';
import { keyboard } from '../testing/fixtures.js';
import { devices as stage } from '../testing/small-show.js';
import { senderAt, senderOn } from './senders.js';

const [, pads, pedal, module] = stage;
const rig: Device[] = [
  module,
  pedal,
  keyboard('upper', { port: 'upper port', channel: 1 }),
  keyboard('lower', { port: 'shared', channel: 2 }),
  { ...pads, port: 'shared' },
];

describe('who sent a message', () => {
  it('is the device on its port with its channel, else the first on the port that sends at all', () => {
    expect(senderOn(rig, 'upper port', 1)).toBe(2);
    expect(senderOn(rig, 'upper port', 9)).toBe(2);
    expect(senderOn(rig, 'shared', 2)).toBe(3);
    expect(senderOn(rig, 'shared', 10)).toBe(4);
    expect(senderOn(rig, 'shared', 5)).toBe(3);
  });

  it('is the keyboard of the channel, else the first, for a port that nobody knows', () => {
    expect(senderOn(rig, 'borrowed', 2)).toBe(3);
    // Pads are not played by a borrowed keyboard, whatever it sends on.
    expect(senderOn(rig, 'borrowed', 10)).toBe(2);
    expect(senderOn([module, pedal], 'borrowed', 1)).toBe(-1);
    expect(senderOn([], 'borrowed', 1)).toBe(-1);
  });

  it('is found by place: a pedal speaks through what it is plugged into', () => {
    expect(senderAt(rig, 'keys1')).toBe(2);
    expect(senderAt(rig, 'pads1')).toBe(4);
    expect(senderAt(rig, 'pedal3')).toBe(2);
    expect(senderAt(rig, 'keys9')).toBe(-1);
    const standsIn = rig.map((device) =>
      device.id === 'lower' ? { ...device, alsoAt: ['keys9' as const] } : device,
    );
    expect(senderAt(standsIn, 'keys9')).toBe(3);
  });
});
