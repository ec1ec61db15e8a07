import type { Page } from '@playwright/test';
import { expect, test } from '../stage/test.js';

const VIEWS = [
  ...['shows', 'running-order', 'song', 'patch', 'library/sounds', 'rig', 'rig/channels'],
  ...['rig/ties', 'rig/controls', 'rig/monitor'],
  ...['logbook', 'preferences', 'backups', 'showtime', 'stand-ins'],
];
/** More stops than any view has. */
const MOST_STOPS = 400;

type Walk = 'on' | 'stuck' | 'round';

/** Presses a key that moves the focus until it has come round, or stands still; gives back how, and after how many stops. */
async function walked(page: Page, key: string): Promise<{ how: Walk; stops: number; at: string }> {
  await page.evaluate(() => {
    (document.activeElement as HTMLElement | null)?.blur();
    Object.assign(globalThis, { walked: [] });
  });
  for (let stops = 0; stops < MOST_STOPS; stops++) {
    await page.keyboard.press(key);
    const { how, at } = await page.evaluate((): { how: Walk; at: string } => {
      const { walked } = globalThis as unknown as { walked: Element[] };
      const now = document.activeElement ?? document.body;
      const at = now.outerHTML.slice(0, 120);
      if (walked.at(-1) === now) return { how: 'stuck', at };
      if (walked.length > 0 && (now === document.body || walked.includes(now)))
        return { how: now === document.body || now === walked[0] ? 'round' : 'stuck', at };
      walked.push(now);
      return { how: 'on', at };
    });
    if (how !== 'on') return { how, stops, at };
  }
  return { how: 'on', stops: MOST_STOPS, at: '' };
}

for (const view of VIEWS)
  test(`Tab goes through all of ${view}, there and back`, async ({ page, server }) => {
    await page.goto(`${server.origin}/${view}`);
    await expect(page.getByRole('button').first()).toBeVisible();
    await page.evaluate(() => document.fonts.ready);
    const there = await walked(page, 'Tab');
    expect(there, there.at).toMatchObject({ how: 'round' });
    const back = await walked(page, 'Shift+Tab');
    expect(back, back.at).toMatchObject({ how: 'round' });
    expect(Math.abs(there.stops - back.stops)).toBeLessThanOrEqual(there.stops * 0.25);
  });
