import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium, type Page } from '@playwright/test';
import type { Result } from './table.js';

const CHROMIUM = '/usr/bin/chromium';
const MAIN = join(dirname(fileURLToPath(import.meta.url)), '../../server/dist/main.js');

/** The browser's share, measured in the running application. Left out, with a word, where there is no browser. */
export async function measureBrowser(): Promise<Result[]> {
  if (!existsSync(CHROMIUM)) {
    console.log(`no ${CHROMIUM}: what needs a browser is left out`);
    return [];
  }
  const data = await mkdtemp(join(tmpdir(), 'pentachord-bench-'));
  const server = spawn(process.execPath, [MAIN], {
    env: { ...process.env, PENTACHORD_PORT: '0', PENTACHORD_DATA: data },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const origin = await new Promise<string>((resolve) =>
    server.stdout.on('data', (text: Buffer) => {
      const address = /http:\/\/127\.0\.0\.1:\d+/.exec(text.toString());
      if (address) resolve(address[0]);
    }),
  );
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: [
      '--no-sandbox',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--disable-quic',
      '--no-first-run',
      '--autoplay-policy=no-user-gesture-required',
    ],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    return [await firstLoad(page, origin)];
  } finally {
    await browser.close();
    server.kill();
    await rm(data, { recursive: true, force: true });
  }
}

/** Compressed script that the Patch view brings on its first load. */
async function firstLoad(page: Page, origin: string): Promise<Result> {
  const client = await page.context().newCDPSession(page);
  await client.send('Network.enable');
  const scripts = new Set<string>();
  let bytes = 0;
  client.on('Network.responseReceived', ({ requestId, type }) => {
    if (type === 'Script') scripts.add(requestId);
  });
  client.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (scripts.has(requestId)) bytes += encodedDataLength;
  });
  await page.goto(`${origin}/patch`);
  await page.locator('pc-ledger tbody tr').first().waitFor();
  return {
    what: 'compressed script of the Patch view',
    value: bytes / 1000,
    goal: 300,
    unit: 'kB',
  };
}
