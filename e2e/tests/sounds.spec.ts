import { goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

test('sounds are searched as one types, filtered, marked as favourites, and tried out in any octave', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  await goToRoom(page, 'Library', 'Sounds');
  const items = page.locator('pc-sound-browser li[data-item]');
  const names = () => items.evaluateAll((all) => all.map((li) => li.getAttribute('data-item')));
  await expect(items.first()).toHaveAttribute('data-item', 'Slow tide strings');
  expect((await names()).length).toBeGreaterThan(20);
  const box = page.getByRole('searchbox', { name: 'Search sounds' });
  await box.fill('bell');
  await expect.poll(names).toContain('Glass bells');
  expect(await names()).not.toContain('Felt piano');
  await box.fill('');
  await page.getByRole('option', { name: 'organs', exact: true }).click();
  await expect.poll(names).toContain('Chapel pipes');
  expect(await names()).not.toContain('Glass bells');

  await page.locator('li[data-item="Chapel pipes"] button.row').click();
  await expect(page.getByRole('region', { name: 'About the sound' })).toContainText(
    /−\d+\.\d LUFS/,
    {
      timeout: 40_000,
    },
  );
  const heardAt = async (octaves: string) => {
    await expect(page.getByTestId('try-octave')).toHaveText(octaves);
    await rig.press(60, 90);
    await expect.poll(() => desk.output()).toBeGreaterThan(10);
    await rig.release(60);
    await desk.quiet();
  };
  await heardAt('0');
  await page.getByRole('button', { name: '+ octave' }).click();
  await heardAt('+1');

  await page.getByRole('button', { name: 'Favourite: Chapel pipes' }).click();
  await page.getByRole('option', { name: 'all', exact: true }).click();
  await page.getByRole('option', { name: '★ Favourites' }).click();
  await expect.poll(names).toContain('Chapel pipes');
  await desk.saved();
  await page.getByRole('link', { name: 'Patch' }).click();
  await rig.press(40, 90);
  await expect.poll(() => desk.layerMeter('Deep pad')).toBeGreaterThan(5);
  await rig.release(40);
});

test('a sound is swapped, and ranges, level, touch and transposition stay; a name that was the sound’s goes along', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Copper Weather');
  const numbers = (layer: string) =>
    desk
      .row(layer)
      .getByRole('spinbutton')
      .evaluateAll((all) => all.map((b) => (b as HTMLInputElement).value));
  const before = await numbers('Glass bells');
  await page.getByRole('button', { name: 'Sound of Glass bells: Glass bells' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('searchbox').fill('reed piano');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Sound of Reed piano: Reed piano' })).toBeVisible();
  expect(await numbers('Reed piano')).toEqual(before);
  await expect(page.getByRole('button', { name: 'Touch of Reed piano: from 36 up' })).toBeVisible();
  await desk.soundsReady();
  await rig.press(64, 110);
  await expect.poll(() => desk.layerMeter('Reed piano')).toBeGreaterThan(10);
  await rig.release(64);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(
    page.getByRole('button', { name: 'Sound of Glass bells: Glass bells' }),
  ).toBeVisible();
});

test('a layer, a sound and a whole patch are kept, and taken again in another song', async ({
  desk,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'More for Glass bells' }).click();
  await page.getByRole('menuitem', { name: /^Keep in my sounds/ }).click();
  const keep = async () => {
    await page.getByRole('dialog').getByRole('button', { name: 'Keep', exact: true }).click();
    await expect(page.getByRole('dialog')).toHaveCount(0);
  };
  await keep();
  const drawer = await desk.open('Tide pad', 'Sound');
  await drawer.getByRole('button', { name: 'Keep this sound' }).click();
  await keep();
  await drawer.getByRole('button', { name: /^Done/ }).click();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Keep this patch in my sounds' }).click();
  await keep();
  await desk.saved();

  await page.reload();
  await desk.openSong('Lantern Song');
  await goToRoom(page, 'Library', 'Sounds');
  await page.getByRole('option', { name: 'My sounds' }).click();
  const item = (name: string) => page.locator(`li[data-item="${name}"] button.row`);
  await item('Glass bells').click();
  await page.getByRole('button', { name: 'Add to Piano and strings' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Added' })).toContainText('Glass bells');
  await item('Bass under bells').click();
  await page.getByRole('button', { name: 'Take as a patch of Lantern Song' }).click();
  await page.getByRole('button', { name: 'Open the patch' }).click();
  await expect
    .poll(() => desk.layers())
    .toEqual(['Left-hand bass', 'Felt piano', 'Glass bells', 'Tide pad']);
  await page.getByRole('button', { name: 'Other patches' }).click();
  await page.getByRole('menuitem', { name: 'Piano and strings' }).click();
  await expect.poll(() => desk.layers()).toContain('Glass bells');
  expect(await desk.keysOf('Glass bells')).toBe('A3–G7');
  await expect(desk.field('Lowest velocity of Glass bells')).toHaveValue('69');
  await expect(
    page.getByRole('button', { name: 'Touch of Glass bells: from 36 up' }),
  ).toBeVisible();
  await desk.saved();
});

test('what an earlier version kept of sounds goes, and what is used stays', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  const keys = (add?: string) =>
    page.evaluate(async (added) => {
      const open = indexedDB.open('pentachord sounds');
      const database = await new Promise<IDBDatabase>(
        (resolve) => (open.onsuccess = () => resolve(open.result)),
      );
      const store = database.transaction('zones', 'readwrite').objectStore('zones');
      if (added) store.put([], added);
      const all = store.getAllKeys();
      const found = await new Promise<IDBValidKey[]>(
        (resolve) => (all.onsuccess = () => resolve(all.result)),
      );
      database.close();
      return found.filter((key) => typeof key === 'string');
    }, add);
  // House sounds are kept under the hash of what they are made from.
  const left = '0'.repeat(64);
  const before = await keys(left);
  expect(before).toContain(left);
  await page.reload();
  await desk.soundsReady();
  await expect.poll(() => keys(), { timeout: 60_000 }).not.toContain(left);
  expect((await keys()).length).toBeGreaterThanOrEqual(before.length - 1);
});
