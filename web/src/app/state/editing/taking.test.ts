import { createEnvironmentInjector, Injector, type EnvironmentInjector } from '@angular/core';
import { shelf } from '@pentachord/core/library';
import {
  MOST_CONTROLS,
  newChooser,
  newCue,
  newLayer,
  newRig,
  newPatch,
  newPatchSound,
  newShow,
  newSong,
  newTreatment,
  usualManner,
  type Keepsake,
  type Tie,
  type Keyboard,
  type Patch,
  type Sound,
} from '@pentachord/core/model';
import { noteName } from '@pentachord/core/pitch';
import { withCue } from '@pentachord/core/setlist';
import { EVEN_TOUCH } from '@pentachord/core/touch';
import { provideStore, Store } from '@ngrx/store';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { AddedInCue } from './added-in-cue';
import { Editing } from './editing';
import { history } from './history';
import { loading } from '../loading/loading';
import { machine } from '../machine/machine';
import { preferences } from '../machine/preferences';
import { measured } from '../machine/measured';
import { PatchEditing } from './patch-editing';
import { metaReducers, reducers, type AppState } from '../reducers';
import { selectCost, selectResponses, selectSharing, selectUnmeasured } from '../machine/selectors';
import {
  selectKeepsakes,
  selectMiddleC,
  selectPatch,
  selectPatchesOfSong,
  selectSession,
  selectThings,
  selectUses,
} from '../selectors';
import { session } from '../session/session';
import { showEdits } from './show-edits';
import { StatusLine } from '../session/status-line';
import { PatchesOfSong } from './patches-of-song';
import { Carrying } from './carrying';
import { Taking } from './taking';
import { TieEditing } from './tie-editing';

const song = newSong('song', 'Song');
const upper: Keyboard = {
  kind: 'keyboard',
  id: 'upper',
  rigId: 'rig',
  position: 0,
  name: 'Upper',
  place: 'keys1',
  port: 'upper',
  at: null,
  alsoAt: [],
  heardAs: null,
  settings: { known: null, wanted: {} },
  lowestKey: 28,
  highestKey: 103,
  channel: 1,
  octaveShift: 0,
  touch: EVEN_TOUCH,
};
const patch: Patch = {
  ...newPatch('patch', 'song', 0, 'A patch'),
  sounds: [newPatchSound('tine', 'house-tine')],
  layers: [
    { ...newLayer('right', 'Right', 'tine'), keyboards: ['keys1'], level: -4 },
    { ...newLayer('left', 'Left', 'tine'), keyboards: ['keys1'], level: -10 },
  ],
};
const sounds = ['tine', 'pad'].map((name): Sound => ({
  id: `house-${name}`,
  name,
  category: 'pianos',
  tags: [],
  favourite: false,
  origin: { kind: 'house', recipe: name },
  lowestNote: 0,
  highestNote: 127,
}));
const cue = {
  ...newCue('cue', 'song', 0, 'Softer', 'patch'),
  balance: { right: { level: -30 } },
};
const library = new Map(sounds.map((sound) => [sound.id, sound]));
const saved = <T>(value: T) => ({ revision: 1, value });

let injector: EnvironmentInjector;
let store: Store<AppState>;
let taking: Taking;
let carrying: Carrying;
let songPatches: PatchesOfSong;
let editing: PatchEditing;
let ties: TieEditing;
beforeEach(() => {
  injector = createEnvironmentInjector(
    [
      provideStore(reducers, { metaReducers }),
      AddedInCue,
      Editing,
      PatchesOfSong,
      Taking,
      Carrying,
      PatchEditing,
      TieEditing,
      StatusLine,
    ],
    Injector.create({ providers: [] }) as EnvironmentInjector,
  );
  store = injector.get<Store<AppState>>(Store);
  store.dispatch(
    loading.loaded({
      repertoire: {
        database: 'tested',
        rigs: [saved(newRig('rig', 'Rig'))],
        shows: [saved(newShow('show', 'Show', '2027-01-01', 'rig'))],
        devices: [saved(upper)],
        songs: [saved(song)],
        patches: [saved(patch)],
        cues: [saved(cue)],
      },
      sounds: sounds.map(saved),
      patterns: [],
      keepsakes: [],
      showId: 'show',
      wasHere: true,
      unsaved: [],
      isKept: false,
    }),
  );
  store.dispatch(session.patchOpened({ patchId: 'patch' }));
  taking = injector.get(Taking);
  carrying = injector.get(Carrying);
  songPatches = injector.get(PatchesOfSong);
  editing = injector.get(PatchEditing);
  ties = injector.get(TieEditing);
});
afterEach(() => injector.destroy());

const now = <T>(selector: (state: AppState) => T) => store.selectSignal(selector)();
const open = () => {
  const found = now(selectPatch);
  if (!found) throw new Error('no patch is open');
  return found;
};
const itemOf = (id: string, keepsakes: Keepsake[] = []) => {
  const item = shelf(library, keepsakes, new Map()).find((one) => one.id === id);
  if (!item) throw new Error(`${id} is not on the shelf`);
  return item;
};

describe('taking from the shelf', () => {
  it('adds a layer on the keyboard shown and selects it', () => {
    expect(taking.take(itemOf('house-pad'))).toBe('Added “pad” to A patch.');
    const added = open().layers[2];
    expect(added).toMatchObject({ name: 'pad', keyboards: ['keys1'] });
    expect(now(selectSession).layerIds).toEqual([added.id]);
    expect(now(selectUses).get('house-pad')).toBe(1);
  });

  it('swaps a sound and leaves all that is the layer’s', () => {
    const before = open().layers[0];
    taking.swap('right', itemOf('house-pad'));
    const after = open();
    expect({ ...after.layers[0], soundId: '' }).toEqual({ ...before, soundId: '' });
    const played = after.sounds.find(({ id }) => id === after.layers[0].soundId);
    expect(played?.librarySoundId).toBe('house-pad');
    expect(after.sounds).toHaveLength(2);
  });

  it.each([
    ['names after it what bore the old one’s name', 'pad', ['tine', 'tine 2'], ['pad', 'tine 2']],
    ['numbers where the name is taken', 'A patch', ['tine', 'pad'], ['pad 2', 'pad']],
    ['leaves names that somebody has given', 'A patch', ['Mine', 'tine'], ['Mine', 'tine']],
  ])('of a swapped sound %s', (_what, patchName, before, after) => {
    if (patchName === 'pad') editing.rename('tine');
    editing.changeLayer('right', { name: before[0] });
    editing.changeLayer('left', { name: before[1] });
    taking.swap('right', itemOf('house-pad'));
    expect([open().name, ...open().layers.map(({ name }) => name)]).toEqual([patchName, ...after]);
  });

  it('says of what is added in a cue’s balance that every cue has it, and keeps it to one', () => {
    const added = injector.get(AddedInCue);
    const cues = [cue, { ...cue, id: 'other', position: 1, name: 'Other' }];
    injector.get(Editing).do(showEdits.cuesAdded({ cues, places: {}, words: 'cues' }));
    store.dispatch(
      session.cueReached({ entryId: null, songId: 'song', cueId: 'cue', patchId: 'patch' }),
    );
    editing.duplicate(['right']);
    expect(added.told()).toBeNull();
    store.dispatch(session.balanceChosen({ balance: 'cue' }));
    const [copy] = editing.duplicate(['left']);
    editing.addTreatment(newTreatment('doubling', 'twice', ['right']));
    expect(added.told()).toMatchObject({ names: 'doubling', cues: 2, cue: 'Softer' });
    added.note({ layerIds: [copy], treatmentIds: ['twice'] });
    const steps = now((state: AppState) => state.history.past.length);
    added.keepToCue();
    expect(added.told()).toBeNull();
    expect(now((state: AppState) => state.history.past.length)).toBe(steps + 1);
    const sounding = (cueId: string | null) => {
      const { patches, cues } = now(selectThings);
      const played = withCue(patches['patch'], cueId === null ? null : cues[cueId]);
      return [played.layers.find(({ id }) => id === copy)?.muted, played.treatments[0].on];
    };
    expect(['cue', 'other', null].map(sounding)).toEqual([
      [false, true],
      [true, false],
      [true, false],
    ]);
    store.dispatch(history.undo());
    expect(sounding('other')).toEqual([false, true]);
  });

  it('swaps a sound and keeps one voice, glide, colour and what moves it; a kept sound brings its own', () => {
    const { soundId } = open().layers[0];
    const timbre = { brightness: 0.5, attack: 0, release: 0.25, vibrato: 0 };
    editing.changeSound(soundId, { polyphony: 1, glideSeconds: 0.2, timbre });
    const target = { kind: 'sound', patchSoundId: soundId, parameter: 'brightness' } as const;
    const message = { kind: 'controller', controller: 74 } as const;
    const alone = open().layers.filter((layer) => layer.soundId === soundId).length === 1;
    ties.tie({
      ...{ id: 'tie', place: 'knobs1', message, target, from: -1, to: 1 },
      ...usualManner(message),
    });
    taking.keep('Mellow', { kind: 'sound', sound: open().sounds[0] });
    taking.swap('right', itemOf('house-pad'));
    const swapped = open().layers[0].soundId;
    expect(open().sounds.find(({ id }) => id === swapped)).toMatchObject({
      librarySoundId: 'house-pad',
      polyphony: 1,
      glideSeconds: 0.2,
      timbre,
    });
    expect(open().controls.map((control) => control.target)).toEqual([
      { ...target, patchSoundId: alone ? swapped : soundId },
    ]);
    editing.changeSound(swapped, { polyphony: 'many', timbre: { ...timbre, brightness: -1 } });
    const [kept] = now(selectKeepsakes);
    taking.swap('right', itemOf(kept.id, [kept]));
    const again = open().sounds.find(({ id }) => id === open().layers[0].soundId);
    expect(again).toMatchObject({ polyphony: 1, timbre });
  });

  it('keeps a layer with its treatments and ties, and takes them with it', () => {
    editing.addTreatment(newTreatment('chord', 'chord', ['right', 'left']));
    const message = { kind: 'controller', controller: 20 } as const;
    const targets = [
      { kind: 'layer', layerId: 'right', parameter: 'level' },
      { kind: 'layer', layerId: 'left', parameter: 'pan' },
      { kind: 'treatment', treatmentId: 'chord' },
    ] as const;
    targets.forEach((target, i) =>
      ties.tie({
        ...{ id: `tie-${i}`, place: 'knobs1', message, target, from: 0, to: 1 },
        ...usualManner(message),
      }),
    );
    taking.keepLayer('right', 'Right');
    const [kept] = now(selectKeepsakes);
    songPatches.addEmpty();
    taking.take(itemOf(kept.id, [kept]));
    const { layers, treatments, controls, name } = open();
    expect(name).toBe('Right');
    expect(treatments).toMatchObject([{ kind: 'chord', layerIds: [layers[0].id] }]);
    expect(controls.map(({ target }) => target)).toEqual([
      { kind: 'layer', layerId: layers[0].id, parameter: 'level' },
      { kind: 'treatment', treatmentId: treatments[0].id },
    ]);
    expect(now(selectPatchesOfSong)).toHaveLength(2);
  });

  it('calls a new patch by its first sound', () => {
    songPatches.addEmpty();
    taking.take(itemOf('house-pad'));
    expect(open().name).toBe(itemOf('house-pad').name);
    taking.take(itemOf('house-pad'));
    expect(open().name).toBe(itemOf('house-pad').name);
  });

  it('keeps a patch, and takes it again as a patch of its own', () => {
    taking.keep('Two hands', { kind: 'patch', patch: open() });
    const [kept] = now(selectKeepsakes);
    taking.take(itemOf(kept.id, [kept]));
    const copy = open();
    expect(copy.id).not.toBe('patch');
    expect([copy.name, copy.position]).toEqual(['Two hands', 1]);
    expect(copy.layers.map(({ name }) => name)).toEqual(['Right', 'Left']);
    expect(now(selectPatchesOfSong)).toHaveLength(2);
  });

  it('carries layers with the sharing they have', () => {
    const carried = carrying.carry(['left', 'right']);
    if (!carried) throw new Error('nothing was carried');
    carrying.paste(carried, 'layers pasted');
    const { layers, sounds: used } = open();
    expect(layers).toHaveLength(4);
    expect(layers[2].soundId).toBe(layers[3].soundId);
    expect(layers[2].soundId).not.toBe('tine');
    expect(used).toHaveLength(2);
    expect(carrying.carry(['gone'])).toBeNull();
  });
});

describe('patches of a song', () => {
  it('are copied as they are written, with a cue’s balance on the desk too', () => {
    const levels = () => open().layers.map(({ level }) => level);
    const written = levels();
    store.dispatch(
      session.cueReached({ entryId: null, songId: 'song', cueId: 'cue', patchId: 'patch' }),
    );
    store.dispatch(session.balanceChosen({ balance: 'cue' }));
    expect(levels()).not.toEqual(written);
    songPatches.copyOpen();
    expect(levels()).toEqual(written);
  });

  it('are added empty or as a copy, opened, and removed again; undo brings them back', () => {
    songPatches.addEmpty();
    expect([open().name, open().layers.length, open().position]).toEqual(['New patch', 0, 1]);
    songPatches.remove(open().id);
    expect(open().id).toBe('patch');
    songPatches.copyOpen();
    const copy = open();
    expect([copy.name, copy.position, copy.layers.length]).toEqual(['A patch 2', 1, 2]);
    expect(copy.layers[0].id).not.toBe('right');
    songPatches.remove(open().id);
    expect(now(selectPatchesOfSong)).toHaveLength(1);
    store.dispatch(history.undo());
    expect(now(selectPatchesOfSong).map(({ id }) => id)).toEqual(['patch', copy.id]);
    store.dispatch(session.patchOpened({ patchId: copy.id }));
    songPatches.remove(open().id);
    // The last one stays.
    songPatches.remove(open().id);
    expect(now(selectPatchesOfSong).map(({ id }) => id)).toEqual(['patch']);
  });
});

describe('editing what is selected', () => {
  it('moves all selected levels by as much, as one step', () => {
    store.dispatch(session.layersSelected({ layerIds: ['right', 'left'] }));
    editing.changeLayer('right', { level: -6 });
    expect(open().layers.map(({ level }) => level)).toEqual([-6, -12]);
  });

  it('makes a shared sound a layer’s own, and shares it again', () => {
    editing.makeOwn(open().layers[1]);
    const [right, left] = open().layers;
    expect(left.soundId).not.toBe(right.soundId);
    editing.shareWith(left, right);
    expect(open().sounds.map(({ id }) => id)).toEqual(['tine']);
  });
});

describe('what is known of the sounds', () => {
  const response = [{ velocity: 64, loudness: -30 }];

  it('costs a shared sound once, and says what sharing would save', () => {
    store.dispatch(measured.sound({ sourceId: 'house/tine', response, voiceCost: 0.004 }));
    store.dispatch(
      machine.measured({ budget: 0.5, effects: { reverb: 0.1, delay: 0, chorus: 0 } }),
    );
    const shared = now(selectCost)?.total ?? 0;
    expect(now(selectSharing)).toEqual([]);
    editing.makeOwn(open().layers[1]);
    expect((now(selectCost)?.total ?? 0) - shared).toBeCloseTo(0.04);
    expect(now(selectSharing)[0]).toMatchObject({ layerNames: ['Right', 'Left'] });
    expect(now(selectSharing)[0].saves).toBeCloseTo(0.04);
  });

  it('asks for the loudness of a colour that is not measured yet, once it is changed', () => {
    store.dispatch(measured.sound({ sourceId: 'house/tine', response, voiceCost: 0.004 }));
    expect(now(selectUnmeasured)).toEqual([]);
    editing.changeLayer('left', { tone: { low: 3, high: 0 } });
    const [asked, ...others] = now(selectUnmeasured);
    expect(others).toEqual([]);
    expect(asked).toMatchObject({ sourceId: 'house/tine', colour: { tone: { low: 3, high: 0 } } });
    store.dispatch(measured.coloured({ key: asked.key, response }));
    expect(now(selectUnmeasured)).toEqual([]);
    expect([...now(selectResponses).keys()].sort()).toEqual([asked.key, 'house-tine'].sort());
  });
});

describe('choosers of the patch on the desk', () => {
  const chooser = () => ({
    ...newChooser('right', 'Right hand', open().layers),
    controls: [{ place: 'pads1', message: { kind: 'pad', pad: 4 }, picks: 1 }] as const,
  });
  const own = () => open().choosers[0];
  beforeEach(() => {
    const made = chooser();
    editing.changeChoosers([{ ...made, controls: [...made.controls] }], 'chooser added');
  });

  it('pick for the patch as it is written, as one step', () => {
    expect(own().choices.map(({ name }) => name)).toEqual(['Right', 'Left']);
    editing.pick(own(), 1);
    expect(own().chosen).toBe(1);
    store.dispatch(history.undo());
    expect(own().chosen).toBe(0);
    store.dispatch(history.undo());
    expect(open().choosers).toEqual([]);
  });

  it('let go of layers that are removed, and come along with layers that are pasted', () => {
    const carried = carrying.carry(['right', 'left']);
    editing.removeLayers(['left']);
    expect(own().choices.map(({ layerIds }) => layerIds)).toEqual([['right'], []]);
    if (carried) carrying.paste(carried, 'pasted');
    const pasted = open().choosers[1];
    expect(pasted.id).not.toBe('right');
    const ids = new Set(open().layers.map(({ id }) => id));
    expect(pasted.choices.flatMap(({ layerIds }) => layerIds).every((id) => ids.has(id))).toBe(
      true,
    );
    expect(pasted.choices.flatMap(({ layerIds }) => layerIds)).toHaveLength(2);
  });
});

describe('ties of the patch, the song and the rig', () => {
  const message = { kind: 'knob', knob: 2 } as const;
  const tie: Tie = {
    ...{ id: 'tie', place: 'knobs1', message, from: -24, to: 0, ...usualManner(message) },
    target: { kind: 'letter', layer: 0, parameter: 'level' },
  };

  it('are made where they belong, changed in their place, and taken off', () => {
    const ties = injector.get(TieEditing);
    for (const owner of ['patch', 'song', 'rig'] as const) {
      ties.put(owner, tie);
      ties.put(owner, { ...tie, id: 'other' });
      ties.put(owner, { ...tie, to: -6 });
      expect(ties.tiesOf(owner)).toEqual([
        { ...tie, to: -6 },
        { ...tie, id: 'other' },
      ]);
    }
    expect(ties.jobs().map(({ owner }) => owner)).toEqual(
      ['patch', 'song', 'rig'].flatMap((owner) => [owner, owner]),
    );
    ties.remove('song', 'tie');
    expect(ties.tiesOf('song').map(({ id }) => id)).toEqual(['other']);
    store.dispatch(history.undo());
    expect(ties.tiesOf('song')).toHaveLength(2);
  });

  it('find no more room where there is none', () => {
    const ties = injector.get(TieEditing);
    for (let at = 0; at < MOST_CONTROLS; at++) ties.put('patch', { ...tie, id: `tie-${at}` });
    expect(ties.hasRoom('patch')).toBe(false);
    expect(ties.hasRoom('song')).toBe(true);
    ties.put('patch', { ...tie, id: 'one too many' });
    expect(ties.tiesOf('patch')).toHaveLength(MOST_CONTROLS);
  });
});

describe('what a player prefers', () => {
  it('is how notes are called, and what new layers listen to', () => {
    expect(now(selectMiddleC)).toBe(4);
    store.dispatch(
      preferences.changed({
        changes: { middleC: 3, accidentals: 'flats', noteNumbers: true, channel: 7 },
      }),
    );
    expect(noteName(61, now(selectMiddleC))).toBe('D♭3 61');
    taking.take(itemOf('house-pad'));
    expect(open().layers.at(-1)?.channel).toBe(7);
  });
});
