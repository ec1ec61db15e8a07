import type { Browser, Page } from '@playwright/test';
import type { Accompanist, Pattern, Patch } from '@pentachord/core/model';
import { tracedDrag, WORK } from './frames.js';
import { recorded, HALF, strike } from './onsets.js';
import { openSong, visitor } from './serving.js';
import { quantile, type Result } from './table.js';

/** Strokes that are recorded, and how many of them come in a second: sixteenths at the tempo of the song. */
const STROKES = 110;
const STROKES_A_SECOND = (87 * 4) / 60;
const NOTES_OF_CHART = 2000;
const HAT = 42;
/** The first key of the drums of Low Water Mark. */
const DRUMS_BEGIN = 36;

/** How exactly a band plays while the main thread is busy, and what it takes to drag in a long pattern. */
export async function measureBandInPage(browser: Browser, origin: string): Promise<Result[]> {
  const page = await visitor(browser);
  await prepare(page, origin);
  await page.goto(`${origin}/patch`);
  await openSong(page, 'Low Water Mark');
  await page.setViewportSize({ width: 320, height: 200 });
  const onsets = await recorded(
    page,
    'pattern',
    HALF,
    STROKES_A_SECOND,
    STROKES * 0.8,
    async () => {
      await strike(page, [0x91, DRUMS_BEGIN, 100]);
      await strike(page, [0x81, DRUMS_BEGIN, 0]);
      await page.waitForTimeout((STROKES / STROKES_A_SECOND) * 1000);
      await strike(page, [0x91, DRUMS_BEGIN, 100]);
      await strike(page, [0x81, DRUMS_BEGIN, 0]);
    },
  );
  await page.context().close();
  return [...onsets, ...(await draggedChart(browser, origin))];
}

/** Puts a pattern of even strokes on the first key of the drums, and a long one on the shelf. */
async function prepare(page: Page, origin: string): Promise<void> {
  const even: Pattern = {
    ...{ id: 'bench-even', name: 'even strokes', category: 'drums', tags: [], favourite: false },
    ...{ length: 4, metre: { beats: 4, unit: 4 }, tempo: 87, key: null, quantise: null },
    notes: Array.from({ length: 16 }, (_, i) => ({
      ...{ beat: i / 4, length: 0.2, key: HAT, velocity: 90 },
    })),
  };
  const long: Pattern = {
    ...{ ...even, id: 'bench-long', name: 'two thousand', category: 'basses', length: 250 },
    notes: Array.from({ length: NOTES_OF_CHART }, (_, i) => ({
      ...{ beat: i / 8, length: 0.1, key: 40 + ((i * 7) % 24), velocity: 40 + (i % 80) },
    })),
  };
  for (const pattern of [even, long])
    await put(page, `${origin}/api/patterns/${pattern.id}`, 0, pattern);
  const at = `${origin}/api/patches/demo-low-water-mark-ebb`;
  const { revision, value } = (await (await page.request.get(at)).json()) as {
    revision: number;
    value: Patch;
  };
  const accompanists = value.accompanists.map((one): Accompanist => ({
    ...one,
    patterns: one.patterns.map((placed) =>
      placed.key === DRUMS_BEGIN ? { ...placed, patternId: even.id } : placed,
    ),
  }));
  await put(page, at, revision, { ...value, accompanists });
}

async function put(page: Page, at: string, revision: number, value: unknown): Promise<void> {
  const answer = await page.request.put(at, { data: { revision, value } });
  if (!answer.ok()) throw new Error(`${at} was not taken: ${await answer.text()}`);
}

async function draggedChart(browser: Browser, origin: string): Promise<Result[]> {
  const page = await visitor(browser);
  await page.goto(`${origin}/library/patterns`);
  await page.getByRole('searchbox').fill('two thousand');
  await page.getByText('two thousand', { exact: true }).click();
  const chart = page.locator('pc-note-chart svg[role=group]');
  await chart
    .locator('path')
    .nth(NOTES_OF_CHART - 1)
    .waitFor();
  // All of them at once.
  await chart.press('Control+a');
  const note = await page.locator('pc-note-chart .chosen path').nth(900).boundingBox();
  if (!note) throw new Error('there is no note to drag');
  const [x, y] = [note.x + note.width * 0.45, note.y + note.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const { work } = await tracedDrag(browser, page, {
    ...{ x, y, frames: 300, on: 'pc-note-chart svg[role=group]', event: 'pointermove' },
    ...{ wide: 200, high: 40 },
  });
  await page.mouse.up();
  await page.context().close();
  return [
    {
      what: `dragging in a chart of ${NOTES_OF_CHART} notes, all chosen: work for a frame, 95 of 100 within`,
      value: quantile(work, 0.95),
      goal: WORK,
      unit: 'ms',
    },
  ];
}
