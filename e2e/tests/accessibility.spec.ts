import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, test } from '../stage/test.js';

const LEVELS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** What a page does against WCAG 2.2 AA, each with where it was found. */
async function violationsOf(page: Page, where: string): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).withTags(LEVELS).analyze();
  return violations.map(
    ({ id, nodes }) => `${where}: ${id} at ${nodes.map((n) => n.target.join(' ')).join(', ')}`,
  );
}

test('Patch, Sounds, the picker, Showtime and the stand-ins keep to WCAG 2.2 AA', async ({
  desk,
  page,
  server,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'B Felt piano' }).click();
  const found = await violationsOf(page, 'Patch');
  await page.keyboard.press('w');
  await expect(page.getByRole('dialog').getByRole('searchbox')).toBeFocused();
  found.push(...(await violationsOf(page, 'Picker')));
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Sounds' }).click();
  await page.locator('li[data-item="Warm pad"] button.row').click();
  found.push(...(await violationsOf(page, 'Sounds')));
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(page.getByTestId('cue')).toBeVisible();
  found.push(...(await violationsOf(page, 'Showtime')));
  await page.goto(`${server.origin}/stand-ins`);
  await expect(page.getByRole('heading', { name: 'Pedals' })).toBeVisible();
  found.push(...(await violationsOf(page, 'Stand-ins')));
  expect(found).toEqual([]);
});

test('every part of the layer drawer keeps to WCAG 2.2 AA', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  const found: string[] = [];
  for (const tab of ['Touch', 'Sound', 'Balance and effects', 'Treatments', 'Controls']) {
    const drawer = await desk.open('Felt piano', tab);
    if (tab === 'Treatments') await drawer.getByRole('button', { name: 'Add arpeggio' }).click();
    if (tab === 'Touch') await expect(drawer.getByRole('slider')).toHaveCount(3);
    found.push(...(await violationsOf(page, tab)));
    await drawer.getByRole('button', { name: /^Close/ }).click();
  }
  expect(found).toEqual([]);
});
