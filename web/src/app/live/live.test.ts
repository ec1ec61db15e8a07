import { Injector, runInInjectionContext } from '@angular/core';
import {
  newCue,
  newLayer,
  newPatch,
  newPatchSound,
  newShow,
  newSong,
  songEntry,
  type Keyboard,
  type Sound,
  type SoundModule,
} from '@pentachord/core/model';
import type { NowPlaying, ShowPlan } from '@pentachord/core/playing';
import { compileRig } from '@pentachord/core/routing';
import { steps } from '@pentachord/core/setlist';
import { StandInModule } from '@pentachord/core/stand-ins';
import { EVEN_TOUCH } from '@pentachord/core/touch';
import { afterAll, afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Live } from './live';
import { PlayingWindow } from './window/playing-window';

/** A worker that does nothing. */
class IdleWorker extends EventTarget {
  postMessage(): void {
    // Nobody asks what was said.
  }
}

const upper: Keyboard = {
  ...{
    kind: 'keyboard',
    id: 'upper',
    rigId: 'rig',
    position: 0,
    name: 'Upper',
    port: 'stand-in upper',
  },
  ...{
    place: 'keys1',
    at: null,
    alsoAt: [],
    heardAs: null,
    settings: { known: null, wanted: {} },
    lowestKey: 28,
    highestKey: 103,
    channel: 1,
    octaveShift: 0,
    touch: EVEN_TOUCH,
  },
};
const songs = new Map([['song', newSong('song', 'Song')]]);
const patch = {
  ...newPatch('patch', 'song', 0, 'Patch'),
  sounds: [newPatchSound('sound', 'house-felt-piano')],
  layers: [newLayer('layer', 'Layer', 'sound')],
};
const cues = Object.fromEntries(
  ['one', 'two', 'three', 'four'].map((id, at) => [id, newCue(id, 'song', at, id, 'patch')]),
);
const show = { ...newShow('show', 'Show', '2027-01-01', 'rig'), order: [songEntry('e', 'song')] };
const plan: ShowPlan = {
  ties: [],
  ...{
    show,
    songs,
    cues,
    devices: [upper],
    rig: compileRig([upper]),
    sounds: new Map(),
    patterns: new Map(),
  },
  patches: { patch },
  steps: steps(show.order, songs, Object.values(cues)),
};
const at = (cueId: string): NowPlaying => ({
  ...{ entryId: 'e', songId: 'song', cueId, patchId: 'patch' },
  ...{ soloed: new Set<string>(), asCue: true, showtime: true },
});

let live: Live;
let told: (string | null)[];
beforeEach(() => {
  vi.stubGlobal('Worker', IdleWorker);
  vi.stubGlobal('navigator', {});
  const injector = Injector.create({ providers: [PlayingWindow] });
  live = runInInjectionContext(injector, () => new Live());
  told = [];
  live.onStep = ({ cueId }) => told.push(cueId);
  live.open();
  live.follow(plan, at('one'));
});
afterEach(() => vi.unstubAllGlobals());
const heard = (count: number) => vi.waitFor(() => expect(told).toHaveLength(count));

describe('the player ahead of the desk', () => {
  it('is at the next cue before anybody is told, and everybody is told in order', async () => {
    live.runner.move(1);
    live.runner.move(1);
    expect(live.runner.isAt(at('three'))).toBe(true);
    expect(told).toEqual([]);
    await heard(2);
    expect(told).toEqual(['two', 'three']);
  });

  it('is not taken back by a desk that has not heard of it', async () => {
    live.runner.move(1);
    // Something was saved meanwhile: the desk says anew where it thinks that the player is.
    live.follow({ ...plan }, at('one'));
    expect(live.runner.isAt(at('two'))).toBe(true);
    await heard(1);
    expect(live.runner.isAt(at('two'))).toBe(true);
    live.follow(plan, at('two'));
    live.follow(plan, at('four'));
    expect(live.runner.isAt(at('four'))).toBe(true);
  });

  it('takes over what was changed meanwhile, once both are at one place again', async () => {
    live.runner.move(1);
    const edited = { ...patch, layers: [{ ...patch.layers[0], name: 'Edited' }] };
    live.follow({ ...plan, patches: { patch: edited } }, at('two'));
    expect(live.runner.current?.layers[0].name).toBe('Layer');
    await heard(1);
    await vi.waitFor(() => expect(live.runner.current?.layers[0].name).toBe('Edited'));
  });
});

describe('the sounds of a show', () => {
  it('are told by name as long as they are to come', () => {
    const piano = {
      ...{ id: 'house-felt-piano', name: 'Felt piano', category: 'pianos' as const, tags: [] },
      ...{ favourite: false, lowestNote: 0, highestNote: 127 },
      origin: { kind: 'house' as const, recipe: 'felt-piano' },
    };
    live.follow({ ...plan, sounds: new Map([[piano.id, piano]]) }, at('one'));
    expect(live.showSounds.fetched).toEqual({ of: 1, made: 0, coming: ['Felt piano'], failed: [] });
  });
});

describe('a stand-in that is pulled out', () => {
  const cable = new BroadcastChannel('pentachord cable');
  afterAll(() => cable.close());
  const plug = async (plugged: boolean) => {
    cable.postMessage({ direction: 'plug', port: upper.port, plugged });
    await vi.waitFor(() => expect(live.isThere(upper.port)).toBe(plugged));
  };
  const strike = () =>
    cable.postMessage({ direction: 'in', port: upper.port, bytes: [0x90, 60, 90] });

  it('ends what it held, is told of once, and is not heard until it is plugged in again', async () => {
    const ports: [string, boolean][] = [];
    live.onPort = (port, there) => ports.push([port, there]);
    strike();
    await vi.waitFor(() => expect(live.player.noteCount).toBe(1));
    expect(live.player.voicesHeld).toBe(1);
    await plug(false);
    expect(live.player.voicesHeld).toBe(0);
    strike();
    await plug(true);
    expect(live.player.noteCount).toBe(1);
    strike();
    await vi.waitFor(() => expect(live.player.noteCount).toBe(2));
    expect(ports).toEqual([
      [upper.port, false],
      [upper.port, true],
    ]);
  });

  it('leaves every message that came and went in the log', async () => {
    strike();
    await vi.waitFor(() => expect(live.log.count).toBeGreaterThan(0));
    expect(live.log.at(0)).toMatchObject({ way: 'in', port: upper.port, status: 0x90, data1: 60 });
    const before = live.log.count;
    live.sendTo('stand-in module', [0xb2, 7, 100, 0xc2, 4]);
    expect(live.log.at(before)).toMatchObject({ way: 'out', status: 0xb2, data1: 7, data2: 100 });
    expect(live.log.at(before + 1)).toMatchObject({ way: 'out', status: 0xc2, data1: 4 });
    live.sendTo('stand-in module', [0xf0, 0x7d, 1, 0xf7]);
    expect(live.log.at(before + 2)?.long).toEqual({ bytes: [0x7d, 1], length: 2, fault: '' });
    // What answers it is being fetched.
    await import('./ports/stand-in-memories');
  });
});

describe('a module that is pulled out', () => {
  it('is silent, and is told its own things anew when one is plugged in again; another plays on', async () => {
    const cable = new BroadcastChannel('pentachord cable');
    const module = (id: 'module1' | 'module2'): SoundModule => ({
      ...{ kind: 'module', id, rigId: 'rig', position: 1, name: id, port: `stand-in ${id}` },
      ...{ place: id, at: null, alsoAt: [], channels: [3] },
    });
    const outside = (place: 'module1' | 'module2'): [string, Sound] => [
      place,
      {
        ...{ id: place, name: place, category: 'pianos', tags: [], favourite: false },
        ...{ lowestNote: 0, highestNote: 127 },
        origin: { kind: 'outside', place, channel: 3, bank: null, program: 7 },
      },
    ];
    const devices = [upper, module('module1'), module('module2')];
    const both = ['module1', 'module2'].map((id) => newPatchSound(id, id));
    const layers = both.map(({ id }) => newLayer(id, id, id));
    const sounds = new Map([outside('module1'), outside('module2')]);
    const patches = { patch: { ...patch, sounds: both, layers } };
    live.follow({ ...plan, devices, rig: compileRig(devices), sounds, patches }, at('one'));
    live.receive(upper.port, [0x90, 60, 90]);
    const silenced = vi.spyOn(StandInModule.prototype, 'silence');
    const before = live.log.count;
    for (const plugged of [false, true]) {
      cable.postMessage({ direction: 'plug', port: 'stand-in module1', plugged });
      await vi.waitFor(() => expect(live.isThere('stand-in module1')).toBe(plugged));
    }
    cable.close();
    expect(silenced).toHaveBeenCalledOnce();
    live.receive(upper.port, [0x80, 60, 0]);
    const sent = Array.from({ length: live.log.count - before }, (_, at) =>
      live.log.at(before + at),
    );
    const to = (port: string) =>
      sent.filter((line) => line?.way === 'out' && line.port === port).map((line) => line?.status);
    expect(to('stand-in module1')).toContain(0xc2);
    expect(to('stand-in module2')).toEqual([0x82]);
  });
});

describe('a window that is told to be silent', () => {
  it('ends what it held, hears, follows and steps nothing, and goes on where the desk is', () => {
    const key = (status: number) => live.receive(upper.port, [status, 60, 90]);
    key(0x90);
    expect(live.player.voicesHeld).toBe(1);
    const part = live.window as unknown as { part: { begin(): void; stop(): void } };
    part.part.stop();
    expect([live.isOpen, live.player.voicesHeld]).toEqual([false, 0]);
    key(0x90);
    live.follow(plan, at('four'));
    expect(live.order((orders) => orders.press('nextCue'))).toBe(false);
    expect([live.player.noteCount, live.runner.isAt(at('one'))]).toEqual([1, true]);
    part.part.begin();
    expect([live.isOpen, live.runner.isAt(at('four'))]).toEqual([true, true]);
    key(0x90);
    expect(live.player.noteCount).toBe(2);
  });
});
