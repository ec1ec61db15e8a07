import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { kindInWords } from '@pentachord/core/model';
import { pino } from 'pino';
import * as z from 'zod';
import { createApp } from './app.js';
import { fillIn } from './demo/fill.js';
import { settingsFrom } from './settings.js';
import { CannotStart } from './store/folder.js';
import { DataFolder } from './store/data-folder.js';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
// What is kept is the player’s alone.
process.umask(0o077);

try {
  await serve();
} catch (error) {
  const said =
    error instanceof CannotStart
      ? error.message
      : `Something unforeseen went wrong (${error instanceof Error ? error.message : String(error)}). What is saved is safe; start Pentachord again.`;
  console.error(`Pentachord was not started. ${said}`);
  process.exit(error instanceof CannotStart ? 2 : 1);
}

async function serve(): Promise<void> {
  const { port, data, log: level, demo } = settingsFrom(process.env, root);
  const log = pino({ level });
  const { version } = z
    .object({ version: z.string() })
    .parse(JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')));
  const keeping = await DataFolder.open(data, {
    log,
    fill: (store, isNew, files) => fillIn(store, isNew, files, demo),
  });

  const pages = join(root, 'web/dist/web/browser');
  const appNow = () => createApp({ store: keeping.store, keeping, log, version, pages });
  let app = appNow();
  keeping.onOpened = () => (app = appNow());
  const server = createServer((request, response) => void app(request, response));

  server.on('error', (error) => {
    console.error(
      `Pentachord was not started. Port ${port} on 127.0.0.1 cannot be used (${error.message}). Your data is safe; set PENTACHORD_PORT to another port.`,
    );
    void keeping.close().then(() => process.exit(1));
  });
  server.listen(port, '127.0.0.1', () => {
    const bound = server.address();
    const address = `http://127.0.0.1:${typeof bound === 'object' && bound ? bound.port : port}`;
    keeping.answersAt(address);
    const { closed, readOnly, damaged, healed } = keeping.state();
    for (const { kind, name, backup } of healed)
      console.log(
        `Put right from the backup ${backup}: the ${kindInWords(kind)} “${name}”, which was damaged.`,
      );
    for (const { kind, name, why, lost } of damaged)
      console.log(
        `${lost ? 'Cannot be read and is left out' : 'Damaged'}: the ${kindInWords(kind)} “${name}”: ${why}. See ${address}/backups`,
      );
    if (readOnly) console.log(readOnly);
    if (closed) console.log(`${closed} See ${address}/backups`);
    else console.log(`Pentachord is ready${readOnly ? ', for playing only' : ''}: ${address}`);
  });

  const stop = () => {
    server.close(() => void keeping.close().then(() => process.exit(0)));
    server.closeAllConnections();
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
}
