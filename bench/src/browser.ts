import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Browser, type Page } from '@playwright/test';
import { tracedDrag, WORK } from './frames.js';
import { measureBounce } from './logbook.js';
import { measureMonitor } from './monitor.js';
import { measureBandInPage } from './band-in-page.js';
import { measureClicks, measureOnsets } from './onsets.js';
import { comparePlayers } from './players.js';
import { measureRecordingsInPage } from './recordings-in-page.js';
import { openSong, serve, soundsReady, visitor } from './serving.js';
import { measureShowtime } from './showtime.js';
import { print, quantile, type Result } from './table.js';
import { measureWriting } from './writing.js';

const CHROMIUM = '/usr/bin/chromium';

/** Milliseconds of a frame at 60 Hz. */
const FRAME = 16.7;

/** The browser's share, measured in the running application. Left out, with a word, where there is no browser. */
export async function measureBrowser(): Promise<Result[]> {
  if (!existsSync(CHROMIUM)) {
    console.log(`no ${CHROMIUM}: what needs a browser is left out`);
    return [];
  }
  const data = await mkdtemp(join(tmpdir(), 'pentachord-bench-'));
  const { server, origin } = await serve(data);
  const browser = await launched();
  const results: Result[] = [];
  try {
    for (const measure of [firstLoad, firstSounds]) {
      const page = await visitor(browser);
      results.push(...(await measure(page, origin)));
      await page.context().close();
    }
    results.push(await servedCompressed(browser, origin));
    const page = await visitor(browser);
    await page.goto(`${origin}/patch`);
    results.push(await comparePlayers(page));
    results.push(...(await dragging(browser, page)));
    results.push(...(await voices(page)));
    await openSong(page, 'Low Water Mark');
    results.push(...(await measureOnsets(page)));
    await page.context().close();
    const stage = await visitor(browser);
    await stage.goto(`${origin}/showtime`);
    await stage.getByTestId('cue').waitFor();
    await stage.keyboard.press('Shift');
    await stage
      .locator('pc-getting-ready section')
      .waitFor({ state: 'detached', timeout: 120_000 });
    results.push(...(await measureClicks(stage)));
    await stage.context().close();
    results.push(...(await measureMonitor(browser, origin)));
    results.push(...(await measureWriting(browser)));
    results.push(...(await measureShowtime(browser)));
    results.push(...(await measureBandInPage(browser, origin)));
    results.push(...(await measureBounce(browser, origin)));
    const shelf = await visitor(browser);
    results.push(...(await measureRecordingsInPage(browser, shelf, origin)));
    return results;
  } catch (error) {
    // What was measured so far is told all the same.
    print(results);
    throw error;
  } finally {
    await browser.close();
    server.kill();
    await rm(data, { recursive: true, force: true });
  }
}

async function launched(): Promise<Browser> {
  return chromium.launch({
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
}

/** The first page with its files as they were compressed by the build, against the same sent plainly. */
async function servedCompressed(browser: Browser, origin: string): Promise<Result> {
  const load = async (encoding: 'br' | 'identity') => {
    const page = await visitor(browser, { 'Accept-Encoding': encoding });
    const script = page.waitForResponse((response) => /main-[\w-]+\.js$/.test(response.url()));
    const begun = performance.now();
    await page.goto(`${origin}/patch`);
    await page.locator('pc-ledger tbody tr').first().waitFor();
    const took = performance.now() - begun;
    const sent = (await script).headers()['content-encoding'] ?? 'identity';
    if (sent !== encoding) throw new Error(`${sent} was sent, not ${encoding}`);
    await page.context().close();
    return took;
  };
  const compressed: number[] = [];
  const plain: number[] = [];
  // By turns, each as often first as second.
  for (let run = 0; run < 6; run++) {
    compressed.push(await load('br'));
    plain.push(await load('identity'), await load('identity'));
    compressed.push(await load('br'));
  }
  const middle = (all: number[]) =>
    quantile(
      all.sort((a, b) => a - b),
      0.5,
    );
  return {
    what: 'first page with compressed files against plain ones, median of 12 each, ratio',
    value: middle(compressed) / middle(plain),
    goal: 1.1,
    unit: '',
  };
}

/** Compressed script that the Patch view brings on its first load. */
async function firstLoad(page: Page, origin: string): Promise<Result[]> {
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
  const what = 'compressed script of the Patch view';
  return [{ what, value: bytes / 1000, goal: 380, unit: 'kB' }];
}

/** From the first page to the first sound and to every sound of the show, in a browser that has none yet. */
async function firstSounds(page: Page, origin: string): Promise<Result[]> {
  const begun = Date.now();
  await page.goto(`${origin}/patch`);
  await page.locator('pc-ledger tbody tr').first().waitFor();
  await page.keyboard.press('Shift');
  await soundsReady(page);
  const first = (Date.now() - begun) / 1000;
  await page.getByText(/^making/).waitFor({ state: 'detached', timeout: 120_000 });
  const all = (Date.now() - begun) / 1000;
  return [
    { what: 'first page to first sound, nothing kept yet', value: first, goal: 3, unit: 's' },
    { what: 'first page to every sound of the show', value: all, goal: 8, unit: 's' },
  ];
}

/** How long the page works for a frame while an edge is dragged across a patch of sixteen layers. */
async function dragging(browser: Browser, page: Page): Promise<Result[]> {
  await openSong(page, 'Lantern Song');
  for (let count = 2; count < 16; count++) {
    await page.getByRole('button', { name: 'More for Felt piano', exact: true }).click();
    await page.getByRole('menuitem', { name: /^Duplicate/ }).click();
  }
  // Every layer has edges, fades and strengths of its own, so that all of them are computed and drawn.
  const lows = page.getByRole('spinbutton', { name: /^Lowest key of Felt piano/ });
  const strengths = page.getByRole('spinbutton', { name: /^Lowest velocity of Felt piano/ });
  for (let i = 0; i < (await lows.count()); i++) {
    await lows.nth(i).fill(String(30 + i * 3));
    await lows.nth(i).press('Enter');
    await strengths.nth(i).fill(String(1 + i * 6));
    await strengths.nth(i).press('Enter');
  }
  await page.getByRole('tab', { name: 'Plumb line' }).click();
  await page.locator('pc-ledger pc-layer-badge').first().click();
  const edge = await page.locator('[data-handle="keys high"] .hit').boundingBox();
  if (!edge) throw new Error('there is no edge to drag');
  const [x, y] = [edge.x + edge.width / 2, edge.y + edge.height * 0.2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const { work, painted, every } = await tracedDrag(browser, page, {
    ...{ x, y, frames: 400, on: '[data-handle="keys high"]', event: 'pointermove' },
    ...{ wide: 700, high: 0 },
  });
  await page.mouse.up();
  return [
    {
      what: 'dragging an edge, 16 layers: work of the main thread for a frame, 95 of 100 within',
      value: quantile(work, 0.95),
      goal: WORK,
      unit: 'ms',
    },
    {
      what: 'dragging an edge, 16 layers: from the hand to painted, 95 of 100 within',
      value: quantile(painted, 0.95),
      goal: FRAME,
      unit: 'ms',
    },
    {
      what: 'dragging an edge, 16 layers: frame after frame, median',
      value: quantile(every, 0.5),
      goal: FRAME * 1.02,
      unit: 'ms',
    },
  ];
}

/** Sixty-four voices and more for thirty seconds: how far the audio clock falls behind, in milliseconds. */
async function voices(page: Page): Promise<Result[]> {
  await openSong(page, 'Saltglass');
  const bytes = (list: number[]) =>
    page.evaluate((data) => {
      const cable = new BroadcastChannel('pentachord cable');
      cable.postMessage({ direction: 'in', port: 'stand-in upper keys', bytes: data });
      cable.close();
    }, list);
  // Thirty-two keys of the pad and thirty-two of piano and strings, all held.
  for (let key = 28; key < 92; key++) await bytes([0x90, key, 90]);
  await page.waitForTimeout(1500);
  const found = await page.evaluate(async (seconds) => {
    const clock = (globalThis as unknown as { audioClock: AudioContext }).audioClock;
    const shown = document.querySelector('[data-testid="voices"]');
    const late = () => performance.now() - clock.currentTime * 1000;
    const begun = late();
    let worst = 0;
    let fewest = Infinity;
    const end = performance.now() + seconds * 1000;
    while (performance.now() < end) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      worst = Math.max(worst, late() - begun);
      fewest = Math.min(fewest, parseInt(shown?.textContent ?? '0', 10));
    }
    return { gap: Math.max(0, late() - begun), worst, fewest };
  }, 30);
  for (let key = 28; key < 92; key++) await bytes([0x80, key, 0]);
  if (found.fewest < 64) throw new Error(`only ${found.fewest} voices sounded`);
  return [
    {
      what: `${found.fewest} voices in the browser for 30 s: audio clock behind at the end`,
      value: found.gap,
      goal: 20,
      unit: 'ms',
    },
  ];
}
