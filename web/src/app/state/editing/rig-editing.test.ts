import { createEnvironmentInjector, Injector, type EnvironmentInjector } from '@angular/core';
import {
  newLayer,
  newPatch,
  newPatchSound,
  newRig,
  newShow,
  newSong,
} from '@pentachord/core/model';
import { NEUTRAL_KINDS, newDevice } from '@pentachord/core/rig';
import { provideStore, Store } from '@ngrx/store';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { loading } from '../loading/loading';
import { metaReducers, reducers, type AppState } from '../reducers';
import { selectUndo } from './selectors';
import { selectDevices, selectLabels, selectThings } from '../selectors';
import { session } from '../session/session';
import { StatusLine } from '../session/status-line';
import { Editing } from './editing';
import { history } from './history';
import { RigEditing } from './rig-editing';

const kindOf = (id: string) => {
  const kind = NEUTRAL_KINDS.find((one) => one.id === id);
  if (!kind) throw new Error(`there is no kind ${id}`);
  return kind;
};
const upper = newDevice(kindOf('keys-76'), 'upper', 'home', []);
const lower = newDevice(kindOf('keys-61'), 'lower', 'home', [upper]);
const only = newDevice(kindOf('keys-88'), 'only', 'club', []);
const patch = {
  ...newPatch('patch', 'song', 0, 'A patch'),
  sounds: [newPatchSound('tine', 'house-tine')],
  layers: ['a', 'b'].map((id) => ({ ...newLayer(id, id, 'tine'), channel: 7 as const })),
};
const saved = <T>(value: T) => ({ revision: 1, value });

let injector: EnvironmentInjector;
let store: Store<AppState>;
let rigs: RigEditing;
let said: StatusLine;
beforeEach(() => {
  injector = createEnvironmentInjector(
    [provideStore(reducers, { metaReducers }), Editing, RigEditing, StatusLine],
    Injector.create({ providers: [] }) as EnvironmentInjector,
  );
  store = injector.get<Store<AppState>>(Store);
  store.dispatch(
    loading.loaded({
      repertoire: {
        database: 'tested',
        rigs: [saved(newRig('home', 'Home')), saved(newRig('club', 'Club'))],
        shows: [saved(newShow('show', 'Show', '2027-01-01', 'home'))],
        devices: [upper, lower, only].map(saved),
        songs: [saved(newSong('song', 'Song'))],
        patches: [saved(patch)],
        cues: [],
      },
      ...{
        sounds: [],
        patterns: [],
        keepsakes: [],
        showId: 'show',
        wasHere: true,
        unsaved: [],
        isKept: false,
      },
    }),
  );
  store.dispatch(session.patchOpened({ patchId: 'patch' }));
  rigs = injector.get(RigEditing);
  said = injector.get(StatusLine);
});
afterEach(() => injector.destroy());

const now = <T>(selector: (state: AppState) => T) => store.selectSignal(selector)();
const undo = () => store.dispatch(history.undo());

describe('rigs', () => {
  it('are the open show’s until another is looked at', () => {
    expect(rigs.rig()?.id).toBe('home');
    expect(rigs.devices().map(({ id }) => id)).toEqual(['upper', 'lower']);
    rigs.look('club');
    expect(rigs.devices().map(({ id }) => id)).toEqual(['only']);
    expect(rigs.usedBy()).toEqual([]);
  });

  it('are made, copied with devices of their own, and removed unless a show is played there', () => {
    rigs.copyRig();
    const copy = rigs.rig();
    expect(copy?.name).toBe('Home 2');
    expect(rigs.devices().map(({ name }) => name)).toEqual([upper.name, lower.name]);
    expect(rigs.devices().map(({ id }) => id)).not.toContain('upper');
    rigs.removeRig();
    expect(Object.keys(now(selectThings).rigs)).toEqual(['home', 'club']);
    expect(Object.keys(now(selectThings).devices)).toHaveLength(3);
    undo();
    expect(Object.keys(now(selectThings).devices)).toHaveLength(5);
    rigs.look('home');
    rigs.removeRig();
    expect(said.words()).toBe('“Home” stays: Show is played on it.');
    expect(now(selectThings).rigs).toHaveProperty('home');
  });

  it('hold devices that are added, changed by one movement as one step, and taken out', () => {
    const id = rigs.add(kindOf('pads'));
    expect(rigs.devices().at(-1)).toMatchObject({ id, place: 'pads1', channel: 3 });
    for (const x of [10, 20, 30])
      rigs.change('upper', { at: { x, y: 5 } }, 'device moved', 'one movement');
    expect(rigs.devices()[0].at).toEqual({ x: 30, y: 5 });
    expect(now(selectUndo).undo).toContain('device moved');
    undo();
    expect(rigs.devices()[0].at).toBeNull();
    rigs.remove(rigs.devices()[1]);
    expect(rigs.devices().map((device) => device.id)).toEqual(['upper', id]);
  });
});

describe('channels', () => {
  it('bear labels, and a stack of layers is moved from one to another at once', () => {
    const labels = Array.from({ length: 16 }, (_, at) => (at === 6 ? 'parked stack' : ''));
    rigs.changeRig({ labels }, 'channel named');
    expect(now(selectLabels)[6]).toBe('parked stack');
    rigs.moveStack(7, 9);
    const channels = () => now(selectThings).patches['patch']?.layers.map(({ channel }) => channel);
    expect(channels()).toEqual([9, 9]);
    undo();
    expect(channels()).toEqual([7, 7]);
  });

  it('are mended for devices and layers in one step', () => {
    rigs.mend({
      words: 'mended',
      devices: { lower: { heardAs: 7 } },
      layers: { a: { channel: 'any' } },
    });
    expect(rigs.devices()[1]).toMatchObject({ heardAs: 7 });
    expect(now(selectThings).patches['patch']?.layers[0].channel).toBe('any');
    undo();
    expect(rigs.devices()[1]).toMatchObject({ heardAs: null });
    expect(now(selectThings).patches['patch']?.layers[0].channel).toBe(7);
  });
});

it('a show is moved with what stands in, in one step; its songs stay as they are', () => {
  const before = now(selectThings).patches;
  rigs.moveShow('club', new Map([['keys2', 'keys1']]));
  expect(now(selectDevices)).toMatchObject([{ id: 'only', alsoAt: ['keys2'] }]);
  expect(rigs.rig()?.id).toBe('club');
  expect(now(selectThings).patches).toBe(before);
  undo();
  expect(now(selectDevices).map(({ id }) => id)).toEqual(['upper', 'lower']);
  expect(now(selectThings).devices['only']?.alsoAt).toEqual([]);
});
