import { expect, test } from '../stage/test.js';

test('dragging an edge over the gap makes the remark go, and stays after a reload', async ({
  desk,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await expect(desk.remark('2 silent keys: G3–A♭3')).toBeVisible();
  await page.getByRole('button', { name: 'A Left-hand bass' }).click();
  const edge = page.locator('[data-handle="keys high"] .hit');
  const from = await edge.boundingBox();
  const field = await page.locator('pc-field').boundingBox();
  if (!from || !field) throw new Error('the edge is not there');
  const keyWidth = field.width / 76;
  const y = from.y + from.height / 4;
  await page.mouse.move(from.x + from.width / 2, y);
  await page.mouse.down();
  await page.mouse.move(from.x + from.width / 2 + keyWidth, y, { steps: 4 });
  await expect(page.locator('pc-field .readout')).toHaveText('G3 (55)');
  await page.mouse.move(field.x + keyWidth * (57 - 28), y, { steps: 4 });
  await page.mouse.up();
  await expect(desk.field('Highest key of Left-hand bass')).toHaveValue('A♭3');
  await expect(desk.remark('silent')).toHaveCount(0);
  await desk.saved();
  await page.reload();
  await expect(desk.field('Highest key of Left-hand bass')).toHaveValue('A♭3');
  await expect(desk.remark('silent')).toHaveCount(0);
});

test('a whole drag is one step of undo, and redo brings it back', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'A Left-hand bass' }).click();
  const corner = page.locator('[data-corner="high high"]');
  const box = await corner.boundingBox();
  if (!box) throw new Error('the corner is not there');
  await page.mouse.move(box.x + 6, box.y + 6);
  await page.mouse.down();
  await page.mouse.move(box.x + 90, box.y + 80, { steps: 12 });
  await page.mouse.up();
  const high = desk.field('Highest key of Left-hand bass');
  const hardest = desk.field('Highest velocity of Left-hand bass');
  await expect(high).not.toHaveValue('F♯3');
  await expect(hardest).toHaveAttribute('aria-valuenow', /^(?!127$)/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(high).toHaveValue('F♯3');
  await expect(hardest).toHaveAttribute('aria-valuenow', '127');
  await page.keyboard.press('Control+Shift+Z');
  await expect(high).not.toHaveValue('F♯3');
});

test('a number that is left by Tab reads as it is taken', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  const pan = desk.field('Pan of Left-hand bass');
  for (const typed of ['94L', 'C', '30R']) {
    await pan.fill(typed);
    await pan.press('Tab');
    await expect(pan).toHaveValue(typed);
  }
  await desk.saved();
  await page.reload();
  await expect(pan).toHaveValue('30R');
});

test('keys are typed, stepped with the arrow keys, or played to set', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Copper Weather');
  const high = desk.field('Highest key of Left-hand bass');
  await high.fill('Ab3');
  await high.press('Enter');
  await expect(high).toHaveValue('A♭3');
  await high.press('ArrowDown');
  await expect(high).toHaveValue('G3');
  await high.press('Shift+ArrowDown');
  await expect(high).toHaveValue('G2');
  await rig.press(56);
  await expect(high).toHaveValue('A♭3');
  await rig.release(56);
  await high.fill('H9');
  await high.press('Enter');
  await expect(page.getByRole('alert')).toContainText('not a note');
  await high.press('Escape');
  await expect(high).toHaveValue('A♭3');
  const level = desk.field('Level of Tide pad, dB');
  await level.fill('-7,5');
  await level.press('Enter');
  await expect(level).toHaveValue('−7.5');
  const pan = desk.field('Pan of Tide pad');
  await pan.fill('30L');
  await pan.press('Enter');
  await expect(pan).toHaveValue('30L');
  await desk.saved();
});

test('edges are moved by keyboard alone, with a readout for those who cannot see', async ({
  desk,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'B Felt piano' }).focus();
  await page.keyboard.press('Enter');
  const edge = page.getByRole('slider', { name: 'Felt piano: lowest key' });
  await edge.focus();
  await edge.press('ArrowLeft');
  await expect(edge).toHaveAttribute('aria-valuetext', 'A♭3 (56)');
  await expect(desk.remark('1 silent key: G3')).toBeVisible();
  await edge.press('ArrowLeft');
  // Now the gap is closed for soft playing only: the piano stops at 92.
  await expect(desk.remark('silent velocities 93–127 on G3–A♭3')).toBeVisible();
  const fade = page.getByRole('slider', { name: 'Felt piano: fade in, keys' });
  await fade.press('ArrowRight');
  await fade.press('ArrowRight');
  await expect(desk.field('Fade in over keys, Felt piano')).toHaveValue('2');
});

test('layers are added, renamed, given another sound, duplicated, moved and removed', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  const rows = page.locator('pc-ledger tbody tr');
  await page.getByRole('button', { name: 'Add layer' }).click();
  const picked = page.getByRole('dialog').locator('li[data-item="Glass bells"] button.row');
  await picked.click();
  await page.getByRole('button', { name: 'Take Glass bells' }).click();
  await expect(rows).toHaveCount(4);
  const name = page.getByRole('textbox', { name: 'Name of layer Glass bells' });
  await name.fill('Sparkle');
  await name.press('Enter');
  const low = desk.field('Lowest key of Sparkle');
  await low.fill('C6');
  await low.press('Enter');
  await page.getByRole('button', { name: 'Sound of Sparkle: Glass bells' }).click();
  await page.getByRole('dialog').locator('li[data-item="Tine piano"] button.row').dblclick();
  await expect(page.getByRole('button', { name: 'Sound of Sparkle: Tine piano' })).toBeVisible();
  await expect(low).toHaveValue('C6');
  await desk.soundsReady();
  await rig.press(90, 100);
  await expect.poll(() => desk.layerMeter('Sparkle')).toBeGreaterThan(20);
  await rig.release(90);
  await page.getByRole('button', { name: 'More for Sparkle' }).click();
  await page.getByRole('menuitem', { name: /^Duplicate/ }).click();
  await expect(rows).toHaveCount(5);
  await expect(desk.remark('D and E play the same sound on C6–G7')).toBeVisible();
  await page.getByRole('button', { name: 'More for Sparkle', exact: true }).click();
  await page.getByRole('menuitem', { name: /^Move up/ }).click();
  await expect(rows.nth(2).getByRole('textbox', { name: /Name of layer/ })).toHaveValue('Sparkle');
  await page.getByRole('button', { name: 'More for Sparkle 2' }).click();
  await page.getByRole('menuitem', { name: /^Remove/ }).click();
  await expect(rows).toHaveCount(4);
  await desk.saved();
  await page.reload();
  await expect(rows).toHaveCount(4);
  await expect(rows.nth(2).getByRole('textbox', { name: /Name of layer/ })).toHaveValue('Sparkle');
});
