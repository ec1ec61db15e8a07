import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { fillLibrary, fillRig } from '@pentachord/server/demo/fill';
import { openDatabase } from '@pentachord/server/store/database';
import { Store } from '@pentachord/server/store/store';
import { tracedDrag, WORK } from './frames.js';
import { fillLargeShow } from './server.js';
import { serve, visitor } from './serving.js';
import { quantile, type Result } from './table.js';

/** Milliseconds within which a view of a large show is there. */
const OPEN = 300;
const RUNS = 7;

/** Writing a show of 200 songs with six cues each: opening its views, dragging a place of the night and a cue. */
export async function measureWriting(browser: Browser): Promise<Result[]> {
  const data = await mkdtemp(join(tmpdir(), 'pentachord-bench-'));
  const knex = await openDatabase(join(data, 'pentachord.sqlite'));
  const store = new Store(knex);
  await fillLibrary(store);
  await fillRig(store);
  await fillLargeShow(store);
  await knex.destroy();
  const { server, origin } = await serve(data);
  try {
    const page = await visitor(browser);
    await page.goto(`${origin}/sounds`);
    await page.getByRole('link', { name: 'Patch', exact: true }).click();
    await page.locator('pc-ledger tbody tr').first().waitFor();
    const night = await opening(page, 'Running order', 'pc-order-log tbody tr', 20);
    const song = await opening(page, 'Song', 'pc-cue-line .mark', 6);
    await page.getByRole('link', { name: 'Running order' }).click();
    await page.locator('pc-order-log tbody tr').nth(199).waitFor();
    const entry = await dragged(browser, page, 'pc-order-log tbody tr:nth-child(9) .grip', {
      wide: 0,
      high: 200,
    });
    await page.getByRole('link', { name: 'Song', exact: true }).click();
    const cue = await dragged(browser, page, 'pc-cue-line .mark:nth-of-type(4) .lamp', {
      wide: 300,
      high: 0,
    });
    await page.context().close();
    return [
      {
        what: 'a night of 200 songs × 6 cues: running order on screen, median',
        value: night,
        goal: OPEN,
        unit: 'ms',
      },
      { what: 'a song of that night there, median', value: song, goal: OPEN, unit: 'ms' },
      {
        what: 'dragging a place of that night: work of the main thread for a frame, 95 of 100 within',
        value: entry,
        goal: WORK,
        unit: 'ms',
      },
      {
        what: 'dragging a cue: work of the main thread for a frame, 95 of 100 within',
        value: cue,
        goal: WORK,
        unit: 'ms',
      },
    ];
  } finally {
    server.kill();
    await rm(data, { recursive: true, force: true });
  }
}

/** From the click on a section to its view being painted whole, median; the first time its script is fetched, and not counted. */
async function opening(page: Page, name: string, rows: string, count: number): Promise<number> {
  const took: number[] = [];
  for (let run = 0; run <= RUNS; run++) {
    await page.getByRole('link', { name: 'Library' }).click();
    await page.locator('pc-sounds-view').waitFor();
    const ms = await page.evaluate(
      async ([section, selector, many]) => {
        const link = Array.from(document.querySelectorAll<HTMLElement>('nav a')).find(
          (one) => one.textContent.trim() === section,
        );
        const begun = performance.now();
        link?.click();
        while (document.querySelectorAll(selector).length < many)
          await new Promise((then) => setTimeout(then));
        await new Promise((then) => requestAnimationFrame(then));
        const channel = new MessageChannel();
        await new Promise<void>((then) => {
          channel.port1.onmessage = () => then();
          channel.port2.postMessage(null);
        });
        return performance.now() - begun;
      },
      [name, rows, count] as const,
    );
    if (run > 0) took.push(ms);
  }
  return quantile(
    took.sort((a, b) => a - b),
    0.5,
  );
}

/** Work of the main thread for a frame while something is carried, 95 of 100 within. */
async function dragged(
  browser: Browser,
  page: Page,
  what: string,
  way: { wide: number; high: number },
): Promise<number> {
  const box = await page.locator(what).boundingBox();
  if (!box) throw new Error(`${what} is not there`);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 8, y - 8, { steps: 4 });
  const { work } = await tracedDrag(browser, page, {
    ...{ x, y, frames: 300, on: null, event: 'mousemove' },
    ...way,
  });
  await page.mouse.up();
  return quantile(work, 0.95);
}
