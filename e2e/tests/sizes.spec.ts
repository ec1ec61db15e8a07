import type { Page } from '@playwright/test';
import { expect, test } from '../stage/test.js';

const SIZES = [
  { width: 1024, height: 768 },
  { width: 1280, height: 800 },
  { width: 1920, height: 1080 },
  { width: 2560, height: 1440 },
];

/** Waits until the page is drawn as it stays: two frames with the same boxes. */
async function settled(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const boxes = () =>
      [...document.querySelectorAll('pc-field .label, pc-field .tag, pc-field, pc-keyboard')]
        .map((element) => JSON.stringify(element.getBoundingClientRect()))
        .join();
    const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
    for (let before = ''; before !== boxes(); await frame(), await frame()) before = boxes();
  });
}

/** What is wrong with where things lie on the page: words outside their field or over one another, cut or beside the screen. */
function misplaced(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const wrong: string[] = [];
    const all = (selector: string) => [...document.querySelectorAll<HTMLElement>(selector)];
    const name = (element: HTMLElement) => element.textContent?.trim() ?? '';
    const field = document.querySelector('pc-field')?.getBoundingClientRect();
    const words = all(
      'pc-field .label, pc-field .tag, pc-field .letters, pc-patch-heading button, pc-patch-heading input',
    );
    const boxes = words.map((element) => element.getBoundingClientRect());
    boxes.forEach((box, i) => {
      if (
        field &&
        words[i].closest('pc-field') &&
        (box.left < field.left - 1 ||
          box.right > field.right + 1 ||
          box.top < field.top - 1 ||
          box.bottom > field.bottom + 1)
      )
        wrong.push(`${name(words[i])} leaves the field`);
      boxes.slice(i + 1).forEach((other, j) => {
        const over =
          box.left < other.right - 0.5 &&
          other.left < box.right - 0.5 &&
          box.top < other.bottom - 0.5 &&
          other.top < box.bottom - 0.5;
        if (over) wrong.push(`${name(words[i])} lies over ${name(words[i + 1 + j])}`);
      });
    });
    const { scrollWidth, clientWidth } = document.documentElement;
    if (scrollWidth > clientWidth) wrong.push('the page scrolls sideways');
    for (const scrolled of all('pc-ledger, main'))
      if (scrolled.scrollWidth > scrolled.clientWidth + 1)
        wrong.push(`${scrolled.tagName} scrolls sideways`);
    for (const heading of all('th .mat-sort-header-content'))
      if (heading.scrollWidth > heading.clientWidth + 1) wrong.push(`${name(heading)} is squeezed`);
    for (const words of all('pc-remarks-line li > button'))
      if (
        (words.querySelector('.mdc-button__label')?.getBoundingClientRect().right ?? 0) >
        words.getBoundingClientRect().right
      )
        wrong.push(`${name(words)} is cut`);
    for (const cut of all('.bar a, .bar button, pc-patch-heading button')) {
      const box = cut.getBoundingClientRect();
      if (box.width > 0 && box.right > innerWidth + 1) wrong.push(`${name(cut)} is cut off`);
    }
    return wrong;
  });
}

for (const size of SIZES)
  test(`at ${size.width} × ${size.height} no word leaves its place, in any patch`, async ({
    desk,
    page,
  }) => {
    await page.setViewportSize(size);
    const songs = page.locator('pc-ribbon ol button');
    await expect(songs).toHaveCount(7);
    for (const song of await songs.allInnerTexts()) {
      await page.getByRole('button', { name: song, exact: true }).click();
      await expect(page.locator('pc-field .label').first()).toBeVisible();
      await settled(page);
      expect({ song, wrong: await misplaced(page) }).toEqual({ song, wrong: [] });
    }
    // A layer that answers the strongest strokes alone has hardly any ground for its name.
    await desk.type('Lowest velocity of Felt piano', '127');
    await settled(page);
    await expect(page.getByRole('button', { name: /^. Felt piano$/ })).toBeVisible();
    expect(await misplaced(page)).toEqual([]);
    await page.getByRole('button', { name: 'Open Felt piano', exact: true }).click();
    const drawer = page.locator('pc-layer-drawer');
    await expect(drawer).toBeVisible();
    for (const tab of ['Touch', 'Sound', 'Balance', 'Treatments', 'Controls']) {
      await drawer.getByRole('tab', { name: tab }).click();
      const box = await drawer.boundingBox();
      expect(box && box.x >= 0 && box.x + box.width <= size.width).toBe(true);
      expect(box && box.y + box.height <= size.height).toBe(true);
      const scrolled = await page.evaluate(() => document.scrollingElement?.scrollTop);
      expect(scrolled).toBe(0);
      const cut = await drawer.evaluate((element) => {
        const body = element.querySelector<HTMLElement>('.mat-mdc-tab-body-active .body');
        return body ? body.scrollWidth - body.clientWidth : 0;
      });
      expect({ tab, cut: Math.max(0, cut) }).toEqual({ tab, cut: 0 });
    }
  });

test('a remark and its mend stand in whole words where it is narrow too', async ({
  desk,
  page,
}) => {
  await page.setViewportSize(SIZES[0]);
  await desk.openSong('Copper Weather');
  const remarks = page.getByRole('list', { name: 'Remarks' });
  await expect(
    remarks.getByRole('button', { name: '2 silent keys: G3–A♭3', exact: true }),
  ).toBeVisible();
  const field = page.locator('pc-field');
  const before = await field.boundingBox();
  await remarks.getByRole('button', { name: /^close the gap/ }).click();
  await expect(remarks).toHaveCount(0);
  // Its room goes to the field.
  expect((await field.boundingBox())?.height).toBeGreaterThan(before?.height ?? 0);
});

test('nothing jumps when costs arrive', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  await page.evaluate(() => localStorage.removeItem('pentachord machine'));
  await page.reload();
  const field = page.locator('pc-field');
  await expect(field).toBeVisible();
  await settled(page);
  const before = await field.boundingBox();
  await expect(desk.row('Felt piano').locator('small')).toContainText('%');
  await settled(page);
  expect(await field.boundingBox()).toEqual(before);
});

test('in Showtime All notes off has one place, the keys are seen, and a bar that is cut says all its words', async ({
  page,
  server,
}) => {
  for (const size of [
    { width: 800, height: 1280 },
    { width: 1024, height: 768 },
    { width: 1280, height: 800 },
  ]) {
    await page.setViewportSize(size);
    await page.goto(`${server.origin}/showtime`);
    const off = page.getByRole('button', { name: 'All notes off' });
    await expect(off).toBeVisible();
    const before = await off.boundingBox();
    expect(before && before.x + before.width <= size.width).toBe(true);
    const areSeen = () =>
      page.locator('.hands pc-keyboard').evaluateAll((keyboards) =>
        keyboards.map((keys) => {
          const { height, bottom } = keys.getBoundingClientRect();
          const below = document.querySelector('.hands')?.getBoundingClientRect().bottom ?? 0;
          return height >= 40 && bottom <= below + 1;
        }),
      );
    await expect.poll(areSeen).toEqual([true]);
    await page.evaluate(() => {
      const lamp = document.querySelector('.lamp');
      if (lamp) lamp.append(' and a good deal more is said of how the sound is doing here');
    });
    await page.keyboard.press('Shift');
    expect(await off.boundingBox()).toEqual(before);
    const cut = page.locator('.bar');
    for (let i = 0; i < (await cut.count()); i++) {
      const isCut = await cut.nth(i).evaluate((bar) => bar.scrollWidth > bar.clientWidth);
      if (!isCut) continue;
      await cut.nth(i).focus();
      const words = ((await cut.nth(i).textContent()) ?? '').trim().replace(/\s+/g, ' ');
      await expect(page.locator('mat-tooltip-component')).toHaveText(words);
    }
  }
});
