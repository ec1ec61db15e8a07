import {
  newLayer,
  newPatchSound,
  newTreatment,
  patchSchema,
  TREATMENT_KINDS,
  type Layer,
  type Patch,
  type PatchControl,
} from '@pentachord/core/model';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import * as shows from '../migrations/001-shows.js';
import * as wholePatches from '../migrations/002-whole-patches.js';
import * as restrikeAndSieve from '../migrations/003-restrike-and-sieve.js';
import { serverUnderTest } from '../testing/server-under-test.js';
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
  keyboards: fc.constantFrom<Layer['keyboards'][]>('any', ['demo-upper'], ['gone', 'demo-lower']),
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
    .subarray(['sustain', 'expression', 'pitchBend', 'modulation'] as const)
    .map((list) => [...list]),
});

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
          controls: layers.map((layer, i): PatchControl => ({
            id: `control-${i}`,
            deviceId: 'demo-pads',
            message:
              i % 2 === 0 ? { kind: 'note', note: 36 + i } : { kind: 'controller', controller: i },
            target:
              i % 2 === 0
                ? { kind: 'treatment', treatmentId: `treatment-${i}` }
                : { kind: 'layer', layerId: `layer-${i}`, parameter: 'level' },
            from: layer.level,
            to: 0.5,
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

  it('does several things wholly or not at all', async () => {
    const before = await server.store.document('demo-show');
    const cue = before?.cues[0];
    if (!cue) throw new Error('there is no cue');
    await expect(
      server.store.together(async (inside) => {
        await inside.save('cues', { ...cue, value: { ...cue.value, name: 'changed' } });
        throw new Error('then something goes wrong');
      }),
    ).rejects.toThrow('then something goes wrong');
    expect(await server.store.document('demo-show')).toEqual(before);
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
    expect(outcome.kind).toBe('missing-reference');
    expect(await server.store.find('patches', 'demo-lantern-song-lantern')).toEqual(before);
  });

  it('keeps a sound without its module when the module leaves the rig', async () => {
    const module = await server.store.find('devices', 'demo-module');
    await server.store.remove('devices', 'demo-module', module?.revision ?? 0);
    const reeds = await server.store.find('sounds', 'outside-harbour-reeds');
    expect(reeds?.value.origin).toMatchObject({ kind: 'outside', moduleId: null });
  });

  it('brings an older database up to date without losing what is in it', async () => {
    const { knex, store, close } = await serverUnderTest();
    const before = await store.find('patches', 'demo-saltglass-tide');
    await wholePatches.down(knex);
    expect(JSON.parse(String((await knex('layers').first('sends'))?.sends))).toEqual({
      reverb: -18,
    });
    await wholePatches.up(knex);
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
    expect(rows.map(({ kind }) => kind).sort()).toEqual([...before].sort());
    const [{ content }] = (await knex('keepsakes').where({ id: 'kept' })) as { content: string }[];
    const read = JSON.parse(content) as typeof kept.content;
    expect(read.patch.treatments.map(({ kind }) => kind)).toEqual(before);

    await restrikeAndSieve.up(knex);
    const again = [await store.find('patches', patch.id), await store.find('keepsakes', 'kept')];
    expect(again).toEqual(whole);
    await close();
  });

  it('takes its tables back and makes them again', async () => {
    const knex = await openDatabase(':memory:');
    await wholePatches.down(knex);
    await shows.down(knex);
    await expect(knex('shows').select()).rejects.toThrow('no such table');
    await shows.up(knex);
    expect(await knex('layers').select()).toEqual([]);
    await knex.destroy();
  });
});
