import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { writeWav } from '@pentachord/core/exchange';
import { PLAIN_ZONE, type SampledSound } from '@pentachord/core/model';
import { seededRandom } from '@pentachord/core/synthesis';
import { tracedDrag, WORK, workOfLongestTask } from './frames.js';
import { note } from './notes.js';
import { quantile, type Result } from './table.js';

const RATE = 44_100;
const ZONES = 400;
/** Milliseconds until everything that a page does at its beginning is done. */
const SETTLED = 15_000;

/** Bringing recordings in and laying them out in the running application, and dragging a large zone chart. */
export async function measureRecordingsInPage(
  browser: Browser,
  page: Page,
  origin: string,
): Promise<Result[]> {
  return [...(await bringingIn(browser, page, origin)), ...(await chart(browser, page, origin))];
}

/** Files on the disk: what is handed to a page as bytes is a long task by itself. */
function files(folder: string, count: number, seconds: number, sides: number) {
  const random = seededRandom(48);
  return Array.from({ length: count }, (_, i) => {
    const made = {
      ...{
        key: 36 + (Math.floor(i / 3) % 16) * 4,
        cents: 0,
        rate: RATE,
        seconds,
        partials: 8,
        tilt: 1 + (i % 3) * 0.4,
      },
      ...{ isMissing: false, stretch: 0, vibrato: 0, noise: -60, decay: 0.7, random },
    };
    const left = note(made);
    const channels = Array.from({ length: sides }, (_side, side) =>
      left.map((x) => x * (0.3 + 0.2 * (i % 3) - 0.05 * side)),
    );
    const file = join(folder, `note ${i} ${['soft', 'middle', 'hard'][i % 3]}.wav`);
    writeFileSync(file, writeWav({ channels, sampleRate: RATE, bits: 16 }));
    return file;
  });
}

/** Picks files in the browser’s own dialog. */
async function pick(page: Page, files: string[]): Promise<void> {
  const asked = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add files…' }).click();
  await (await asked).setFiles(files);
}

async function bringingIn(browser: Browser, page: Page, origin: string): Promise<Result[]> {
  const folder = mkdtempSync(join(tmpdir(), 'pentachord-files-'));
  const set = files(folder, 48, 4, 2);
  const many = files(folder, 500, 0.05, 1);
  await atRest(page, origin);
  let seconds = 0;
  const task = await workOfLongestTask(browser, page, async () => {
    const begun = Date.now();
    await pick(page, set);
    await page.getByText(/^48 taken/).waitFor({ timeout: 120_000 });
    await page.getByRole('button', { name: /^Make a sound of 48/ }).click();
    await page.locator('pc-zone-ledger [role="cell"]').first().waitFor();
    seconds = (Date.now() - begun) / 1000;
  });
  await atRest(page, origin);
  const taskOfMany = await workOfLongestTask(browser, page, async () => {
    await pick(page, many);
    await page.getByText(/^\d+ taken/).waitFor({ timeout: 240_000 });
    await page.getByRole('button', { name: 'Done' }).click();
  });
  rmSync(folder, { recursive: true });
  return [
    {
      what: '48 stereo recordings of 4 s: read, listened to, sent and laid out',
      value: seconds,
      goal: 10,
      unit: 's',
    },
    {
      what: 'work of the main thread in its longest task meanwhile',
      value: task,
      goal: 50,
      unit: 'ms',
    },
    {
      what: '500 files listed while they are brought in: work of the main thread in its longest task',
      value: taskOfMany,
      goal: 50,
      unit: 'ms',
    },
  ];
}

/** The recordings’ page, when what a page does at its beginning is done. */
async function atRest(page: Page, origin: string): Promise<void> {
  await page.goto(`${origin}/library/recordings`);
  await page.waitForTimeout(SETTLED);
}

/** How long the page works for a frame while a zone of four hundred is dragged. */
async function chart(browser: Browser, page: Page, origin: string): Promise<Result[]> {
  const [{ id: recordingId }] = (await (
    await page.request.get(`${origin}/api/recordings`)
  ).json()) as { id: string }[];
  const full = { fadeIn: 0, fadeOut: 0, law: 'equalPower' as const };
  const zones = Array.from({ length: ZONES }, (_, i) => {
    const [column, row] = [i % 40, Math.floor(i / 40)];
    return {
      ...PLAIN_ZONE,
      ...{ id: `z${i}`, recordingId, root: 28 + column * 2 },
      keys: { ...full, low: 28 + column * 2, high: 29 + column * 2 },
      velocities: { ...full, low: 1 + row * 12, high: 12 + row * 12 },
    };
  });
  const value: SampledSound = {
    ...{ id: 'bench-zones', name: 'Bench zones', category: 'pianos', tags: [], favourite: false },
    ...{ lowestNote: 28, highestNote: 107, origin: { kind: 'recordings', dynamics: 20, zones } },
  };
  const saved = await page.request.put(`${origin}/api/sounds/bench-zones`, {
    data: { revision: 0, value },
  });
  if (!saved.ok()) throw new Error(`the zones were not saved: ${await saved.text()}`);
  await page.goto(`${origin}/library/sounds/bench-zones/zones`);
  const zone = page.locator('pc-zone-chart .zone').nth(200);
  await zone.waitFor();
  const box = await zone.boundingBox();
  if (!box) throw new Error('there is no zone to drag');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const { work } = await tracedDrag(browser, page, {
    ...{ x, y, frames: 300, on: 'pc-zone-chart', event: 'pointermove' },
    ...{ wide: 300, high: 60 },
  });
  await page.mouse.up();
  return [
    {
      what: `dragging a zone, ${ZONES} zones: work of the main thread for a frame, 95 of 100 within`,
      ...{ value: quantile(work, 0.95), goal: WORK, unit: 'ms' },
    },
  ];
}
