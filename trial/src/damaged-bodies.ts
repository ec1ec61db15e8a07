import { once } from 'node:events';
import { mkdtemp, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { KINDS, type Kind } from '@pentachord/core/model';
import { createApp } from '@pentachord/server/app';
import { fillIn } from '@pentachord/server/demo/fill';
import { openDatabase } from '@pentachord/server/store/database';
import { FAMILIES } from '@pentachord/server/store/families';
import { Store } from '@pentachord/server/store/store';
import { pino } from 'pino';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';

/** What a leaf may be replaced by. */
const ODD: readonly unknown[] = [
  null,
  true,
  '',
  ' ',
  0,
  -1,
  0.1 + 0.2,
  -3.6999999999999997,
  1e308,
  -1e308,
  5e-324,
  2 ** 53,
  128,
  'x'.repeat(79) + '\ud83c',
  '\udfb9',
  '\u0000',
  '🎹'.repeat(80),
  'x'.repeat(5000),
  '../../etc',
  "'; drop table patches; --",
  '__proto__',
  [],
  {},
  [[[]]],
  { low: 90, high: 10 },
];

/** Sends damaged bodies of every kind to the running application, and looks at what is there afterwards. */
export async function sendDamagedBodies(count: number, seed = 21): Promise<Finding[]> {
  const folder = await mkdtemp(join(tmpdir(), 'pentachord-trial-'));
  const knex = await openDatabase(join(folder, 'trial.sqlite'));
  const store = new Store(knex);
  await fillIn(store, true, null);
  const app = createApp({ store, log: pino({ level: 'silent' }), version: 'tried' });
  const server = app.listen(0, '127.0.0.1');
  await once(server, 'listening');
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const chance = new Chance(seed);
  const ids = new Map<Kind, string[]>();
  for (const kind of KINDS)
    ids.set(
      kind,
      (await store.all(kind)).map(({ value }) => value.id),
    );
  const state = async () => {
    const rows = await Promise.all(
      KINDS.map((kind) => knex(FAMILIES[kind].table).select('id', 'revision', 'checksum')),
    );
    return JSON.stringify(rows);
  };
  let mistakes = 0;
  let changed = 0;
  let unequal = 0;
  let accepted = 0;
  let before = await state();
  for (let i = 0; i < count; i++) {
    const kind = chance.of(KINDS);
    const id = chance.of(ids.get(kind) ?? []);
    const path = `${origin}/api/${kind}/${id}`;
    const good = await (await fetch(path)).text();
    const response = await fetch(path, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: damaged(good, chance),
    });
    const answer = await response.text();
    const after = await state();
    if (response.status >= 500) mistakes++;
    if (!response.ok) {
      if (after !== before) changed++;
    } else {
      accepted++;
      const again = await fetch(path);
      if (!again.ok || (await again.text()) !== answer) unequal++;
      await fetch(`${origin}/api/repertoire`).then((all) => {
        if (!all.ok) unequal++;
      });
      // What was there before is put back, so that every body is made from a good one.
      const { revision } = JSON.parse(answer) as { revision: number };
      const { value } = JSON.parse(good) as { value: unknown };
      await fetch(path, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ revision, value }),
      });
    }
    before = await state();
  }
  server.close();
  server.closeAllConnections();
  await knex.destroy();
  await rm(folder, { recursive: true, force: true });
  const tried = `${count.toLocaleString('en')} damaged bodies, ${accepted.toLocaleString('en')} of them good all the same`;
  return [
    {
      what: `answers of 5xx to ${tried}`,
      found: String(mistakes),
      promised: '0',
      holds: mistakes === 0,
    },
    {
      what: 'changes after a refusal',
      found: String(changed),
      promised: '0',
      holds: changed === 0,
    },
    {
      what: 'accepted things that are not read again as they were answered',
      found: String(unequal),
      promised: '0',
      holds: unequal === 0 && accepted > 0,
    },
  ];
}

/** A body with something wrong: in its text, or in one or several of its parts. */
function damaged(text: string, chance: Chance): string {
  const roll = chance.whole(0, 9);
  if (roll === 0) return text.slice(0, chance.whole(0, text.length - 1));
  if (roll === 1) {
    const at = chance.whole(0, text.length - 1);
    return text.slice(0, at) + String.fromCharCode(32 + chance.whole(0, 94)) + text.slice(at + 1);
  }
  const body: unknown = JSON.parse(text);
  for (let times = 0; times <= chance.whole(0, 2); times++) spoilOne(body, chance);
  return JSON.stringify(body);
}

function spoilOne(value: unknown, chance: Chance): void {
  let holder = value as Record<string, unknown>;
  for (;;) {
    const keys = Object.keys(holder);
    if (keys.length === 0) return;
    const key = chance.of(keys);
    const child = holder[key];
    if (typeof child === 'object' && child !== null && chance.whole(0, 3) > 0) {
      holder = child as Record<string, unknown>;
      continue;
    }
    const how = chance.whole(0, 4);
    if (how === 0) Reflect.deleteProperty(holder, key);
    else if (how === 1) holder[`${key}x`] = child;
    else if (how === 2 && Array.isArray(holder)) holder.push(structuredClone(child));
    else holder[key] = structuredClone(chance.of(ODD));
    return;
  }
}
