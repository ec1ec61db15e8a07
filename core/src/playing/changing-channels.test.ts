import { beforeEach, describe, expect, it } from 'vitest';
import { newLayer } from '../model/patch/layer.js';
import type { Device } from '../model/rig/rig.js';
import { COMMAND } from '../sampler/command-ring.js';
import { compileRig } from '../routing/compile.js';
import { devices, patchOf, plan, SmallShow } from '../testing/small-show.js';

const [upper, ...others] = devices;
const first = patchOf('first', 'house');
const place = {
  ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
  ...{ soloed: new Set<string>(), asCue: true, showtime: false },
};
let small: SmallShow;

/** Plays on a rig whose upper keyboard is otherwise, with these layers. */
function play(changes: Partial<Device>, layers = first.layers): void {
  const rig = [{ ...upper, ...changes } as Device, ...others];
  small.live.follow(
    {
      ...{ ...plan, devices: rig, rig: compileRig(rig) },
      patches: { ...plan.patches, first: { ...first, layers } },
    },
    place,
  );
}
const started = () => small.ofKind(COMMAND.start).length;
const keys = (...bytes: number[]) => small.host.receive('upper port', bytes);
beforeEach(() => {
  small = new SmallShow();
});

describe('a keyboard that is heard on another channel', () => {
  const onFive = [{ ...newLayer('layer', 'Layer', 'sound'), channel: 5 as const }];

  it('has its wheels and pedals there too', () => {
    play({ heardAs: 5 }, onFive);
    keys(0xb0, 64, 127);
    expect([small.player.pedalDown(0, 5), small.player.pedalDown(0, 1)]).toEqual([true, false]);
    keys(0xb0, 64, 0);
    expect(small.player.pedalDown(0, 5)).toBe(false);
  });

  it('leaves nothing when the translation changes while keys and pedal are down', () => {
    play({});
    keys(0xb0, 64, 127, 0x90, 60, 90, 64, 90);
    keys(0x80, 64, 0);
    expect(small.player.voicesHeld).toBe(2);
    play({ heardAs: 9 });
    expect(small.player.voicesHeld).toBe(0);
    keys(0x80, 60, 0, 0xb0, 64, 0, 0x90, 60, 90);
    expect(small.player.voicesHeld).toBe(1);
    keys(0x80, 60, 0);
    expect(small.player.voicesHeld).toBe(0);
  });
});

describe('a keyboard that changes its own channel', () => {
  it('ends on the new one what it began on the old', () => {
    play({});
    keys(0x90, 60, 90, 64, 90);
    keys(0x83, 60, 0);
    expect(small.player.voicesHeld).toBe(1);
    expect(small.player.velocityOf(0, 60)).toBe(0);
    keys(0x83, 64, 0);
    expect(small.player.voicesHeld).toBe(0);
  });

  it('lifts on the new one the pedal that went down on the old', () => {
    play({});
    keys(0xb0, 64, 127, 0x90, 60, 90, 60, 0);
    expect(small.player.voicesHeld).toBe(1);
    keys(0xb4, 64, 0);
    expect(small.player.voicesHeld).toBe(0);
    expect(small.player.pedalDown(0, 1)).toBe(false);
  });

  it('is told from one that sends on two: what is held on the other goes on', () => {
    play({});
    keys(0x90, 60, 90, 0x91, 60, 90);
    expect(small.player.voicesHeld).toBe(2);
    keys(0x81, 60, 0);
    expect(small.player.voicesHeld).toBe(1);
    keys(0x80, 60, 0);
    expect(small.player.voicesHeld).toBe(0);
    // And a pedal on one channel is no business of the other's.
    keys(0xb0, 64, 127, 0xb1, 64, 127, 0xb1, 64, 0);
    expect(small.player.pedalDown(0, 1)).toBe(true);
  });

  it('ends on one channel only what was struck there when all notes of it are put off', () => {
    play({});
    keys(0x90, 60, 90, 0x91, 64, 90);
    keys(0xb1, 123, 0);
    expect(small.player.voicesHeld).toBe(1);
    expect([small.player.velocityOf(0, 60), small.player.velocityOf(0, 64)]).toEqual([90, 0]);
  });
});

describe('a device that stands in for a place', () => {
  it('plays the layers of that place and brings its controls', () => {
    const lower = [{ ...newLayer('layer', 'Layer', 'sound'), keyboards: ['keys2' as const] }];
    play({}, lower);
    keys(0x90, 60, 90);
    expect([started(), small.player.silentNoteCount]).toEqual([0, 1]);
    keys(0x80, 60, 0);
    play({ alsoAt: ['keys2'] }, lower);
    keys(0x90, 60, 90);
    expect(started()).toBe(1);
  });
});

describe('a port that goes', () => {
  it('ends what its devices hold, a borrowed keyboard’s too, and a module’s nothing of theirs', () => {
    play({});
    keys(0x90, 60, 90);
    small.host.portGone('module port');
    expect(small.player.voicesHeld).toBe(1);
    small.host.receive('borrowed', [0x90, 64, 90]);
    expect(small.player.voicesHeld).toBe(2);
    small.host.portGone('upper port');
    expect(small.player.voicesHeld).toBe(0);
    small.host.receive('borrowed', [0x90, 67, 90]);
    small.host.portGone('borrowed');
    expect(small.player.voicesHeld).toBe(0);
  });
});
