import { copyFile, cp, mkdtemp, rm } from 'node:fs/promises';
import { once } from 'node:events';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createApp } from '@pentachord/server/app';
import { fillIn } from '@pentachord/server/demo/fill';
import { Backups } from '@pentachord/server/store/backups';
import { openDatabase } from '@pentachord/server/store/database';
import { RecordingFiles } from '@pentachord/server/store/recording-files';
import { Recordings } from '@pentachord/server/store/recordings';
import { Store } from '@pentachord/server/store/store';
import { pino } from 'pino';
import { DATABASE, RECORDINGS, type ServerParts, type TestServer } from './server.js';

const PAGES = join(dirname(fileURLToPath(import.meta.url)), '../../web/dist/web/browser');

/** Makes a database as the application does for the first time, with the demo or without. */
export async function fillTemplate(file: string, demo: boolean): Promise<void> {
  const knex = await openDatabase(file);
  const store = new Store(knex);
  await fillIn(store, true, new RecordingFiles(join(dirname(file), RECORDINGS)), demo);
  const show = await store.find('shows', 'demo-show');
  // Tests press as fast as they can; those of the guard set it themselves.
  if (show) {
    const going = { ...show.value.going, guardSeconds: 0 };
    await store.save('shows', { ...show, value: { ...show.value, going } });
  }
  await knex.destroy();
}

/** The real application over a real database of its own, inside the process of the tests. */
export async function startInside({
  port,
  template,
  answer = () => false,
}: ServerParts): Promise<TestServer> {
  const folder = await mkdtemp(join(tmpdir(), 'pentachord-e2e-'));
  const file = join(folder, DATABASE);
  await copyFile(template, file);
  await cp(join(dirname(template), RECORDINGS), join(folder, RECORDINGS), { recursive: true });
  const knex = await openDatabase(file);
  const store = new Store(knex);
  const files = new RecordingFiles(join(folder, RECORDINGS));
  const app = createApp({
    store,
    recordings: new Recordings(files, store.recordings, new Backups(join(folder, 'backups'))),
    log: pino({ level: 'silent' }),
    version: 'tested',
    pages: PAGES,
  });
  const server = createServer((request, response) => {
    if (!answer(request, response)) app(request, response);
  }).listen(port, '127.0.0.1');
  await once(server, 'listening');
  return {
    origin: `http://127.0.0.1:${port}`,
    async close() {
      const closed = once(server, 'close');
      server.close();
      server.closeAllConnections();
      await closed;
      await knex.destroy();
      await rm(folder, { recursive: true, force: true });
    },
  };
}
