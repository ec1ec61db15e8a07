import { expect, test } from '../stage/test.js';

test('a layer listens to one keyboard, several, any, or one channel, and Trace says which', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  await rig.press(60, 80, 'lower');
  await expect(desk.trace('Felt piano')).toContainText('listens to Upper keys');
  await rig.release(60, 'lower');
  await page.getByRole('button', { name: 'Felt piano listens to Upper keys' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Lower keys' }).click();
  await page.keyboard.press('Escape');
  await expect(
    page.getByRole('button', { name: 'Felt piano listens to Upper keys, Lower keys' }),
  ).toBeVisible();
  await rig.press(60, 80, 'lower');
  await expect.poll(() => desk.layerMeter('Felt piano')).toBeGreaterThan(10);
  await expect(desk.trace('Felt piano')).toContainText('sounds C4');
  await rig.release(60, 'lower');
  await page.getByRole('button', { name: /^Felt piano listens to/ }).click();
  await page.getByRole('menuitem', { name: 'channel any' }).click();
  await page.getByRole('menuitem', { name: '7', exact: true }).click();
  await rig.press(60, 80);
  await expect(desk.trace('Felt piano')).toContainText('listens on channel 7; this came on 1');
  await rig.release(60);
});

test('touch is set in numbers, and what it silences is drawn and named', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('button', { name: 'Touch of Deep pad: even' }).click();
  const low = desk.field('Lowest velocity in');
  await low.fill('50');
  await low.press('Enter');
  await page.getByRole('radio', { name: 'silent' }).click();
  await page.keyboard.press('Escape');
  await expect(
    page.getByRole('button', { name: 'Touch of Deep pad: joins from 50' }),
  ).toBeVisible();
  await expect(desk.remark('silent velocities 1–49 on E1–B3')).toBeVisible();
  await rig.press(40, 30);
  await expect(desk.trace('Deep pad')).toContainText('its touch silences everything under 50');
  await rig.release(40);
});

test('the field shows the keyboard chosen, with the layers that listen to it', async ({
  desk,
  page,
}) => {
  await desk.openSong('Ferry to Nowhere');
  const label = (name: string) => page.locator('pc-field').getByRole('button', { name });
  await expect(label('C Deck strings')).toBeVisible();
  await expect(label('A Engine-room bass')).toHaveCount(0);
  await page.getByRole('radio', { name: 'Lower keys', exact: true }).click();
  await expect(label('A Engine-room bass')).toBeVisible();
  await expect(label('C Deck strings')).toHaveCount(0);
  await page.reload();
  await expect(label('A Engine-room bass')).toBeVisible();
});

test('clicking one spot again selects the layer beneath', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  const field = await page.locator('pc-field').boundingBox();
  if (!field) throw new Error('the field is not there');
  const spot = [field.x + field.width * 0.9, field.y + field.height * 0.38] as const;
  const selected = page
    .locator('pc-ledger tr.selected')
    .getByRole('textbox', { name: /Name of layer/ });
  // Smallest territory first, then what lies beneath it, then the smallest again.
  for (const name of ['Glass bells', 'Felt piano', 'Tide pad', 'Glass bells']) {
    await page.mouse.click(...spot);
    await expect(selected).toHaveValue(name);
  }
});

test('fades are dragged on the field and drawn as contours', async ({ desk, page }) => {
  await desk.openSong('Saltglass');
  await page.getByRole('button', { name: 'B Felt piano' }).click();
  const field = await page.locator('pc-field').boundingBox();
  const handle = await page.locator('[data-handle="keys fadeIn"] .hit').boundingBox();
  if (!field || !handle) throw new Error('the handle is not there');
  // Beside the names of the layers, which lie on the field too.
  const y = handle.y + 8;
  await page.mouse.move(handle.x + handle.width / 2, y);
  await page.mouse.down();
  await page.mouse.move(handle.x + handle.width / 2 + (field.width / 76) * 6, y, { steps: 6 });
  await expect(page.locator('pc-field .readout')).toHaveText('fades over 6 keys');
  await page.mouse.up();
  await expect(desk.field('Fade in over keys, Felt piano')).toHaveValue('6');
});

test('a patch of sixteen layers stays readable, playable and saved', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Lantern Song');
  const more = page.getByRole('button', { name: 'More for Felt piano', exact: true });
  for (let count = 3; count <= 16; count++) {
    await more.click();
    await page.getByRole('menuitem', { name: /^Duplicate/ }).click();
    await expect(page.locator('pc-ledger tbody tr')).toHaveCount(count);
  }
  await rig.press(64, 100);
  await expect(page.getByTestId('voices')).toHaveText('16 voices');
  const ledger = await page.locator('pc-ledger').boundingBox();
  const field = await page.locator('pc-field').boundingBox();
  expect(ledger && ledger.y + ledger.height).toBeLessThanOrEqual(800);
  expect(field?.height).toBeGreaterThan(180);
  await rig.release(64);
  await desk.quiet();
  await desk.saved();
});

test('transposition follows the song’s key unless the ledger says otherwise, and moves the sound only', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Copper Weather');
  await rig.press(64, 60);
  await expect(desk.trace('Felt piano')).toContainText('sounds E♭4 at 60');
  await rig.release(64);
  const transpose = desk.field('Transposition of Felt piano, semitones');
  await transpose.press('Shift+ArrowUp');
  await expect(transpose).toHaveValue('+12');
  await transpose.hover();
  await expect(page.locator('pc-patch-view .beside p')).toHaveText(
    'song −1, layer +12: +11 in all; C4 sounds B4',
  );
  await rig.press(64, 60);
  await expect(desk.trace('Felt piano')).toContainText('sounds E♭5 at 60');
  await expect(desk.field('Lowest key of Felt piano')).toHaveValue('A3');
  await rig.release(64);
});

test('a patch is made from nothing: added, filled, split, played and removed', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  const menu = page.getByRole('button', { name: 'More', exact: true });
  await menu.click();
  await expect(
    page.getByRole('menuitem', { name: /^Remove this patch \(cues play it/ }),
  ).toBeDisabled();
  await page.getByRole('menuitem', { name: 'New patch in this song' }).click();
  await expect(page.getByText('No layers yet')).toBeVisible();
  const name = page.getByRole('textbox', { name: 'Name of the patch' });
  await name.fill('From nothing');
  await name.press('Enter');
  await page.getByRole('button', { name: 'Add layer' }).click();
  await page.getByRole('dialog').locator('li[data-item="Warm pad"] button.row').dblclick();
  await expect.poll(() => desk.layers()).toEqual(['Warm pad']);
  await page.keyboard.press('2');
  await expect.poll(() => desk.layers()).toEqual(['Warm pad E1–F4', 'Warm pad F♯4–G7']);
  await rig.press(90, 90);
  await expect.poll(() => desk.layerMeter('Warm pad F♯4–G7')).toBeGreaterThan(5);
  await rig.release(90);
  await desk.saved();
  await page.reload();
  await expect(name).toHaveValue('From nothing');
  await menu.click();
  await page.getByRole('menuitem', { name: 'Remove this patch' }).click();
  await expect(name).toHaveValue('Piano over the tide');
  await desk.saved();
});

test('an empty patch asks for its first sound on the field, and then for one over it or beside it', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'New patch in this song' }).click();
  const first = page.getByRole('combobox', { name: 'First sound' });
  await first.fill('bells');
  await page.getByRole('option', { name: 'Glass bells' }).click();
  await expect.poll(() => desk.layers()).toEqual(['Glass bells']);
  expect(await desk.keysOf('Glass bells')).toBe('all–keys');
  await rig.press(64, 90);
  await expect.poll(() => desk.layerMeter('Glass bells')).toBeGreaterThan(5);
  await rig.release(64);

  await page.getByRole('button', { name: 'beside it, split at E4' }).click();
  await page.getByRole('dialog').locator('li[data-item="Felt piano"] button.row').dblclick();
  await expect.poll(() => desk.layers()).toHaveLength(2);
  await expect(desk.remark('silent')).toHaveCount(0);
  await rig.press(90, 90);
  await expect(desk.trace('Glass bells')).toContainText('above its keys');
  await expect(desk.trace('Felt piano')).toContainText('sounds F♯6');
  await rig.release(90);
  await desk.type('Lowest key of Glass bells', 'all');
  await expect.poll(() => desk.keysOf('Glass bells')).toBe('all–keys');
  await desk.saved();
});
