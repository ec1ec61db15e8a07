import type { Page } from '@playwright/test';
import { saveHostileShow } from '../stage/hostile-show.js';
import { expect, test } from '../stage/test.js';

test.use({ begins: 'empty' });
test.setTimeout(240_000);

const SIZES = [
  { width: 1024, height: 768 },
  { width: 1280, height: 800 },
  { width: 1440, height: 900 },
  { width: 1920, height: 1080 },
  { width: 2560, height: 1440 },
];
const VIEWS = [
  ...['shows', 'running-order', 'song', 'patch', 'library', 'rig', 'rig/channels', 'rig/ties'],
  ...['rig/controls', 'rig/monitor', 'logbook', 'backups', 'preferences'],
];

/** What is wrong with where controls lie: outside of the window, cut by what holds them, or under something else. */
function misplaced(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const wrong: string[] = [];
    const { scrollWidth, clientWidth } = document.documentElement;
    if (scrollWidth > clientWidth) wrong.push('the page scrolls sideways');
    const main = document.querySelector('main');
    if (main && main.scrollWidth > main.clientWidth + 1) wrong.push('the view scrolls sideways');
    const isScrolled = (style: CSSStyleDeclaration) =>
      /auto|scroll/.test(style.overflowX + style.overflowY);
    for (const control of document.querySelectorAll<HTMLElement>(
      'button, a[href], mat-select, input',
    )) {
      const box = control.getBoundingClientRect();
      const style = getComputedStyle(control);
      if (box.width === 0 || box.height === 0 || style.visibility === 'hidden') continue;
      if (style.opacity === '0' || control.closest('[inert], .unseen, .skip, mat-slider')) continue;
      const name =
        `${control.getAttribute('aria-label') ?? control.textContent?.trim() ?? ''}`.slice(0, 40);
      // What is scrolled can be reached: it is looked at where it is in view.
      let clipped = false;
      let scrolled = false;
      for (let around = control.parentElement; around; around = around.parentElement) {
        const outer = around.getBoundingClientRect();
        const own = getComputedStyle(around);
        if (own.overflowX === 'visible' && own.overflowY === 'visible') continue;
        if (isScrolled(own)) scrolled = true;
        const middle = { x: box.left + box.width / 2, y: box.top + box.height / 2 };
        const isOut =
          middle.x < outer.left ||
          middle.x > outer.right ||
          middle.y < outer.top ||
          middle.y > outer.bottom;
        if (isOut && !isScrolled(own)) wrong.push(`${name} is cut off`);
        if (isOut) {
          clipped = true;
          break;
        }
      }
      if (clipped) continue;
      const leaves = box.right > innerWidth + 1 || box.left < -1;
      if (leaves && scrolled) continue;
      if (leaves) wrong.push(`${name} leaves the window`);
      const at = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
      if (
        at &&
        !control.contains(at) &&
        !at.contains(control) &&
        !at.closest('label')?.contains(control)
      ) {
        const over = at.closest('button, a[href], input, mat-select');
        if (over && over !== control && !over.contains(control))
          wrong.push(
            `${name} lies under ${over.getAttribute('aria-label') ?? over.textContent?.trim().slice(0, 30) ?? ''}`,
          );
      }
    }
    return [...new Set(wrong)];
  });
}

test('a hostile show stays within every view at every size', async ({ page, server }) => {
  await saveHostileShow(server.origin);
  const found: Record<string, string[]> = {};
  for (const size of SIZES) {
    await page.setViewportSize(size);
    for (const view of VIEWS) {
      await page.goto(`${server.origin}/${view}`);
      await expect(page.locator('main > *').nth(1)).toBeVisible();
      await expect(page.locator('pc-ribbon li')).toHaveCount(60);
      await page.evaluate(() => document.fonts.ready);
      const wrong = await misplaced(page);
      if (wrong.length > 0) found[`${view} at ${size.width}`] = wrong;
    }
  }
  expect(found).toEqual({});
});

test('the present cue of many is in view, and in Showtime what is needed in a panic is whole', async ({
  page,
  server,
}) => {
  await saveHostileShow(server.origin);
  await page.goto(`${server.origin}/patch`);
  const cues = page.locator('pc-ribbon .cues');
  await expect(cues.getByRole('button')).toHaveCount(30);
  await cues.getByRole('button').first().focus();
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  const last = cues.locator('[aria-current]');
  const inView = () =>
    last.evaluate((cue) => {
      const row = cue.parentElement?.getBoundingClientRect();
      const box = cue.getBoundingClientRect();
      return !!row && box.left >= row.left - 1 && box.right <= row.right + 1;
    });
  await expect.poll(inView).toBe(true);
  for (const size of [
    { width: 800, height: 1280 },
    { width: 1280, height: 800 },
  ]) {
    await page.setViewportSize(size);
    await page.goto(`${server.origin}/showtime`);
    await expect(page.getByTestId('cue')).toBeVisible();
    for (const lifted of [false, true]) {
      if (lifted) await page.getByRole('button', { name: 'Lift the lock' }).click();
      for (const name of [/^Next/, /Back/, /^All notes off$/]) {
        const seen = await page
          .getByRole('button', { name })
          .first()
          .evaluate((button) => {
            const { left, top, right, bottom } = button.getBoundingClientRect();
            const spots = [
              [left + 6, top + 6],
              [right - 6, bottom - 6],
              [(left + right) / 2, (top + bottom) / 2],
            ];
            return (
              left >= 0 &&
              top >= 0 &&
              right <= innerWidth &&
              bottom <= innerHeight &&
              spots.every(([x, y]) => button.contains(document.elementFromPoint(x, y)))
            );
          });
        expect({ name: String(name), size, lifted, seen }).toMatchObject({ seen: true });
      }
      expect({ size, lifted, wrong: await misplaced(page) }).toMatchObject({ wrong: [] });
    }
  }
});
