import { AxeBuilder } from '@axe-core/playwright';
import { expect, test } from '../stage/test.js';

const LEVELS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

test('every view, the drawer and the picker keep to WCAG 2.2 AA', async ({
  desk,
  page,
  server,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'B Felt piano' }).click();
  const found: string[] = [];
  const check = async (where: string) => {
    const { violations } = await new AxeBuilder({ page }).withTags(LEVELS).analyze();
    for (const { id, nodes } of violations)
      found.push(`${where}: ${id} at ${nodes.map((node) => node.target.join(' ')).join(', ')}`);
  };
  await check('Patch');
  for (const tab of ['Touch', 'Sound', 'Balance and effects', 'Treatments', 'Controls']) {
    const drawer = await desk.open('Felt piano', tab);
    if (tab === 'Treatments') await drawer.getByRole('button', { name: 'Add arpeggio' }).click();
    if (tab === 'Touch') await expect(drawer.getByRole('slider')).toHaveCount(3);
    await check(tab);
    await drawer.getByRole('button', { name: /^Close/ }).click();
  }
  await page.keyboard.press('w');
  await expect(page.getByRole('dialog').getByRole('searchbox')).toBeFocused();
  await check('Picker');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Sounds' }).click();
  await page.locator('li[data-item="Warm pad"] button.row').click();
  await check('Sounds');
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(page.getByTestId('cue')).toBeVisible();
  await check('Showtime');
  await page.goto(`${server.origin}/stand-ins`);
  await expect(page.getByRole('heading', { name: 'Pedals' })).toBeVisible();
  await check('Stand-ins');
  expect(found).toEqual([]);
});
