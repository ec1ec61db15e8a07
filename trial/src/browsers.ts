import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launch, type Browser, type Page } from 'puppeteer-core';
import type { Finding } from './finding.js';
import { startServer } from './running-server.js';

const FIREFOX = '/usr/bin/firefox-esr';
const CHROMIUM = '/usr/bin/chromium';
/** Every view, with the words by which it is known to stand. */
const VIEWS = [
  ...['shows', 'running-order', 'song', 'patch', 'sounds', 'rig', 'monitor', 'ties'],
  ...['controls', 'preferences', 'backups', 'showtime', 'stand-ins'],
] as const;
/** Milliseconds for which a view, or a sound, is waited for. */
const PATIENCE = 40_000;

/** A browser as somebody may have set it up. */
interface Kind {
  name: string;
  program: string;
  start(): Promise<Browser>;
  /** Run in each page before its own script. */
  without?: string;
  /** False where sound cannot be had, and is to be told instead. */
  plays: boolean;
}

const firefox = (preferences: Record<string, number | boolean>) => async () =>
  launch({
    browser: 'firefox',
    executablePath: FIREFOX,
    headless: true,
    extraPrefsFirefox: { 'media.autoplay.default': 0, ...preferences },
  });
const chromium = async () =>
  launch({
    executablePath: CHROMIUM,
    headless: true,
    args: ['--no-sandbox', '--disable-background-networking'],
  });

const KINDS: Kind[] = [
  { name: 'Firefox', program: FIREFOX, start: firefox({}), plays: true },
  {
    name: 'Firefox, site data blocked',
    program: FIREFOX,
    start: firefox({ 'network.cookie.cookieBehavior': 2 }),
    plays: true,
  },
  {
    name: 'Chromium without BroadcastChannel',
    program: CHROMIUM,
    start: chromium,
    without: 'delete globalThis.BroadcastChannel',
    plays: true,
  },
  {
    name: 'Chromium without SharedArrayBuffer',
    program: CHROMIUM,
    start: chromium,
    without: 'delete globalThis.SharedArrayBuffer',
    plays: false,
  },
  {
    name: 'Chromium without site data',
    program: CHROMIUM,
    start: chromium,
    without: `for (const name of ['localStorage', 'sessionStorage', 'indexedDB', 'caches'])
      Object.defineProperty(globalThis, name, { get() { throw new DOMException('denied', 'SecurityError'); } })`,
    plays: true,
  },
];

/** Opens every view in each browser that is installed, plays in it, and plays again after a reload. */
export async function openEveryView(): Promise<Finding[]> {
  const data = await mkdtemp(join(tmpdir(), 'pentachord-browsers-'));
  const { child, origin } = await startServer(data);
  try {
    const findings: Finding[] = [];
    for (const kind of KINDS) {
      const wrong = existsSync(kind.program) ? await tried(kind, origin) : ['not installed here'];
      findings.push({
        what: `${kind.name}: ${VIEWS.length} views, playing, a reload`,
        found: wrong.join('; ') || 'all well',
        promised: 'all well, where it is installed',
        holds: wrong.length === 0 || wrong[0] === 'not installed here',
      });
    }
    return findings;
  } finally {
    child.kill();
    await rm(data, { recursive: true, force: true });
  }
}

async function tried(kind: Kind, origin: string): Promise<string[]> {
  const browser = await kind.start();
  const wrong: string[] = [];
  try {
    const page = await browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    page.on('pageerror', (error) => {
      const said = String(error);
      // Where nothing may be kept the program itself is not kept either: the server brings it.
      if (!said.includes('ServiceWorker')) wrong.push(`error: ${said}`);
    });
    if (kind.without) await page.evaluateOnNewDocument(kind.without);
    for (const view of VIEWS) {
      await page.goto(`${origin}/${view}`, { waitUntil: 'load', timeout: PATIENCE });
      if (!(await stands(page))) wrong.push(`${view} is blank`);
    }
    await page.goto(`${origin}/patch`, { waitUntil: 'load', timeout: PATIENCE });
    for (const time of ['at first', 'after a reload']) {
      if (time !== 'at first') await page.reload({ waitUntil: 'load', timeout: PATIENCE });
      const isAsMeant = kind.plays ? await plays(page) : await tellsWhy(page);
      if (!isAsMeant) wrong.push(kind.plays ? `silent ${time}` : `no reason is told ${time}`);
    }
  } catch (error) {
    wrong.push(error instanceof Error ? error.message : String(error));
  } finally {
    await browser.close();
  }
  return wrong;
}

/** True once a view shows something that can be used. */
async function stands(page: Page): Promise<boolean> {
  return (await appears(page, 'button, input')) !== '';
}

/** Types to play once the sounds are made; true when a voice sounds, or when the machine has no sound device and that is told. */
async function plays(page: Page): Promise<boolean> {
  await page.waitForSelector('button[aria-label="Type to play"]', { timeout: PATIENCE });
  await page.click('button[aria-label="Type to play"]');
  const first = await Promise.race([
    appears(page, '[data-testid="voices"][data-ready="true"]'),
    appears(page, 'pc-sound-state ::-p-text(There is no sound device)'),
  ]);
  if (first.includes('no sound device')) return true;
  await page.keyboard.down('a');
  const sounds = await page
    .waitForFunction(
      () => /^[1-9]/.test(document.querySelector('[data-testid="voices"]')?.textContent ?? ''),
      { timeout: PATIENCE },
    )
    .then(
      () => true,
      () => false,
    );
  await page.keyboard.up('a');
  return sounds;
}

/** True when the page says why sound cannot start. */
async function tellsWhy(page: Page): Promise<boolean> {
  await page.waitForSelector('button[aria-label="Type to play"]', { timeout: PATIENCE });
  await page.click('button[aria-label="Type to play"]');
  return (await appears(page, 'button::-p-text(Sound cannot start)')) !== '';
}

/** Waits until something is shown; gives back its selector, or nothing when it is not shown in time. */
async function appears(page: Page, selector: string): Promise<string> {
  return page.waitForSelector(selector, { timeout: PATIENCE }).then(
    () => selector,
    () => '',
  );
}
