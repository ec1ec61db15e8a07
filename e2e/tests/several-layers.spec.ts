import { expect, test } from '../stage/test.js';

test('what is changed of one selected layer is changed of all', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  await desk.select('Felt piano');
  await desk.select('Glass bells', true);
  const level = (name: string) => desk.field(`Level of ${name}, dB`);
  await level('Felt piano').fill('-6.5');
  await level('Felt piano').press('Enter');
  // The piano went down by four, and so did the bells.
  await expect(level('Glass bells')).toHaveValue('−12.0');
  await expect(level('Tide pad')).toHaveValue('−14.0');
  await page.getByRole('button', { name: 'Mute Glass bells' }).click();
  await expect(page.getByRole('button', { name: 'Mute Felt piano' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(level('Felt piano')).toHaveValue('−2.5');
  await expect(level('Glass bells')).toHaveValue('−8.0');
});

test('layers are copied and pasted between patches, with sounds shared as they were', async ({
  desk,
  page,
}) => {
  await desk.openSong('Paper Lighthouse');
  await desk.select('Right-hand harp');
  await desk.select('Left-hand harp, dug in', true);
  await page.keyboard.press('Control+c');
  await page.getByRole('button', { name: 'Lantern Song', exact: true }).click();
  await expect.poll(() => desk.layers()).toEqual(['Felt piano', 'Tide strings']);
  await page.keyboard.press('Control+v');
  await expect
    .poll(() => desk.layers())
    .toEqual(['Felt piano', 'Tide strings', 'Right-hand harp', 'Left-hand harp, dug in']);
  await expect(desk.row('Right-hand harp')).toContainText('shared with Left-hand harp');
  expect(await desk.keysOf('Left-hand harp, dug in')).toBe('E1–B3');
  await desk.saved();
});

test('the ledger is sorted by a column, and put into another order by dragging', async ({
  desk,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'Level', exact: true }).click();
  await expect
    .poll(() => desk.layers())
    .toEqual(['Tide pad', 'Glass bells', 'Left-hand bass', 'Felt piano']);
  await page.getByRole('button', { name: 'letter', exact: true }).click();
  const middle = async (name: string) => {
    const box = await desk.row(name).locator('pc-layer-badge').boundingBox();
    if (!box) throw new Error('the row is not there');
    return [box.x + box.width / 2, box.y + box.height / 2] as const;
  };
  const [x, y] = await middle('Tide pad');
  const [, above] = await middle('Felt piano');
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y - 20, { steps: 3 });
  await page.mouse.move(x, above - 8, { steps: 4 });
  await page.mouse.up();
  const expected = ['Left-hand bass', 'Tide pad', 'Felt piano', 'Glass bells'];
  await expect.poll(() => desk.layers()).toEqual(expected);
  await desk.saved();
  await page.reload();
  await expect.poll(() => desk.layers()).toEqual(expected);
});

test('every shortcut is listed under ?, and those listed work', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  await page.keyboard.press('Shift+?');
  const list = page.getByRole('dialog');
  for (const words of ['move the split up', 'Up to my neighbour', 'swap its sound', 'undo'])
    await expect(list.getByText(words, { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(list).toHaveCount(0);
  await desk.select('Left-hand bass');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('m');
  const mute = page.getByRole('button', { name: 'Mute Felt piano' });
  await expect(mute).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('m');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await expect(page.getByText('No layers yet')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(() => desk.layers()).toHaveLength(4);
});
