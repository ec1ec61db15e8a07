import type { Knex } from 'knex';
import {
  newLayer,
  newPatchSound,
  newRig,
  newTreatment,
  patchSchema,
  songEntry,
  LAYER_OUTPUTS,
  TREATMENT_KINDS,
  type Layer,
  type Patch,
  type Tie,
  type ShowControl,
  USUAL_GOING,
} from '@pentachord/core/model';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import * as shows from '../migrations/001-shows.js';
import * as wholePatches from '../migrations/002-whole-patches.js';
import * as restrikeAndSieve from '../migrations/003-restrike-and-sieve.js';
import { serverUnderTest } from '../testing/server-under-test.js';
import * as orderAndChecksums from '../migrations/004-order-and-checksums.js';
import * as repertoire from '../migrations/005-repertoire.js';
import * as goingThrough from '../migrations/006-going-through.js';
import * as places from '../migrations/007-places.js';
import * as choosers from '../migrations/008-choosers.js';
import * as ties from '../migrations/009-ties.js';
import * as recordings from '../migrations/011-recordings.js';
import { openDatabase } from './database.js';

let server: Awaited<ReturnType<typeof serverUnderTest>>;
beforeAll(async () => {
  server = await serverUnderTest();
});
afterAll(() => server.close());

const velocity = fc.integer({ min: 1, max: 127 });
const ordered = (least: number) =>
  fc
    .tuple(fc.integer({ min: least, max: 127 }), fc.integer({ min: least, max: 127 }))
    .map(([a, b]) => ({ low: Math.min(a, b), high: Math.max(a, b) }));
const range = (least: number) =>
  fc
    .tuple(ordered(least), fc.constantFrom('equalPower' as const, 'linear' as const))
    .chain(([span, law]) =>
      fc
        .tuple(
          fc.nat(Math.floor((span.high - span.low + 1) / 2)),
          fc.nat(Math.floor((span.high - span.low + 1) / 2)),
        )
        .map(([fadeIn, fadeOut]) => ({ ...span, law, fadeIn, fadeOut })),
    );
const decibels = fc.integer({ min: -60, max: 12 });
const shelf = fc.integer({ min: -15, max: 15 });
const anyLayer: fc.Arbitrary<Omit<Layer, 'id' | 'soundId'>> = fc.record({
  name: fc.string({ minLength: 1, maxLength: 20 }).map((text) => text.trim() || 'a layer'),
  keyboards: fc.constantFrom<Layer['keyboards'][]>('any', ['keys1'], ['keys9', 'keys2']),
  channel: fc.oneof(fc.constant('any' as const), fc.integer({ min: 1, max: 16 })),
  keys: range(0),
  velocities: range(1),
  touch: fc
    .tuple(
      velocity,
      velocity,
      velocity,
      velocity,
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.boolean(),
    )
    .map(([a, b, outLow, outHigh, bend, silent]) => ({
      inLow: Math.min(a, b),
      inHigh: Math.max(a, b),
      outLow,
      outHigh,
      bend: bend + 0,
      below: silent ? ('silent' as const) : ('hold' as const),
    })),
  transpose: fc.integer({ min: -60, max: 60 }),
  followsSong: fc.boolean(),
  level: fc.integer({ min: -600, max: 120 }).map((tenths) => tenths / 10),
  pan: fc.integer({ min: -100, max: 100 }).map((percent) => percent / 100),
  muted: fc.boolean(),
  sends: fc.record({ reverb: decibels, delay: decibels, chorus: decibels }),
  tone: fc.record({ low: shelf, high: shelf }),
  lift: fc.record({ floor: velocity, on: fc.boolean() }),
  obeys: fc
    .subarray(['sustain', 'expression', 'pitchBend', 'modulation', 'aftertouch'] as const)
    .map((list) => [...list]),
  output: fc.constantFrom(...LAYER_OUTPUTS),
});

/** As tables were before layers could obey aftertouch. */
async function forgetAftertouch(knex: Knex): Promise<void> {
  await ties.down(knex);
  await ties.up(knex);
}

describe('the store', () => {
  it('gives back every patch exactly as it was saved', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(anyLayer, { maxLength: 5 }), async (layers) => {
        const present = await server.store.find('patches', 'demo-saltglass-tide');
        if (!present) throw new Error('the patch is not there');
        const value: Patch = patchSchema.parse({
          ...present.value,
          sounds: [
            { ...newPatchSound('one', 'house-felt-piano'), glideSeconds: 0.25 },
            {
              ...newPatchSound('two', 'house-warm-pad'),
              polyphony: 4,
              timbre: { brightness: -0.5, attack: 0.25, release: 0, vibrato: 1 },
            },
          ],
          layers: layers.map((layer, i) => ({
            ...layer,
            id: `layer-${i}`,
            soundId: i % 2 === 0 ? 'one' : 'two',
          })),
          treatments: layers.map((_, i) => ({
            ...newTreatment(TREATMENT_KINDS[i % 4], `treatment-${i}`, [`layer-${i}`]),
            on: i % 2 === 0,
          })),
          controls: layers.map((layer, i): Tie => ({
            id: `control-${i}`,
            place: 'pads1',
            message:
              i % 2 === 0 ? { kind: 'note', note: 36 + i } : { kind: 'controller', controller: i },
            target:
              i % 2 === 0
                ? { kind: 'treatment', treatmentId: `treatment-${i}` }
                : { kind: 'layer', layerId: `layer-${i}`, parameter: 'level' },
            from: layer.level,
            to: 0.5,
            ...{ curve: 'late', acts: 'steps', reads: 'sign', pickUp: i % 3 === 0, begins: 'bar' },
          })),
          effects: { ...present.value.effects, delay: { level: -3, beats: 0.5, feedback: 0.6 } },
        });
        const outcome = await server.store.save('patches', { revision: present.revision, value });
        expect(outcome.kind).toBe('done');
        const again = await server.store.find('patches', 'demo-saltglass-tide');
        // −0 and 0 are one number in a database.
        expect(JSON.parse(JSON.stringify(again?.value))).toEqual(JSON.parse(JSON.stringify(value)));
        expect(again?.revision).toBe(present.revision + 1);
      }),
      { numRuns: 40 },
    );
  });

  it('gives every number back bit for bit, in the answer and ever after', async () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    const numbers = fc.record({
      level: number(-60, 12),
      pan: number(-1, 1),
      glide: number(0, 2),
      tempo: number(20, 400),
      fade: number(0, 60),
    });
    await fc.assert(
      fc.asyncProperty(numbers, async ({ level, pan, glide, tempo, fade }) => {
        const { store } = server;
        const patch = await store.find('patches', 'demo-copper-weather-under');
        const song = await store.find('songs', 'demo-copper-weather');
        const cue = await store.find('cues', 'demo-copper-weather-cue-1');
        if (!patch || !song || !cue) throw new Error('the demo is not there');
        const layers = patch.value.layers.map((layer) => ({ ...layer, level, pan }));
        const sounds = patch.value.sounds.map((sound) => ({ ...sound, glideSeconds: glide }));
        const answers = [
          await store.save('patches', { ...patch, value: { ...patch.value, layers, sounds } }),
          await store.save('songs', { ...song, value: { ...song.value, tempo } }),
          await store.save('cues', { ...cue, value: { ...cue.value, fadeSeconds: fade } }),
        ];
        const found = [
          await store.find('patches', patch.value.id),
          await store.find('songs', song.value.id),
          await store.find('cues', cue.value.id),
        ];
        expect(found.map((thing) => JSON.stringify(thing))).toEqual(
          answers.map((answer) => (answer.kind === 'done' ? answer.text : answer.kind)),
        );
        // −0 and 0 are one number in a database.
        expect(found[0]?.value).toMatchObject({
          layers: layers.map(() => ({ level: level + 0, pan: pan + 0 })),
        });
        expect(found[1]?.value).toMatchObject({ tempo });
      }),
      { numRuns: 100 },
    );
  });

  it('writes what a hand moved, and what came, went or changed places, as if all were written anew', async () => {
    const { store, close } = await serverUnderTest();
    const first = await store.find('patches', 'demo-copper-weather-under');
    if (!first) throw new Error('the patch is not there');
    let { revision } = first;
    const { layers, sounds } = first.value;
    const louder = layers.map((layer, at) => (at === 1 ? { ...layer, level: -1.5 } : layer));
    const slower = sounds.map((sound) => ({ ...sound, glideSeconds: 0.125 }));
    for (const changes of [
      { layers: louder },
      { layers: louder.toReversed() },
      { layers: louder, sounds: slower },
      { layers: louder.slice(1), sounds: slower.toReversed() },
      { layers, sounds },
    ]) {
      const value = patchSchema.parse({ ...first.value, ...changes });
      const outcome = await store.save('patches', { revision, value });
      expect(outcome.kind).toBe('done');
      revision++;
      expect(await store.find('patches', value.id)).toEqual({ revision, value });
    }
    await close();
  });

  it('never shows half of what comes and goes', async () => {
    const { store, close } = await serverUnderTest();
    const song = await store.find('songs', 'demo-nine-bells');
    const patch = (await store.all('patches')).find(({ value }) => value.songId === song?.value.id);
    if (!song || !patch) throw new Error('the demo is not there');
    const coming = (async () => {
      for (let i = 0; i < 60; i++) {
        const songId = `come-${i}`;
        await store.save('songs', { revision: 0, value: { ...song.value, id: songId } });
        const value = { ...patch.value, id: `patch-${i}`, songId };
        await store.save('patches', { revision: 0, value });
        if (i > 2) await store.remove('songs', `come-${i - 2}`, 1);
      }
    })();
    let torn = 0;
    for (let i = 0; i < 150; i++) {
      const document = await store.repertoire();
      const songs = new Set(document.songs.map(({ value }) => value.id));
      if (document.patches.some(({ value }) => !songs.has(value.songId))) torn++;
    }
    await coming;
    expect(torn).toBe(0);
    await close();
  });

  it('refuses what points across to what is another’s, and names it', async () => {
    const { store, close } = await serverUnderTest();
    const show = await store.find('shows', 'demo-show');
    const cue = await store.find('cues', 'demo-copper-weather-cue-1');
    const upper = await store.find('devices', 'demo-upper');
    const song = await store.find('songs', 'demo-saltglass');
    const patch = await store.find('patches', 'demo-copper-weather-under');
    if (!show || !cue || !upper || !song || !patch) throw new Error('the demo is not there');
    const stranger = (words: string) => ({
      kind: 'stranger',
      words: expect.stringContaining(words),
    });
    const elsewhere = { ...cue.value, patchId: 'demo-saltglass-tide' };
    expect(await store.save('cues', { ...cue, value: elsewhere })).toEqual(
      stranger('of another song'),
    );
    const moved = { ...patch.value, songId: 'demo-saltglass' };
    expect(await store.save('patches', { ...patch, value: moved })).toEqual(stranger('of its cue'));

    await store.save('rigs', { revision: 0, value: newRig('other', 'Another rig') });
    const other = { ...show.value, id: 'other', order: [], controls: [] };
    await store.save('shows', { revision: 0, value: other });
    // One song may stand in several shows, and twice in one.
    const order = ['one', 'two'].map((id) => songEntry(id, song.value.id));
    expect(await store.save('shows', { revision: 1, value: { ...other, order } })).toMatchObject({
      kind: 'done',
    });
    // One name for entries of two shows is nobody's business.
    const talk = [{ kind: 'talk' as const, id: 'entry-demo-talk', name: 'talk', lengthSeconds: 9 }];
    expect(
      await store.save('shows', { revision: 2, value: { ...other, order: talk } }),
    ).toMatchObject({ kind: 'done' });
    expect(await store.find('patches', patch.value.id)).toEqual(patch);
    await close();
  });

  it('does several things wholly or not at all', async () => {
    const before = await server.store.repertoire();
    const cue = before.cues[0] as (typeof before.cues)[number] | undefined;
    if (!cue) throw new Error('there is no cue');
    await expect(
      server.store.together(async (inside) => {
        await inside.save('cues', { ...cue, value: { ...cue.value, name: 'changed' } });
        throw new Error('then something goes wrong');
      }),
    ).rejects.toThrow('then something goes wrong');
    expect(await server.store.repertoire()).toEqual(before);
  });

  it('keeps the old layers when the new ones cannot be saved', async () => {
    const before = await server.store.find('patches', 'demo-lantern-song-lantern');
    if (!before) throw new Error('the patch is not there');
    const outcome = await server.store.save('patches', {
      revision: before.revision,
      value: {
        ...before.value,
        sounds: [newPatchSound('lost', 'nobody')],
        layers: [newLayer('lost', 'Lost', 'lost')],
        treatments: [],
        controls: [],
      },
    });
    expect(outcome).toEqual({ kind: 'missing-reference', words: 'a sound of the library' });
    expect(await server.store.find('patches', 'demo-lantern-song-lantern')).toEqual(before);
  });

  it('keeps the place of a sound’s module when the module leaves the rig', async () => {
    const module = await server.store.find('devices', 'demo-module');
    await server.store.remove('devices', 'demo-module', module?.revision ?? 0);
    const reeds = await server.store.find('sounds', 'outside-harbour-reeds');
    expect(reeds?.value.origin).toMatchObject({ kind: 'outside', place: 'module1' });
    expect(reeds?.revision).toBe(1);
  });

  it('brings an older database up to date without losing what is in it', async () => {
    const { knex, store, close } = await serverUnderTest();
    await forgetAftertouch(knex);
    const before = await store.find('patches', 'demo-saltglass-tide');
    await recordings.down(knex);
    await ties.down(knex);
    await choosers.down(knex);
    await places.down(knex);
    await orderAndChecksums.down(knex);
    await wholePatches.down(knex);
    expect(JSON.parse(String((await knex('layers').first('sends'))?.sends))).toEqual({
      reverb: -18,
    });
    await wholePatches.up(knex);
    await orderAndChecksums.up(knex);
    await places.up(knex);
    await choosers.up(knex);
    await ties.up(knex);
    await recordings.up(knex);
    expect(await store.find('patches', 'demo-saltglass-tide')).toEqual(before);
    expect(await store.keepsakes()).toEqual([]);
    await close();
  });

  it('calls treatments by their present names, in patches and in what is kept, and back again', async () => {
    const { knex, store, close } = await serverUnderTest();
    const tide = await store.find('patches', 'demo-saltglass-tide');
    if (!tide) throw new Error('the demo is not there');
    const layerIds = tide.value.layers.map(({ id }) => id);
    const treatments = TREATMENT_KINDS.map((kind) => newTreatment(kind, `a-${kind}`, layerIds));
    const patch = { ...tide.value, treatments };
    await store.save('patches', { revision: tide.revision, value: patch });
    const kept = {
      id: 'kept',
      name: 'Kept',
      favourite: false,
      content: { kind: 'patch' as const, patch: { ...patch, id: 'kept', songId: 'kept' } },
    };
    await store.save('keepsakes', { revision: 0, value: kept });
    const whole = [await store.find('patches', patch.id), await store.find('keepsakes', 'kept')];

    await restrikeAndSieve.down(knex);
    const before = ['arpeggio', 'chord', 'repeat', 'filter'];
    const rows = (await knex('treatments').where({ patch_id: patch.id })) as { kind: string }[];
    expect(rows.map(({ kind }) => kind)).toEqual(expect.arrayContaining(before));
    const [{ content }] = (await knex('keepsakes').where({ id: 'kept' })) as { content: string }[];
    const read = JSON.parse(content) as typeof kept.content;
    expect(read.patch.treatments.map(({ kind }) => kind)).toEqual(expect.arrayContaining(before));

    await restrikeAndSieve.up(knex);
    const again = [await store.find('patches', patch.id), await store.find('keepsakes', 'kept')];
    expect(again).toEqual(whole);
    await close();
  });

  it('has shows gone through as they were before one could say so, and keeps the controls that were known', async () => {
    const { store, knex, close } = await serverUnderTest();
    const show = await store.find('shows', 'demo-show');
    if (!show) throw new Error('the demo is not there');
    const chosen: ShowControl = {
      ...{ action: 'chooseSong', place: 'pads1' },
      message: { kind: 'programs' },
    };
    const value = { ...show.value, controls: [...show.value.controls, chosen] };
    await store.save('shows', { ...show, value });
    await recordings.down(knex);
    await ties.down(knex);
    await choosers.down(knex);
    await places.down(knex);
    await goingThrough.down(knex);
    await goingThrough.up(knex);
    await places.up(knex);
    await choosers.up(knex);
    await ties.up(knex);
    await recordings.up(knex);
    const again = await store.find('shows', 'demo-show');
    expect(again?.value).toEqual(show.value);
    expect(again?.value.going).toEqual(USUAL_GOING);
    await close();
  });

  it('says devices by their places, pads and pedals by themselves, and back again', async () => {
    const { store, knex, close } = await serverUnderTest();
    // Choosers are younger than that, and aftertouch.
    await knex('choosers').delete();
    await forgetAftertouch(knex);
    await knex('patches').update({ checksum: null });
    const patch = await store.find('patches', 'demo-low-water-mark-ebb');
    if (!patch) throw new Error('the demo is not there');
    const layers = patch.value.layers.map((layer, i) =>
      i === 0 ? { ...layer, keyboards: ['keys2' as const, 'keys1' as const] } : layer,
    );
    const content = { kind: 'patch' as const, patch: { ...patch.value, layers } };
    const kept = { id: 'kept', name: 'Kept', favourite: false, content };
    await store.save('keepsakes', { revision: 0, value: kept });
    // What is made of recordings was nothing that could be kept then.
    const sounds = async () =>
      (await store.sounds()).filter(({ value }) => value.id !== 'demo-night-bells');
    const whole = [await store.repertoire(), await sounds(), await store.keepsakes()];

    await recordings.down(knex);

    await ties.down(knex);
    await choosers.down(knex);
    await places.down(knex);
    const [show] = (await knex('shows').where({ id: 'demo-show' })) as { controls: string }[];
    expect(JSON.parse(show.controls)).toContainEqual({
      ...{ action: 'nextCue', deviceId: 'demo-right-pedal' },
      message: { kind: 'controller', controller: 80 },
    });
    expect((await knex('patch_controls').where({ device_id: 'demo-pads' }))[0]).toMatchObject({
      message: JSON.stringify({ kind: 'note', note: 40 }),
    });
    expect(await knex('sounds').where({ module_id: 'demo-module' })).toHaveLength(1);
    // A keyboard that is nowhere any more is not played by another in its stead.
    await knex('layers').where({ id: 'demo-saltglass-tide-1' }).update({ keyboards: '["sold"]' });

    await places.up(knex);
    await choosers.up(knex);
    await ties.up(knex);
    await recordings.up(knex);
    const tide = await store.find('patches', 'demo-saltglass-tide');
    expect(tide?.value.layers[0].keyboards).toEqual(['keys99']);
    await knex('layers').where({ id: 'demo-saltglass-tide-1' }).update({ keyboards: '["keys1"]' });
    await knex('patches').update({ checksum: null });
    expect([await store.repertoire(), await sounds(), await store.keepsakes()]).toEqual(whole);
    await close();
  });

  it('gives every patch choosers to come, and every layer plays where they are taken away', async () => {
    const { store, knex, close } = await serverUnderTest();
    await forgetAftertouch(knex);
    const bells = await store.find('patches', 'demo-nine-bells-watch');
    const cue = await store.find('cues', 'demo-nine-bells-cue-1');
    if (!bells || !cue) throw new Error('the demo is not there');
    const picked = { ...cue.value, choices: { [bells.value.choosers[0].id]: 2 } };
    await store.save('cues', { ...cue, value: picked });
    expect((await store.find('cues', cue.value.id))?.value).toEqual(picked);
    const content = { kind: 'patch' as const, patch: bells.value };
    const kept = { id: 'kept', name: 'Kept', favourite: false, content };
    await store.save('keepsakes', { revision: 0, value: kept });
    await recordings.down(knex);
    await ties.down(knex);
    await choosers.down(knex);
    await choosers.up(knex);
    await ties.up(knex);
    await recordings.up(knex);
    const again = await store.find('patches', bells.value.id);
    expect(again?.value).toEqual({ ...bells.value, choosers: [] });
    expect((await store.find('cues', cue.value.id))?.value.choices).toEqual({});
    const [{ value }] = (await store.keepsakes()).filter((one) => one.value.id === 'kept');
    expect(value.content).toMatchObject({ patch: { choosers: [] } });
    await close();
  });

  it('ties controls of songs and rigs, and leaves what was known before where that is taken back', async () => {
    const { store, knex, close } = await serverUnderTest();
    const tie: Tie = {
      ...{ id: 'fader', place: 'pads1', message: { kind: 'knob', knob: 0 }, from: -24, to: 0 },
      target: { kind: 'letter', layer: 0, parameter: 'level' },
      ...{ curve: 'late', acts: 'usual', reads: 'fine', pickUp: false, begins: 'beat' },
    };
    const bent: Tie = { ...tie, id: 'bent', message: { kind: 'bend' } };
    const tide = await store.find('patches', 'demo-saltglass-tide');
    const rig = await store.find('rigs', 'stand-ins');
    if (!tide || !rig) throw new Error('the demo is not there');
    const content = { kind: 'patch' as const, patch: { ...tide.value, controls: [bent] } };
    const kept = { id: 'kept', name: 'Kept', favourite: false, content };
    await store.save('keepsakes', { revision: 0, value: kept });
    const tied = { ...tide, value: { ...tide.value, controls: [bent] } };
    await store.save('patches', tied);
    await store.save('rigs', { ...rig, value: { ...rig.value, ties: [tie] } });
    expect((await store.find('patches', tied.value.id))?.value).toEqual(tied.value);
    expect((await store.find('rigs', 'stand-ins'))?.value.ties).toEqual([tie]);
    await recordings.down(knex);
    await ties.down(knex);
    const [{ content: read }] = (await knex('keepsakes').where({ id: 'kept' })) as {
      content: string;
    }[];
    expect(read.match(/aftertouch|"output"|"pickUp"|"kind":"bend"/)).toBeNull();
    await ties.up(knex);
    await recordings.up(knex);
    expect((await store.find('rigs', 'stand-ins'))?.value.ties).toEqual([]);
    expect((await store.find('patches', tied.value.id))?.value.controls).toEqual([]);
    await close();
  });

  it('takes its tables back and makes them again', async () => {
    const knex = await openDatabase(':memory:');
    await recordings.down(knex);
    await ties.down(knex);
    await choosers.down(knex);
    await places.down(knex);
    await goingThrough.down(knex);
    await repertoire.down(knex);
    await orderAndChecksums.down(knex);
    await wholePatches.down(knex);
    await shows.down(knex);
    await expect(knex('shows').select()).rejects.toThrow('no such table');
    await shows.up(knex);
    expect(await knex('layers').select()).toEqual([]);
    await knex.destroy();
  });
});

describe('what is written of a thing', () => {
  it('takes along the rows that point to a table which is written anew: a sound that is swapped', async () => {
    const present = await server.store.find('patches', 'demo-copper-weather-under');
    if (!present) throw new Error('the patch is not there');
    // As a page does: saved once, so that the store knows its rows, and then with another sound under a layer.
    const once = await server.store.save('patches', present);
    if (once.kind !== 'done') throw new Error(once.kind);
    const { revision, value } = once.saved;
    const [layer, ...layers] = value.layers;
    const sound = newPatchSound('swapped', 'house-warm-pad');
    const swapped = {
      ...value,
      sounds: [...value.sounds.filter(({ id }) => id !== layer.soundId), sound],
      layers: [
        { ...layer, soundId: 'swapped' },
        ...layers.filter((l) => l.soundId !== layer.soundId),
      ],
    };
    expect(await server.store.save('patches', { revision, value: swapped })).toMatchObject({
      kind: 'done',
    });
    expect((await server.store.find('patches', value.id))?.value).toEqual(swapped);
  });

  it('stands in place of one that cannot be read any more, and devices without their rig stand nowhere', async () => {
    const song = await server.store.find('songs', 'demo-nine-bells');
    if (!song) throw new Error('the song is not there');
    server.store.condition.note({
      kind: 'songs',
      id: song.value.id,
      name: 'x',
      why: 'torn',
      lost: true,
    });
    expect(await server.store.find('songs', song.value.id)).toBeNull();
    const anew = await server.store.save('songs', { revision: 0, value: song.value });
    expect(anew).toMatchObject({ kind: 'done', created: false });
    expect((await server.store.find('songs', song.value.id))?.revision).toBeGreaterThan(
      song.revision,
    );
    const [rig] = await server.store.all('rigs');
    server.store.condition.note({
      kind: 'rigs',
      id: rig.value.id,
      name: 'x',
      why: 'torn',
      lost: true,
    });
    const { rigs, devices } = await server.store.repertoire();
    expect([rigs, devices]).toEqual([[], []]);
  });
});
