import { beforeEach, describe, expect, it } from 'vitest';
import type { CompiledLayer } from '../../routing/compile.js';
import { compiled, layer } from '../../testing/fixtures.js';
import { OutsideChannels, type OutsidePart } from './outside-channels.js';
import { OutsideVoices, volumeOf } from './outside-voices.js';

let now: number;
let sent: number[][];
let voices: OutsideVoices;
let channels: OutsideChannels;
beforeEach(() => {
  now = 0;
  sent = [];
  voices = new OutsideVoices(() => now);
  channels = new OutsideChannels(voices);
});
const port = { name: 'module', send: (bytes: readonly number[]) => void sent.push([...bytes]) };
const layers = compiled([layer('a', { pan: -1 }), layer('b', { pan: 1 }), layer('c')]).layers;
const [a, b, c] = layers;
const part = (
  one: CompiledLayer,
  level: number,
  { channel = 1, isAsked = true, program = 0 } = {},
): OutsidePart => ({
  ...{ layer: one, level, isAsked },
  target: { port, channel, bank: null, program },
});
/** Volumes by channel, as they were sent last. */
const volumes = () => {
  const last = new Map<number, number>();
  for (const [status, controller, value] of sent)
    if (controller === 7) last.set((status & 15) + 1, value);
  return last;
};

describe('layers that share a channel of a module', () => {
  it('are moved each by itself, and the channel with the loudest', () => {
    channels.set([part(a, -20), part(b, -6)], 0);
    channels.move(b, -30, 0);
    expect(volumes().get(1)).toBe(volumeOf(-20));
    expect([a, b].map((one) => channels.trimOf(one))).toEqual([0, -10]);
    channels.move(a, 0, 2);
    now = 1;
    voices.advance();
    expect(volumes().get(1)).toBe(volumeOf(-10));
    sent.length = 0;
    channels.move(c, -1, 0);
    expect([sent, channels.trimOf(c)]).toEqual([[], 0]);
  });

  it('stay where a hand has moved them while nothing else is asked for', () => {
    channels.set([part(a, -20), part(c, -9, { channel: 2 })], 0);
    channels.move(a, -3, 0);
    const again = (level: number, isAsked: boolean) => {
      channels.set([part(c, -9, { channel: 2, isAsked: false }), part(a, level, { isAsked })], 0);
      return volumes().get(1);
    };
    expect(again(-20, false)).toBe(volumeOf(-3));
    expect(volumes().get(2)).toBe(volumeOf(-9));
    // The desk, or a cue, has another mind.
    expect(again(-21, true)).toBe(volumeOf(-21));
    channels.move(a, -3, 0);
    expect(again(-21, false)).toBe(volumeOf(-3));
    expect(again(-21, true)).toBe(volumeOf(-21));
  });

  it('are as they are asked for where they were not there before', () => {
    channels.set([part(a, -20, { isAsked: false })], 0);
    expect(volumes().get(1)).toBe(volumeOf(-20));
    channels.set([], 0);
    expect(channels.trimOf(a)).toBe(0);
    channels.set([part(a, -20, { isAsked: false })], 0);
    expect(volumes().get(1)).toBe(volumeOf(-20));
  });
});
