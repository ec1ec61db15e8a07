import { readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import * as z from 'zod';
import { createApp } from './app.js';
import { fillDemo, fillLibrary } from './demo/fill.js';
import { openDatabase } from './store/database.js';
import { Store } from './store/store.js';

const here = dirname(fileURLToPath(import.meta.url));
const root = resolve(here, '../..');

const environment = z
  .object({
    PENTACHORD_PORT: z.coerce.number().int().min(0).max(65_535).default(4310),
    PENTACHORD_DATA: z.string().min(1).default(join(root, 'data')),
    PENTACHORD_LOG: z.enum(['info', 'warn', 'error', 'silent']).default('warn'),
  })
  .safeParse(process.env);

if (!environment.success) {
  const [issue] = environment.error.issues;
  console.error(`${issue.path.join('.')}: ${issue.message}. Pentachord was not started.`);
  process.exit(2);
}

const { PENTACHORD_PORT: port, PENTACHORD_DATA: data, PENTACHORD_LOG: level } = environment.data;
const log = pino({ level });
const { version } = z
  .object({ version: z.string() })
  .parse(JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')));

const knex = await openDatabase(join(resolve(data), 'pentachord.sqlite'));
const store = new Store(knex);
await fillLibrary(store);
await fillDemo(store);

const app = createApp({ store, log, version, pages: join(root, 'web/dist/web/browser') });
const server: Server = app.listen(port, '127.0.0.1', (error?: Error) => {
  if (error) {
    console.error(
      `Port ${port} on 127.0.0.1 cannot be used (${error.message}). Your data is safe; set PENTACHORD_PORT to another port.`,
    );
    process.exit(1);
  }
  const address = server.address();
  const used = typeof address === 'object' && address ? address.port : port;
  console.log(`Pentachord is ready: http://127.0.0.1:${used}`);
});

function stop(): void {
  server.close(() => {
    void knex.destroy().then(() => process.exit(0));
  });
  server.closeAllConnections();
}
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
