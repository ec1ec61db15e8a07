import { pino } from 'pino';
import supertest from 'supertest';
import { createApp } from '../app.js';
import { fillIn } from '../demo/fill.js';
import { openDatabase } from '../store/database.js';
import { Store } from '../store/store.js';

/** The real application over a database of its own, filled with the demo. */
export async function serverUnderTest(file = ':memory:') {
  const knex = await openDatabase(file);
  const store = new Store(knex);
  await fillIn(store, true, null);
  const app = createApp({ store, log: pino({ level: 'silent' }), version: '0.0.0' });
  return { knex, store, http: supertest(app), close: () => knex.destroy() };
}
