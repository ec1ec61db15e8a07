import {
  DATABASE_HEADER,
  faultSchema,
  keepsakeListSchema,
  newPatchSound,
  savedSchemas,
  repertoireSchema,
  type KeptContent,
  type Patch,
  type Saved,
} from '@pentachord/core/model';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { HARBOUR_REEDS } from '../demo/library.js';
import { inspect } from '../store/inspection.js';
import { serverUnderTest } from '../testing/server-under-test.js';

let server: Awaited<ReturnType<typeof serverUnderTest>>;
beforeEach(async () => {
  server = await serverUnderTest();
});
afterEach(() => server.close());

const PATCH = '/api/patches/demo-copper-weather-under';
const SHOW = '/api/shows/demo-show';

async function readPatch(): Promise<Saved<Patch>> {
  return savedSchemas.patches.parse((await server.http.get(PATCH).expect(200)).body);
}
async function everything(): Promise<unknown> {
  return (await server.http.get('/api/repertoire').expect(200)).body;
}

describe('reading', () => {
  it('tells its health', async () => {
    const { body } = await server.http.get('/api/health').expect(200);
    expect(body).toEqual({
      ...{ status: 'ok', version: '0.0.0', schemaVersion: 15 },
      database: expect.stringMatching(/^[\da-f-]{36}$/) as string,
    });
  });

  it('gives the whole demo show, of the length and order it should have', async () => {
    const document = repertoireSchema.parse(await everything());
    const [{ value }] = document.shows;
    const { order } = value;
    expect(order.map((entry) => entry.kind)).toEqual([
      'song',
      'song',
      'song',
      'talk',
      'song',
      'song',
      'song',
      'song',
    ]);
    const songs = new Map(document.songs.map((s) => [s.value.id, s.value]));
    const seconds = order.map((e) =>
      e.kind === 'song' ? (songs.get(e.songId)?.lengthSeconds ?? 0) : e.lengthSeconds,
    );
    expect(seconds.reduce((a, b) => a + b)).toBe(46 * 60 + 40);
    for (const song of songs.values()) {
      expect(document.patches.some((p) => p.value.songId === song.id)).toBe(true);
      expect(document.cues.some((c) => c.value.songId === song.id)).toBe(true);
    }
    expect(document.cues.filter((c) => c.value.songId === 'demo-copper-weather')).toHaveLength(5);
  });

  it('reads the repertoire in sixteen statements, whatever its size', async () => {
    let statements = 0;
    server.knex.on('query', () => statements++);
    await server.store.repertoire();
    // And the two that make one moment of them.
    expect(statements).toBeLessThanOrEqual(18);
  });

  it('answers 404 in JSON for what is not there', async () => {
    for (const path of ['/api/songs/none', '/api/nothing']) {
      const { body } = await server.http.get(path).expect(404);
      expect(faultSchema.parse(body).error.code).toBe('not-found');
    }
  });

  it('lists the sound library', async () => {
    expect((await server.http.get('/api/sounds')).body.length).toBeGreaterThanOrEqual(7);
  });
});

describe('saving', () => {
  it('saves a patch as its next revision and gives back exactly what was saved', async () => {
    const { revision, value } = await readPatch();
    const changed: Patch = {
      ...value,
      name: 'Bass over bells',
      layers: [
        value.layers[2],
        { ...value.layers[0], level: -3.25, keyboards: 'any', channel: 'any' },
      ],
    };
    const { body } = await server.http.put(PATCH).send({ revision, value: changed }).expect(200);
    expect(body).toEqual({ revision: revision + 1, value: changed });
    expect(await readPatch()).toEqual(body);
  });

  it('refuses a stale revision with 409 and the present version, and keeps it', async () => {
    const first = await readPatch();
    const mine = { ...first.value, name: 'mine' };
    const theirs = { ...first.value, name: 'theirs' };
    await server.http.put(PATCH).send({ revision: first.revision, value: theirs }).expect(200);
    const { body } = await server.http
      .put(PATCH)
      .send({ revision: first.revision, value: mine })
      .expect(409);
    const fault = faultSchema.parse(body).error;
    expect(fault.code).toBe('stale');
    expect(fault.present).toEqual({ revision: first.revision + 1, value: theirs });
    expect((await readPatch()).value.name).toBe('theirs');
  });

  it('creates with revision 0, once, and removes with the present revision only', async () => {
    const song = savedSchemas.songs.parse(
      (await server.http.get('/api/songs/demo-saltglass')).body,
    );
    const value = { ...song.value, id: 'new-song', name: 'New song' };
    await server.http.put('/api/songs/new-song').send({ revision: 0, value }).expect(201);
    await server.http.put('/api/songs/new-song').send({ revision: 0, value }).expect(409);
    await server.http.delete('/api/songs/new-song?revision=7').expect(409);
    await server.http.delete('/api/songs/new-song?revision=1').expect(204);
    await server.http.delete('/api/songs/new-song?revision=1').expect(404);
    await server.http.put('/api/songs/new-song').send({ revision: 1, value }).expect(409);
  });

  it('keeps a song that stands in a show and names the show; else it goes with its patches and cues', async () => {
    const path = '/api/songs/demo-nine-bells?revision=1';
    const { body } = await server.http.delete(path).expect(409);
    expect(faultSchema.parse(body).error).toMatchObject({
      code: 'in-use',
      message:
        'This song cannot be removed: it stands in the show “Night Tide at Pier Nine”. Nothing was changed.',
    });
    const { body: show } = await server.http.get(SHOW);
    show.value.order = show.value.order.filter(
      (entry: { songId?: string }) => entry.songId !== 'demo-nine-bells',
    );
    await server.http.put(SHOW).send(show).expect(200);
    await server.http.delete(path).expect(204);
    const document = repertoireSchema.parse(await everything());
    expect(document.songs).toHaveLength(6);
    expect(JSON.stringify(document)).not.toContain('nine-bells');
  });

  it('removes the demo whole but for what another show needs, and brings back what is missing', async () => {
    const { body: show } = await server.http.get(SHOW);
    const other = { ...show.value, id: 'another', name: 'Another night', controls: [] };
    other.order = other.order.slice(0, 1);
    await server.http.put('/api/shows/another').send({ revision: 0, value: other }).expect(201);
    const { body } = await server.http.delete('/api/demo').expect(200);
    expect(body).toEqual({ kept: ['Saltglass'] });
    const left = repertoireSchema.parse(await everything());
    expect(left.shows.map(({ value }) => value.name)).toEqual(['Another night']);
    expect(left.songs.map(({ value }) => value.name)).toEqual(['Saltglass']);
    expect(left.cues.length).toBe(4);
    expect(left.devices.length).toBe(7);
    expect(await server.store.keepsakes()).toEqual([]);
    await server.http.put('/api/demo').expect(204);
    const again = repertoireSchema.parse(await everything());
    expect(again.songs).toHaveLength(7);
    expect(again.shows).toHaveLength(2);
    await server.http.put('/api/demo').expect(204);
    expect(repertoireSchema.parse(await everything())).toEqual(again);
  });

  it('keeps a patch that a cue still uses', async () => {
    const { body } = await server.http.delete(`${PATCH}?revision=1`).expect(409);
    expect(faultSchema.parse(body).error.code).toBe('in-use');
    await readPatch();
  });

  it('saves the show with its order, and every kind of device', async () => {
    const { body: show } = await server.http.get(SHOW);
    show.value.order.reverse();
    show.value.heldNotes = 'cut';
    const { body: saved } = await server.http.put(SHOW).send(show).expect(200);
    expect(saved.value).toEqual(show.value);
    const document = repertoireSchema.parse(await everything());
    expect(document.shows).toEqual([saved]);
    for (const device of document.devices) {
      const path = `/api/devices/${device.value.id}`;
      const { body } = await server.http.put(path).send(device).expect(200);
      expect(body.value).toEqual(device.value);
      expect((await server.http.get(path)).body).toEqual(body);
    }
  });
});

describe('what the player keeps', () => {
  const path = '/api/keepsakes/kept';
  const listed = async () =>
    keepsakeListSchema
      .parse((await server.http.get('/api/keepsakes').expect(200)).body)
      .filter(({ value }) => value.id === 'kept');
  const parts = async () => {
    const { layers, sounds } = (await readPatch()).value;
    const [layer] = layers;
    const sound = sounds.find(({ id }) => id === layer.soundId);
    if (!sound) throw new Error('the layer plays nothing');
    return { layer, sound };
  };

  it('is a sound, a layer or a whole patch, named, listed, changed and given up', async () => {
    const { layer, sound } = await parts();
    const patch = (await readPatch()).value;
    const contents: KeptContent[] = [
      { kind: 'sound', sound },
      { kind: 'layer', sound, layer, treatments: [], controls: [], choosers: [] },
      { kind: 'patch', patch },
    ];
    for (const content of contents) {
      const value = { id: 'kept', name: 'Kept', favourite: false, content };
      await server.http.put(path).send({ revision: 0, value }).expect(201);
      const [{ revision }] = await listed();
      expect(await listed()).toEqual([{ revision, value }]);
      const renamed = { ...value, name: 'Renamed', favourite: true };
      await server.http.put(path).send({ revision, value: renamed }).expect(200);
      await server.http.put(path).send({ revision, value }).expect(409);
      expect(await listed()).toEqual([{ revision: revision + 1, value: renamed }]);
      await server.http.delete(`${path}?revision=${revision + 1}`).expect(204);
      expect(await listed()).toEqual([]);
    }
  });

  it('stays when the song it came from goes', async () => {
    const { layer, sound } = await parts();
    const content = { kind: 'layer', sound, layer, treatments: [], controls: [], choosers: [] };
    const value = { id: 'kept', name: 'Kept', favourite: false, content };
    await server.http.put(path).send({ revision: 0, value }).expect(201);
    await server.http.delete('/api/demo').expect(200);
    expect(await listed()).toHaveLength(1);
  });

  it('is refused with the path of what is wrong', async () => {
    const { layer, sound } = await parts();
    const bad: [unknown, string][] = [
      [{ kind: 'sound' }, 'value.content.sound'],
      [{ kind: 'layer', sound: { ...sound, id: 'other' }, layer }, 'value.content.layer.soundId'],
      [{ kind: 'sound', sound: { ...sound, polyphony: 0 } }, 'value.content.sound.polyphony'],
    ];
    for (const [content, where] of bad) {
      const value = { id: 'kept', name: 'Kept', favourite: false, content };
      const { body } = await server.http.put(path).send({ revision: 0, value }).expect(400);
      expect(faultSchema.parse(body).error.path).toBe(where);
    }
    expect(await listed()).toEqual([]);
  });
});

describe('bad input', () => {
  const broken: [string, (patch: Patch) => unknown, string][] = [
    ['an unknown field', (p) => ({ ...p, colour: 'red' }), 'value.colour'],
    [
      'an unknown field deep down',
      (p) => ({ ...p, layers: [{ ...p.layers[0], keys: { ...p.layers[0].keys, colour: 1 } }] }),
      'value.layers[0].keys.colour',
    ],
    [
      'a wrong type',
      (p) => ({ ...p, layers: [{ ...p.layers[0], level: 'loud' }] }),
      'value.layers[0].level',
    ],
    [
      'a swapped range',
      (p) => ({ ...p, layers: [{ ...p.layers[0], keys: { low: 60, high: 50 } }] }),
      'value.layers[0].keys.low',
    ],
    ['a layer without its sound', (p) => ({ ...p, sounds: [] }), 'value.layers[0].soundId'],
    [
      'a level that is no number',
      (p) => ({ ...p, layers: [{ ...p.layers[0], level: null }] }),
      'value.layers[0].level',
    ],
  ];
  it.each(broken)('refuses %s with its path, and changes nothing', async (_name, spoil, path) => {
    const before = await everything();
    const { revision, value } = await readPatch();
    const { body } = await server.http
      .put(PATCH)
      .send({ revision, value: spoil(value) })
      .expect(400);
    const fault = faultSchema.parse(body).error;
    expect(fault).toMatchObject({ code: 'invalid', path });
    expect(fault.message).toContain('Nothing was changed');
    expect(await everything()).toEqual(before);
  });

  it('refuses half a character, and keeps what is full of whole ones to the last', async () => {
    const before = await everything();
    const { revision, value } = await readPatch();
    for (const name of [`${'x'.repeat(79)}\ud83c`, '\udfb9'])
      await server.http
        .put(PATCH)
        .send({ revision, value: { ...value, name } })
        .expect(400);
    expect(await everything()).toEqual(before);
    const name = '\u{1f3b9}'.repeat(80);
    await server.http
      .put(PATCH)
      .send({ revision, value: { ...value, name } })
      .expect(200);
    expect((await readPatch()).value.name).toBe(name);
    await server.http.get('/api/repertoire').expect(200);
  });

  it('refuses a key that would reach into every object, and more balance than a cue can have', async () => {
    const before = await everything();
    const cue = (await server.http.get('/api/cues/demo-saltglass-cue-1').expect(200)).body;
    const text = JSON.stringify(cue).replace('"balance":{', '"balance":{"__proto__":{"level":-3},');
    const json = { 'Content-Type': 'application/json' };
    for (const body of [text, text.replace('"__proto__"', '"\\u005f_proto__"')]) {
      expect(body).toContain('proto__"');
      const { body: fault } = await server.http
        .put('/api/cues/demo-saltglass-cue-1')
        .set(json)
        .send(body)
        .expect(400);
      expect(faultSchema.parse(fault).error.message).toContain('__proto__');
    }
    for (let i = 0; i < 129; i++) cue.value.balance[`layer-${i}`] = { level: -i / 10 };
    await server.http.put('/api/cues/demo-saltglass-cue-1').send(cue).expect(400);
    expect(await everything()).toEqual(before);
  });

  it('refuses twins of a sound, a treatment, a control and an entry, in patches and in what is kept', async () => {
    const before = await everything();
    const { value } = await readPatch();
    const { body: show } = await server.http.get(SHOW);
    show.value.order.push(show.value.order[0]);
    await server.http.put(SHOW).send(show).expect(400);
    const twice = { ...value, sounds: [...value.sounds, value.sounds[0]] };
    await server.http.put(PATCH).send({ revision: 1, value: twice }).expect(400);
    const content = { kind: 'patch', patch: twice };
    const kept = { id: 'kept', name: 'Kept', favourite: false, content };
    await server.http.put('/api/keepsakes/kept').send({ revision: 0, value: kept }).expect(400);
    expect(await everything()).toEqual(before);
  });

  it('says that the disk is full, and saves again when there is room', async () => {
    const before = await everything();
    const { revision, value } = await readPatch();
    const [{ page_count: pages }] =
      await server.knex.raw<{ page_count: number }[]>('pragma page_count');
    await server.knex.raw(`pragma max_page_count = ${pages}`);
    const kept = (at: number) => ({
      revision: 0,
      value: {
        id: `kept-${at}`,
        name: 'Kept',
        favourite: false,
        content: { kind: 'patch', patch: value },
      },
    });
    let full: unknown = null;
    let at = 0;
    for (; at < 50 && !full; at++) {
      const { status, body } = await server.http.put(`/api/keepsakes/kept-${at}`).send(kept(at));
      if (status !== 201) full = { status, code: faultSchema.parse(body).error.code };
    }
    expect(full).toEqual({ status: 507, code: 'no-room' });
    expect(await everything()).toEqual(before);
    await server.knex.raw('pragma max_page_count = 100000');
    await server.http.put(`/api/keepsakes/kept-${at}`).send(kept(at)).expect(201);
    await server.http.put(PATCH).send({ revision, value }).expect(200);
  });

  it('refuses broken JSON, other ids, missing references, huge bodies and foreign hosts, and changes nothing', async () => {
    const before = await everything();
    const json = { 'Content-Type': 'application/json' };
    const { value } = await readPatch();
    await server.http.put(PATCH).set(json).send('{"revision": 1, "value":').expect(400);
    await server.http.put(PATCH).set(json).send('null').expect(400);
    await server.http.put('/api/patches/other').send({ revision: 1, value }).expect(400);
    await server.http
      .put(PATCH)
      .send({ revision: 1, value: { ...value, songId: 'none' } })
      .expect(400);
    const sounds = value.sounds.map((s) => ({ ...s, librarySoundId: 'none' }));
    await server.http
      .put(PATCH)
      .send({ revision: 1, value: { ...value, sounds } })
      .expect(400);
    await server.http
      .put(PATCH)
      .set(json)
      .send(`"${'x'.repeat(1_100_000)}"`)
      .expect(413);
    await server.http.delete(PATCH).expect(400);
    await server.http.get('/api/health').set('Host', 'elsewhere.example').expect(400);
    expect(await everything()).toEqual(before);
  });
});

describe('security', () => {
  it('lets only its own pages change anything', async () => {
    const saved = await readPatch();
    for (const origin of ['https://elsewhere.example', 'http://127.0.0.1:1', 'null']) {
      const { body } = await server.http.put(PATCH).set('Origin', origin).send(saved).expect(403);
      expect(faultSchema.parse(body).error.code).toBe('foreign');
      await server.http.delete(`${PATCH}?revision=1`).set('Origin', origin).expect(403);
    }
    expect(await readPatch()).toEqual(saved);
    await server.http.get(PATCH).set('Origin', 'https://elsewhere.example').expect(200);
    const own = { Host: '127.0.0.1:4310', Origin: 'http://127.0.0.1:4310' };
    await server.http.put(PATCH).set(own).send(saved).expect(200);
  });

  it('allows nothing from outside', async () => {
    const { headers } = await server.http.get('/api/health');
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    expect(headers['content-security-policy']).not.toMatch(/https?:|\*/);
    expect(headers['cross-origin-opener-policy']).toBe('same-origin');
    expect(headers['cross-origin-embedder-policy']).toBe('require-corp');
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['x-powered-by']).toBeUndefined();
    expect(headers['permissions-policy']).toContain('midi=(self)');
    expect(headers['permissions-policy']).toContain('camera=()');
  });
});

describe('what was changed for another database', () => {
  it('is refused, and what names this one or none is not', async () => {
    const { body } = await server.http.get('/api/repertoire');
    const { database, patches } = repertoireSchema.parse(body);
    const [{ revision, value }] = patches;
    const put = (name: string | null) => {
      const request = server.http.put(`/api/patches/${value.id}`);
      if (name !== null) void request.set(DATABASE_HEADER, name);
      return request.send({ revision, value });
    };
    const refused = await put('another').expect(412);
    expect(faultSchema.parse(refused.body).error.code).toBe('other-database');
    await put(database).expect(200);
    await put(null).expect(409);
  });
});

describe('the demo', () => {
  it('comes back though a house sound of it was taken out of the library', async () => {
    await server.http.delete('/api/demo').expect(200);
    await server.store.discard('sounds', 'house-felt-piano');
    await server.http.put('/api/demo').expect(204);
    await server.http.get('/api/sounds/house-felt-piano').expect(200);
  });

  it('goes though a part of it is damaged, and leaves a sound that the player has kept', async () => {
    const sound = newPatchSound('kept', HARBOUR_REEDS.id);
    const value = { id: 'kept', name: 'Kept', favourite: false, content: { kind: 'sound', sound } };
    await server.http.put('/api/keepsakes/kept').send({ revision: 0, value }).expect(201);
    await server.knex('shows').update({ date: 'no day' });
    await inspect(server.knex, server.store.condition);
    expect(server.store.condition.damages).toHaveLength(1);
    await server.http.delete('/api/demo').expect(200, { kept: [] });
    expect(server.store.condition.damages).toEqual([]);
    expect(await server.store.hasNone('shows')).toBe(true);
    await server.http.get(`/api/sounds/${HARBOUR_REEDS.id}`).expect(200);
  });
});

it('answers to names of this machine alone, whatever follows the colon', async () => {
  for (const host of ['127.0.0.1:4310', 'localhost', '[::1]:1'])
    await server.http.get('/api/health').set('Host', host).expect(200);
  for (const host of ['localhost:80@elsewhere', 'localhost:', '127.0.0.1:x', 'elsewhere'])
    await server.http.get('/api/health').set('Host', host).expect(400);
});

it('refuses a 33rd device of a rig in words', async () => {
  const { devices } = repertoireSchema.parse((await server.http.get('/api/repertoire')).body);
  const [{ value }] = devices;
  const add = (i: number) => {
    const device = { ...value, id: `more-${i}`, position: devices.length + i };
    return server.http.put(`/api/devices/more-${i}`).send({ revision: 0, value: device });
  };
  for (let i = devices.length; i < 32; i++) await add(i).expect(201);
  const { body } = await add(99).expect(400);
  expect(faultSchema.parse(body).error.message).toContain('32 devices at most');
});
