import { mkdtemp, mkdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { pino } from 'pino';
import supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from './app.js';
import { openDatabase } from './store/database.js';
import { Store } from './store/store.js';

let folder: string;
let knex: Knex;
let http: ReturnType<typeof supertest>;
beforeAll(async () => {
  // A folder with a dot before its name, as a home’s hidden ones have, is one like any other.
  folder = await mkdtemp(join(tmpdir(), '.pentachord-pages-'));
  const pages = join(folder, 'pages');
  await mkdir(pages);
  await writeFile(join(folder, 'secret.txt'), 'not for anybody');
  await writeFile(
    join(pages, 'index.html'),
    '<!doctype html><title>Pages</title><app ngCspNonce="nonce-of-this-page"></app>',
  );
  await writeFile(join(pages, 'main-AB12CD34.js'), 'export {}');
  await writeFile(join(pages, 'worker-AB12CD34.js'), 'export {}');
  knex = await openDatabase(':memory:');
  http = supertest(
    createApp({ store: new Store(knex), log: pino({ level: 'silent' }), version: '0', pages }),
  );
});
afterAll(async () => {
  await knex.destroy();
  await rm(folder, { recursive: true, force: true });
});

describe('the pages', () => {
  it('answer every address of the application with the application', async () => {
    const seen = new Set<string | undefined>();
    for (const path of ['/', '/patch', '/stand-ins?x=1', '/showtime']) {
      const { text, headers } = await http.get(path).expect(200);
      expect(text).toContain('<title>Pages</title>');
      expect(headers['cache-control']).toBe('no-cache');
      const policy = headers['content-security-policy'];
      expect(policy).toContain("frame-ancestors 'none'");
      const nonce = /ngCspNonce="([^"]+)"/.exec(text)?.[1];
      expect(policy).toContain(`style-src-elem 'self' 'nonce-${nonce}'`);
      expect(seen.has(nonce)).toBe(false);
      seen.add(nonce);
    }
  });

  it('are not answered for a part of another build that is gone', async () => {
    for (const path of ['/chunk-ZZZZZZZZ.js', '/media/gone.woff2', '/patch/main.css'])
      await http.get(path).expect(404);
  });

  it('are kept by the service worker under a name of its own, for as long as its version lasts, and by no other store', async () => {
    const { text, headers } = await http.get('/index.html').expect(200);
    const nonce = /ngCspNonce="([^"]+)"/.exec(text)?.[1];
    expect(headers['content-security-policy']).toContain(`'nonce-${nonce}'`);
    // Without a store of its own the browser would give an old document to a new version.
    expect(headers['cache-control']).toMatch(/no-store/);
    expect(headers['cache-control']).toMatch(/max-age=\d{7,}/);
    // What keeps it alone with its memory is kept with it.
    expect(headers['cross-origin-opener-policy']).toBe('same-origin');
    expect(headers['cross-origin-embedder-policy']).toBe('require-corp');
  });

  it('keep for good what has a hash in its name', async () => {
    const { headers } = await http.get('/main-AB12CD34.js').expect(200);
    expect(headers['cache-control']).toContain('immutable');
    expect(headers['cross-origin-embedder-policy']).toBe('require-corp');
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['content-security-policy']).toBeUndefined();
  });

  it('guard workers, which have a policy of their own, like documents', async () => {
    const { headers } = await http.get('/worker-AB12CD34.js').expect(200);
    expect(headers['content-security-policy']).toContain("default-src 'self'");
  });

  it('give out nothing from beside their folder, and never stand in for the API', async () => {
    for (const path of ['/../secret.txt', '/%2e%2e/secret.txt', '/..%2fsecret.txt']) {
      const { text } = await http.get(path);
      expect(text).not.toContain('not for anybody');
    }
    await http.get('/api/none').expect(404).expect('Content-Type', /json/);
  });
});
