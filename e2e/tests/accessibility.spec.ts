import { AxeBuilder } from '@axe-core/playwright';
import { expect, test } from '../stage/test.js';

const LEVELS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

test('the Patch view, Showtime and the stand-ins keep to WCAG 2.2 AA', async ({
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
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(page.getByTestId('cue')).toBeVisible();
  await check('Showtime');
  await page.goto(`${server.origin}/stand-ins`);
  await expect(page.getByRole('heading', { name: 'Pedals' })).toBeVisible();
  await check('Stand-ins');
  expect(found).toEqual([]);
});
