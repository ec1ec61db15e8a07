import { Injector, runInInjectionContext, signal } from '@angular/core';
import type { ControlBox, Keyboard } from '@pentachord/core/model';
import { PlayerHost, type Player } from '@pentachord/core/playing';
import { EVEN_TOUCH } from '@pentachord/core/touch';
import { beforeEach, describe, expect, it } from 'vitest';
import { TouchWait } from '../../live/hands/touch-wait';
import { Live } from '../../live/live';
import { TieEditing } from '../../state/editing/tie-editing';
import { TieLearning } from './tie-learning';

const sender = { rigId: 'rig', at: null, alsoAt: [], heardAs: null };
const upper: Keyboard = {
  kind: 'keyboard',
  ...sender,
  ...{ id: 'upper', position: 0, name: 'Upper', place: 'keys1', port: 'upper', channel: 1 },
  settings: { known: null, wanted: {} },
  ...{ lowestKey: 28, highestKey: 103, octaveShift: 0, touch: EVEN_TOUCH },
};
const box: ControlBox = {
  kind: 'controlBox',
  ...sender,
  ...{ id: 'box', position: 1, name: 'Box', place: 'pads1', port: 'box', channel: 10 },
  settings: { known: null, wanted: {} },
  padNotes: [36, 37],
  knobControllers: [20, 74],
};

describe('a control that is learnt', () => {
  let host: PlayerHost;
  let learning: TieLearning;
  /** What came through to be played. */
  let played: number[][];
  beforeEach(() => {
    played = [];
    const player = {
      message: (...message: number[]) => played.push(message),
      noteOff: () => undefined,
      shiftOf: () => 0,
    };
    host = new PlayerHost({ player: player as unknown as Player, act: () => undefined });
    host.setRig([upper, box], []);
    const injector = Injector.create({
      providers: [
        { provide: Live, useValue: { host, touchWait: () => new TouchWait<true>() } },
        { provide: TieEditing, useValue: { devices: signal([upper, box]) } },
      ],
    });
    learning = runInInjectionContext(injector, () => new TieLearning());
  });
  const turn = (number: number, ...values: number[]) =>
    values.forEach((value) => host.receive('box', [0xb9, number, value]));

  it('is the knob, pad, key or wheel that moves first, and plays nothing meanwhile', () => {
    learning.wait();
    turn(74, 5);
    expect(learning.touched()).toEqual({
      ...{ place: 'pads1', message: { kind: 'knob', knob: 1 }, reads: null },
    });
    turn(74, 6, 7);
    expect(played).toEqual([]);
    // Everything else goes on playing.
    host.receive('upper', [0x90, 60, 80]);
    expect(played).toHaveLength(1);
    learning.stop();
    turn(74, 8);
    expect(played).toHaveLength(2);
    for (const [bytes, kind] of [
      [[0x99, 36, 90], 'pad'],
      [[0xd9, 40], 'pressure'],
      [[0xe9, 0, 70], 'bend'],
    ] as const) {
      learning.wait();
      host.receive('box', [...bytes]);
      expect(learning.touched()?.message.kind).toBe(kind);
      learning.stop();
    }
  });

  it('is listened to until it tells how it speaks: with ends, endless, or in two numbers', () => {
    const reads = (number: number, ...values: number[]) => {
      learning.wait();
      turn(number, ...values);
      const found = learning.touched()?.reads;
      learning.stop();
      return found;
    };
    expect(reads(20, 60, 61, 62, 63)).toBe('position');
    expect(reads(20, 1, 1, 127, 1, 127, 127)).toBe('twos');
    expect(reads(20, 65, 65, 63, 63, 65)).toBe('offset');
    learning.wait();
    turn(20, 64);
    turn(52, 12);
    expect(learning.touched()?.reads).toBe('fine');
    turn(20, 65, 65, 63, 63);
    expect(learning.touched()?.reads).toBe('fine');
  });

  it('is waited for no more when asked again, or when nobody looks any more', () => {
    learning.wait();
    expect(learning.waiting()).toBe(true);
    learning.wait();
    expect(learning.waiting()).toBe(false);
    turn(20, 1);
    expect(learning.touched()).toBeNull();
    expect(played).toHaveLength(1);
  });
});
