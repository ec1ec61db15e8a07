import { mkdtemp, rm } from 'node:fs/promises';
import { Agent, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sheetOf, sheetWishesSchema } from '@pentachord/core/exchange';
import {
  newCue,
  newShow,
  newSong,
  savedSchemas,
  songEntry,
  type Cue,
  type Song,
} from '@pentachord/core/model';
import { createApp } from '@pentachord/server/app';
import { fillLibrary, fillRig } from '@pentachord/server/demo/fill';
import { sheetPdf } from '@pentachord/server/sheet/sheet-pdf';
import { openDatabase, withConnection } from '@pentachord/server/store/database';
import { Store } from '@pentachord/server/store/store';
import BetterSqlite3 from 'better-sqlite3';
import type { Knex } from 'knex';
import { pino } from 'pino';
import { patchOf } from './core.js';
import { quantile, type Result } from './table.js';

const SONGS = 200;
const CUES = 6;

/** The server's share: reading a large show, saving a patch, and many clients at once, beside what the disk alone takes. */
export async function measureServer(): Promise<Result[]> {
  const folder = await mkdtemp(join(tmpdir(), 'pentachord-bench-'));
  const file = join(folder, 'bench.sqlite');
  const knex = await openDatabase(file);
  try {
    const store = new Store(knex);
    await fillLibrary(store);
    await fillRig(store);
    await fillLargeShow(store);
    const read = await measureReading(knex, store);
    const save = await measureSaving(knex, store, join(folder, 'bare.sqlite'));
    const sheet = await measureSheet(store);
    return [...read, ...save, ...sheet, ...(await measureClients(store))];
  } finally {
    await knex.destroy();
    await rm(folder, { recursive: true, force: true });
  }
}

/** A sheet of thirty songs, once the server has made one before. */
async function measureSheet(store: Store): Promise<Result[]> {
  const { shows, rigs, devices, songs, patches, cues } = await store.repertoire();
  const byId = <T extends { id: string }>(saved: readonly { value: T }[]) =>
    new Map(saved.map(({ value }) => [value.id, value]));
  const [{ value: show }] = shows;
  const sources = {
    show: { ...show, order: show.order.slice(0, 30) },
    rig: rigs[0].value,
    devices: devices.map(({ value }) => value),
    ...{ songs: byId(songs), patches: byId(patches), cues: cues.map(({ value }) => value) },
    sounds: byId(await store.sounds()),
    patterns: byId(await store.all('patterns')),
  };
  const make = () => sheetPdf(sheetOf(sources), sheetWishesSchema.parse({}));
  await make();
  const value = await timed(make);
  return [{ what: 'the sheet of thirty songs as PDF', value, goal: 3000, unit: 'ms' }];
}

/** Tables of a show, and which of their rows are its own. */
const OF_SONGS = 'where song_id in (select id from songs)';
const OF_PATCHES = 'where patch_id in (select id from patches)';
const ROWS = [
  'rigs',
  'shows',
  'order_entries order by position',
  'devices order by position',
  'songs order by name',
  `patches ${OF_SONGS} order by song_id, position`,
  `patch_sounds ${OF_PATCHES} order by patch_id, position`,
  `layers ${OF_PATCHES} order by patch_id, position`,
  `treatments ${OF_PATCHES} order by patch_id, position`,
  `patch_controls ${OF_PATCHES} order by patch_id, position`,
  `choosers ${OF_PATCHES} order by patch_id, position`,
  `cues ${OF_SONGS} order by song_id, position`,
];

async function measureReading(knex: Knex, store: Store): Promise<Result[]> {
  let statements = 0;
  const count = () => statements++;
  knex.on('query', count);
  await store.repertoire();
  knex.off('query', count);
  const ours: number[] = [];
  const bare: number[] = [];
  for (let run = 0; run < 30; run++) {
    ours.push(await timed(async () => JSON.stringify(await store.repertoire())));
    bare.push(
      await withConnection(knex, (connection) =>
        timed(() =>
          JSON.stringify(ROWS.map((rows) => connection.prepare(`select * from ${rows}`).all())),
        ),
      ),
    );
  }
  const [median, alone] = [middle(ours), middle(bare)];
  return [
    {
      what: `reading a show of ${SONGS} songs × ${CUES} cues, against a bare read of its rows, ratio`,
      value: median / alone,
      goal: 2,
      unit: '',
    },
    // Thirteen, and two that make one moment of them.
    { what: 'SQL statements for it', value: statements, goal: 15, unit: '' },
  ];
}

async function measureSaving(knex: Knex, store: Store, bareFile: string): Promise<Result[]> {
  const [{ value }] = await store.all('patches');
  const bare = await bareCopy(knex, bareFile);
  const ours: number[] = [];
  const alone: number[] = [];
  const turned: number[] = [];
  const checked: number[] = [];
  for (let run = 0; run < 400; run++) {
    const present = await store.find('patches', value.id);
    if (!present) throw new Error('the patch is gone');
    const level = -(run % 40) / 4;
    // A hand moves one level; every fourth time the layers are put in another order, so that each of them is written.
    const layers = present.value.layers.map((layer, at) =>
      at === 0 ? { ...layer, level } : layer,
    );
    const some = run % 4 === 0 ? layers.toReversed() : layers;
    const body = JSON.stringify({ ...present, value: { ...present.value, layers: some } });
    let sent = present;
    // Knowing that it may be saved at all is no part of saving, and is told apart.
    checked.push(await timed(() => (sent = savedSchemas.patches.parse(JSON.parse(body)))));
    const save = await timed(async () => {
      const outcome = await store.save('patches', sent);
      if (outcome.kind !== 'done') throw new Error(`the patch could not be saved: ${outcome.kind}`);
    });
    (run % 4 === 0 ? turned : ours).push(save);
    alone.push(await timed(() => bare.save(value.id, level)));
  }
  bare.close();
  const one = middle(alone);
  return [
    {
      what: 'saving a patch after one level, against the bare transaction, ratio of medians',
      value: middle(ours) / one,
      goal: 1.5,
      unit: '',
    },
    {
      what: 'saving a patch whose layers are turned round, against the bare transaction, ratio of medians',
      value: middle(turned) / one,
      goal: 1.5,
      unit: '',
      limit:
        'the bare transaction knows beforehand what to write, and writes as many rows: what is left is reading what stands there and comparing it, so that a hand that moves one level writes one row',
    },
    {
      what: 'checking a patch with its schema, against the bare transaction, ratio of medians',
      value: middle(checked) / one,
      goal: 1.5,
      unit: '',
    },
  ];
}

/** A copy of the database, saved to by better-sqlite3 alone: the patch and all of its parts in one transaction. */
async function bareCopy(knex: Knex, file: string) {
  await withConnection(knex, (connection) => connection.backup(file));
  const copy = new BetterSqlite3(file);
  copy.pragma('journal_mode = WAL');
  copy.pragma('synchronous = FULL');
  copy.pragma('foreign_keys = ON');
  const parts = ['patch_sounds', 'layers', 'treatments', 'patch_controls', 'choosers'].map(
    (table) => {
      const columns = copy
        .prepare(`select * from ${table}`)
        .columns()
        .map(({ name }) => name);
      const places = columns.map(() => '?').join(',');
      return {
        rows: copy.prepare(`select * from ${table} where patch_id = ?`).raw(),
        remove: copy.prepare(`delete from ${table} where patch_id = ?`),
        insert: copy.prepare(`insert into ${table} values (${places})`),
      };
    },
  );
  const update = copy.prepare('update patches set revision = revision + 1, name = ? where id = ?');
  const known = new Map<string, unknown[][][]>();
  const write = copy.transaction((id: string, level: number) => {
    update.run(`at ${level}`, id);
    const rows = known.get(id) ?? [];
    for (const { remove } of parts.toReversed()) remove.run(id);
    parts.forEach(({ insert }, at) => {
      for (const row of rows[at]) insert.run(...row);
    });
  });
  return {
    save(id: string, level: number) {
      if (!known.has(id))
        known.set(
          id,
          parts.map(({ rows }) => rows.all(id) as unknown[][]),
        );
      write(id, level);
    },
    close: () => copy.close(),
  };
}

const CLIENTS = 20;
/** What a client asks for, one after the other. */
const ASKED = ['/api/patches/PATCH', '/api/sounds', '/api/keepsakes', '/api/shows/large', 'save'];

/** Twenty clients that read and write as quickly as they are answered. */
async function measureClients(store: Store): Promise<Result[]> {
  const app = createApp({ store, log: pino({ level: 'silent' }), version: '0' });
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const whole: number[] = [];
  for (let run = 0; run < 12; run++)
    whole.push(
      await timed(async () => {
        const response = await fetch(`${origin}/api/repertoire`);
        const { cues } = (await response.json()) as { cues: unknown[] };
        if (cues.length !== SONGS * CUES) throw new Error('the show is not whole');
      }),
    );
  // Clients that cost little themselves, since they share a core with the server here.
  const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS });
  let answers = 0;
  const until = performance.now() + 4000;
  await Promise.all(
    Array.from({ length: CLIENTS }, async (_, client) => {
      const path = `${origin}/api/patches/patch-${client}`;
      for (let turn = client; performance.now() < until; turn++) {
        const what = ASKED[turn % ASKED.length];
        if (what === 'save') {
          await ask(agent, path, await ask(agent, path));
          answers++;
        } else await ask(agent, origin + what.replace('PATCH', `patch-${client}`));
        answers++;
      }
    }),
  );
  agent.destroy();
  server.close();
  server.closeAllConnections();
  return [
    { what: 'GET of that show, median', value: middle(whole), goal: 150, unit: 'ms' },
    {
      what: `390 answers a second, against what ${CLIENTS} clients of mixed reads and saves get, ratio`,
      value: 390 / (answers / 4),
      goal: 1,
      unit: '',
    },
  ];
}

/** Asks for an address, or saves a body there, and gives back what was answered. */
function ask(agent: Agent, url: string, body?: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const headers =
      body === undefined
        ? {}
        : { 'Content-Type': 'application/json', 'Content-Length': Buffer.byteLength(body) };
    const asked = request(url, { agent, headers, method: body === undefined ? 'GET' : 'PUT' });
    asked.on('error', reject);
    asked.on('response', (response) => {
      let text = '';
      response.setEncoding('utf8');
      response.on('data', (part: string) => (text += part));
      response.on('end', () => resolve(text));
    });
    asked.end(body);
  });
}

async function timed(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

function middle(times: number[]): number {
  return quantile(
    times.toSorted((a, b) => a - b),
    0.5,
  );
}

/** Fills a database with a show of many songs, each with a patch and cues. */
export async function fillLargeShow(store: Store): Promise<void> {
  await store.together(async (inside) => {
    const [rig] = await inside.all('rigs');
    const show = newShow('large', 'A large show', '2027-01-01', rig.value.id);
    await inside.save('shows', { revision: 0, value: show });
    for (let s = 0; s < SONGS; s++) {
      const songId = `song-${s}`;
      const key = { tonic: s % 12, spelling: 'usual' as const, mode: 'major' as const };
      const song: Song = {
        ...newSong(songId, `Song ${s}`),
        fingered: key,
        sounding: key,
      };
      await inside.save('songs', { revision: 0, value: song });
      const patch = { ...patchOf(4), id: `patch-${s}`, songId };
      const sounds = patch.sounds.map((sound) => ({
        ...sound,
        librarySoundId: 'house-felt-piano',
      }));
      await inside.save('patches', { revision: 0, value: { ...patch, sounds } });
      for (let c = 0; c < CUES; c++) {
        const cue: Cue = {
          ...newCue(`cue-${s}-${c}`, songId, c, `cue ${c}`, patch.id),
          atSeconds: c * 40,
          balance: { 'layer-0': { level: -c } },
        };
        await inside.save('cues', { revision: 0, value: cue });
      }
    }
    const order = Array.from({ length: SONGS }, (_, s) => songEntry(`entry-${s}`, `song-${s}`));
    await inside.save('shows', { revision: 1, value: { ...show, order } });
  });
}
