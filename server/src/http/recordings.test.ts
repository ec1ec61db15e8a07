import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { recordingOf, writeWav } from '@pentachord/core/exchange';
import {
  PLAIN_ZONE,
  recordingKeepingSchema,
  type Recording,
  type SampledSound,
} from '@pentachord/core/model';
import { pino } from 'pino';
import supertest from 'supertest';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { createApp } from '../app.js';
import { bellRecordings } from '../demo/bells.js';
import { fillIn } from '../demo/fill.js';
import { DataFolder } from '../store/data-folder.js';

let folder: string;
let keeping: DataFolder;
let server: Server;
const shelf = () => join(folder, 'recordings');
const http = () => supertest(server);

async function open(): Promise<void> {
  const log = pino({ level: 'silent' });
  keeping = await DataFolder.open(folder, { log, fill: fillIn });
  const appNow = () => createApp({ store: keeping.store, keeping, log, version: '0' });
  let app = appNow();
  keeping.onOpened = () => (app = appNow());
  server = createServer((asked, answer) => void app(asked, answer)).listen(0, '127.0.0.1');
  await new Promise((listening) => server.once('listening', listening));
}

async function close(): Promise<void> {
  await new Promise((closed) => {
    server.close(closed);
    server.closeAllConnections();
  });
  await keeping.close();
}

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'pentachord-recordings-'));
  await open();
});
afterEach(async () => {
  await close();
  rmSync(folder, { recursive: true, force: true });
});

/** A note as a file, with what is heard in it. */
async function note(
  hertz: number,
): Promise<{ bytes: Buffer; recording: Recording; address: string }> {
  const samples = Float32Array.from(
    { length: 9600 },
    (_, i) => Math.sin((2 * Math.PI * hertz * i) / 48_000) / 2,
  );
  const bytes = Buffer.from(writeWav({ channels: [samples], sampleRate: 48_000, bits: 16 }));
  const id = createHash('sha256').update(bytes).digest('hex');
  const { recording } = await recordingOf(bytes, `note ${hertz}.wav`, id);
  return { bytes, recording, address: `/api/recordings/${id}` };
}

async function upload({ address, bytes }: { address: string; bytes: Buffer }, as = bytes) {
  return http().put(`${address}/bytes`).type('application/octet-stream').send(as);
}

function soundOf({ id }: Recording): SampledSound {
  const full = { high: 127, fadeIn: 0, fadeOut: 0, law: 'equalPower' as const };
  const zone = { ...PLAIN_ZONE, id: 'z', recordingId: id, root: 60 };
  return {
    ...{ id: 'own', name: 'Own', category: 'pianos', tags: [], favourite: false },
    ...{ lowestNote: 0, highestNote: 127 },
    origin: {
      ...{ kind: 'recordings', dynamics: 20 },
      zones: [{ ...zone, keys: { low: 0, ...full }, velocities: { low: 1, ...full } }],
    },
  };
}

const kept = async () =>
  recordingKeepingSchema.parse((await http().get('/api/recordings/keeping').expect(200)).body);
const save = async (sound: SampledSound, revision = 0) =>
  http().put('/api/sounds/own').send({ revision, value: sound });

it('takes bytes and then what is known of them, once, and gives both back', async () => {
  const one = await note(440);
  expect((await http().put(one.address).send(one.recording).expect(202)).body).toEqual({
    result: 'wanting',
  });
  expect((await upload(one)).status).toBe(204);
  await http().put(one.address).send(one.recording).expect(201, { result: 'taken' });
  await http().put(one.address).send(one.recording).expect(200, { result: 'already' });
  expect((await http().get('/api/recordings')).body).toContainEqual(one.recording);
  const back = await http().get(`${one.address}/bytes`).responseType('blob').expect(200);
  expect(one.bytes.equals(back.body as Buffer)).toBe(true);
  await http()
    .get(`/api/recordings/${'0'.repeat(64)}/bytes`)
    .expect(404);
});

it('refuses what is not as it was said to be, and nothing of it is left', async () => {
  const one = await note(440);
  const before = readdirSync(shelf());
  expect((await upload(one, one.bytes.subarray(1))).body).toMatchObject({
    error: { code: 'invalid', path: 'bytes' },
  });
  await http().put('/api/recordings/..%2F..%2Fout/bytes').send('x').expect(400);
  const other = await note(220);
  await http().put(other.address).send(one.recording).expect(400);
  await http()
    .put(one.address)
    .send({ ...one.recording, channels: 9 })
    .expect(400);
  await upload(one);
  await http()
    .put(one.address)
    .send({ ...one.recording, bytes: 5 })
    .expect(400);
  expect(readdirSync(shelf()).sort()).toEqual([...before, one.recording.id].sort());
});

it('leaves nothing of an upload that is cut, of two at once, or of one that was killed', async () => {
  const one = await note(440);
  const before = readdirSync(shelf()).length;
  await new Promise<void>((cut) => {
    const { port } = server.address() as AddressInfo;
    const asked = request({
      port,
      method: 'PUT',
      path: `${one.address}/bytes`,
      headers: { 'Content-Length': one.bytes.length },
    });
    asked.on('error', () => cut());
    asked.on('close', () => cut());
    asked.write(one.bytes.subarray(0, 4000), () => setTimeout(() => asked.destroy(), 50));
  });
  await expect.poll(() => readdirSync(shelf()).length).toBe(before);
  const both = await Promise.all([upload(one), upload(one)]);
  expect(both.map(({ status }) => status)).toEqual([204, 204]);
  expect(readdirSync(shelf())).toHaveLength(before + 1);
  await close();
  writeFileSync(join(shelf(), 'half-way.part'), 'half');
  await open();
  expect(readdirSync(shelf())).toHaveLength(before + 1);
});

it('tells what is wanting or damaged with the sounds that need it, until it is brought again', async () => {
  const one = await note(440);
  expect((await save(soundOf(one.recording))).status).toBe(201);
  expect((await kept()).missing).toEqual([
    { id: one.recording.id, name: '', why: 'missing', sounds: ['Own'] },
  ]);
  await upload(one);
  await http().put(one.address).send(one.recording);
  expect((await kept()).missing).toEqual([]);
  writeFileSync(join(shelf(), one.recording.id), 'spoilt');
  expect((await kept()).missing).toMatchObject([{ name: 'note 440.wav', why: 'damaged' }]);
  await upload(one);
  expect((await kept()).missing).toEqual([]);
});

it('clears away what no sound and no backup needs, and nothing else', async () => {
  const [one, two] = [await note(440), await note(220)];
  for (const each of [one, two]) {
    await upload(each);
    await http().put(each.address).send(each.recording);
  }
  const all = async () =>
    http()
      .post('/api/recordings/clear')
      .send({ ids: [one, two].map(({ recording }) => recording.id) });
  const { revision } = (await save(soundOf(one.recording))).body as { revision: number };
  expect((await kept()).unused.map(({ id }) => id)).toEqual([two.recording.id]);
  // The bells of the demo are in a sound.
  expect(bellRecordings().some(({ id }) => id === two.recording.id)).toBe(false);
  await keeping.backUp('asked');
  await http().delete(`/api/sounds/own?revision=${revision}`).expect(204);
  expect((await all()).body).toEqual({ cleared: 1 });
  expect(readdirSync(shelf())).toContain(one.recording.id);
  // What a backup needs plays again when it is brought back, with what has come since.
  const [{ name }] = keeping.state().backups;
  await upload(two);
  await http().put(two.address).send(two.recording);
  await http().post(`/api/backups/${name}/bring-back`).expect(200);
  expect((await kept()).missing).toEqual([]);
  expect((await http().get('/api/recordings')).body).toContainEqual(two.recording);
});

it('has the demo’s bells as they are heard', async () => {
  for (const known of bellRecordings()) {
    const bytes = readFileSync(join(shelf(), known.id));
    const { recording } = await recordingOf(bytes, known.name, known.id);
    expect(recording).toEqual(known);
  }
});
