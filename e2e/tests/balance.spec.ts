import { expect, test } from '../stage/test.js';

test('the split moves as one boundary with [ and ]', async ({ desk, page }) => {
  await desk.openSong('Saltglass');
  await page.getByRole('button', { name: 'A Deep pad' }).click();
  await page.keyboard.press(']');
  await page.keyboard.press(']');
  await expect(desk.field('Highest key of Deep pad')).toHaveValue('C♯4');
  for (const layer of ['Felt piano', 'Swelling strings'])
    await expect(desk.field(`Lowest key of ${layer}`)).toHaveValue('D4');
  await page.keyboard.press('[');
  await expect(desk.field('Lowest key of Felt piano')).toHaveValue('C♯4');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(desk.field('Highest key of Deep pad')).toHaveValue('B3');
});

test('the plumb line reads the key under the hand, and the one last played with its strength', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('tab', { name: 'Plumb line' }).click();
  await rig.press(64, 85);
  const drawing = page.getByRole('img', { name: /^Loudness at/ });
  await expect(drawing).toHaveAccessibleName(/^Loudness at E4: B Felt piano, C Glass bells;/);
  await expect(page.getByTestId('plumb-now')).toHaveText(/^v85 −\d+\.\d LUFS$/);
  const field = await page.locator('pc-field').boundingBox();
  if (!field) throw new Error('the field is not there');
  await page.mouse.move(field.x + (field.width / 76) * (40 - 28 + 0.5), field.y + 20);
  await expect(drawing).toHaveAccessibleName(/^Loudness at E2: A Left-hand bass;/);
  await rig.release(64);
});

test('a leap into a louder layer is remarked on, and balancing takes it away again', async ({
  desk,
  page,
}) => {
  await desk.openSong('Paper Lighthouse');
  const level = desk.field('Level of Right-hand harp, dB');
  await level.fill('-30');
  await level.press('Enter');
  await expect(desk.remark(/split at C4: the left is \d+\.\d dB louder/)).toBeVisible();
  await page.getByRole('button', { name: 'Balance', exact: true }).click();
  const dialog = page.getByRole('dialog');
  const row = dialog.locator('tr[data-layer="Right-hand harp"]');
  await expect(row).toContainText('−30.0 dB');
  const after = (await row.locator('.after').textContent()) ?? '';
  expect(after).not.toContain('−30.0');
  await dialog.getByRole('button', { name: 'Set these levels' }).click();
  await expect(level).toHaveValue(after.replace(' dB', '').trim());
  await expect(desk.remark(/split at C4/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(level).toHaveValue('−30.0');
  await desk.saved();
});
