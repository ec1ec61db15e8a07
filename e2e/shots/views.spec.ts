import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { test } from '../stage/test.js';

const FOLDER = join(dirname(fileURLToPath(import.meta.url)), '../../docs/screenshots');
const file = (name: string) => ({ path: join(FOLDER, `${name}.png`) });

test('pictures of the main views', async ({ desk, rig, page, server }) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'second verse' }).click();
  await page.getByRole('button', { name: 'B Felt piano' }).click();
  for (const [key, velocity] of [
    [40, 84],
    [64, 78],
    [67, 80],
    [76, 92],
  ])
    await rig.press(key, velocity);
  await page.waitForTimeout(350);
  await page.screenshot(file('patch'));
  await page.getByRole('link', { name: 'Showtime' }).click();
  await page.waitForTimeout(1200);
  await page.screenshot(file('showtime'));
  await page.goto(`${server.origin}/stand-ins`);
  await page.waitForTimeout(800);
  await page.screenshot(file('stand-ins'));
});
