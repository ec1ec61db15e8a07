import type { AddressInfo } from 'node:net';
import type { Cue, Song } from '@pentachord/core/model';
import { createApp } from '@pentachord/server/app';
import { fillLibrary } from '@pentachord/server/demo/fill';
import { openDatabase } from '@pentachord/server/store/database';
import { Store } from '@pentachord/server/store/store';
import { pino } from 'pino';
import { patchOf } from './core.js';
import { quantile, type Result } from './table.js';

const SONGS = 200;
const CUES = 6;

/** The server's share: reading a large show over HTTP. */
export async function measureServer(): Promise<Result[]> {
  const knex = await openDatabase(':memory:');
  const store = new Store(knex);
  await fillLibrary(store);
  await fillLargeShow(store);
  let statements = 0;
  knex.on('query', () => statements++);
  const app = createApp({ store, log: pino({ level: 'silent' }), version: '0' });
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;
  const found: number[] = [];
  for (let run = 0; run < 12; run++) {
    statements = 0;
    const start = performance.now();
    const response = await fetch(`http://127.0.0.1:${port}/api/shows/large/document`);
    const { cues } = (await response.json()) as { cues: unknown[] };
    if (cues.length !== SONGS * CUES) throw new Error('the show is not whole');
    if (run > 1) found.push(performance.now() - start);
  }
  server.close();
  await knex.destroy();
  found.sort((a, b) => a - b);
  return [
    {
      what: 'GET a show of 200 songs × 6 cues, median',
      value: quantile(found, 0.5),
      goal: 150,
      unit: 'ms',
    },
    { what: 'SQL statements for it', value: statements, goal: 5, unit: '' },
  ];
}

async function fillLargeShow(store: Store): Promise<void> {
  const showId = 'large';
  await store.together(async (inside) => {
    const show = {
      id: showId,
      name: 'A large show',
      date: '2027-01-01',
      place: '',
      slotSeconds: 3600,
      defaultFadeSeconds: 1,
      heldNotes: 'finish' as const,
      middleC: 4 as const,
      order: [],
      controls: [],
    };
    await inside.save('shows', { revision: 0, value: show });
    for (let s = 0; s < SONGS; s++) {
      const songId = `song-${s}`;
      const key = { tonic: s % 12, spelling: 'usual' as const, mode: 'major' as const };
      const song: Song = {
        id: songId,
        showId,
        name: `Song ${s}`,
        lengthSeconds: 240,
        tempo: 100,
        metre: { beats: 4, unit: 4 },
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
          id: `cue-${s}-${c}`,
          songId,
          position: c,
          name: `cue ${c}`,
          patchId: patch.id,
          balance: { 'layer-0': { level: -c } },
          controllers: [],
          fadeSeconds: null,
          note: '',
        };
        await inside.save('cues', { revision: 0, value: cue });
      }
    }
    const order = Array.from({ length: SONGS }, (_, s) => ({
      kind: 'song' as const,
      id: `entry-${s}`,
      songId: `song-${s}`,
    }));
    await inside.save('shows', { revision: 1, value: { ...show, order } });
  });
}
