import { AxeBuilder } from '@axe-core/playwright';
import { chooseMore } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

test('notes are called as the player prefers, in every view, and after a reload', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  await expect(page.getByTestId('examples')).toHaveCount(0);
  await chooseMore(page, 'Preferences');
  const examples = page.getByTestId('examples');
  await expect(examples).toHaveText('C2  E♭3  C4  F♯4  B♭5');
  await page.getByRole('radio', { name: 'C3', exact: true }).click();
  await page.getByRole('radio', { name: 'sharps' }).click();
  await page.getByRole('switch', { name: 'beside the names of notes' }).click();
  await expect(examples).toHaveText('C1 36  D♯2 51  C3 60  F♯3 66  A♯4 82');
  const axe = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
  expect(axe.violations).toEqual([]);
  await page.getByRole('combobox', { name: 'Channel that new layers listen to' }).click();
  await page.getByRole('option', { name: /^channel 7/ }).click();
  await page.reload();
  await expect(examples).toHaveText('C1 36  D♯2 51  C3 60  F♯3 66  A♯4 82');
  await page.getByRole('link', { name: 'Patch' }).click();
  const low = page.getByRole('spinbutton', { name: 'Lowest key of Felt piano' });
  await expect(low).toHaveValue('C3 60');
  // What is shown can be typed back, and so can a name alone.
  await low.fill('A#2 58');
  await low.press('Enter');
  await expect(low).toHaveValue('A♯2 58');
  await low.fill('C3');
  await low.press('Enter');
  await expect(low).toHaveValue('C3 60');
});

test('a layer that leaves by a pair of its own is heard with the main pair where the device has only one', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Saltglass');
  const drawer = await desk.open('Felt piano', 'Balance and effects');
  await drawer.getByRole('combobox', { name: 'comes out on' }).click();
  await page.getByRole('option', { name: 'the second pair' }).click();
  await desk.saved();
  await rig.press(72, 110);
  await expect.poll(() => desk.layerMeter('Felt piano')).toBeGreaterThan(10);
  await expect.poll(() => desk.output()).toBeGreaterThan(0.001);
  await rig.release(72);
  await desk.quiet();
});
