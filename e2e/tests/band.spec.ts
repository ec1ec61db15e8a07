import type { Page } from '@playwright/test';
import { expect, test } from '../stage/test.js';

/** Keys of the lower keyboard that start something in Low Water Mark. */
const KEY = {
  halfTide: 37,
  drumsOff: 40,
  push: 42,
  bassOff: 45,
  allBegin: 56,
  allStop: 57,
  allNext: 58,
};

const playing = (page: Page, name: string) => page.locator(`[data-playing="${name}"]`);

test('one key starts the bass on its beat, another stops it; all begin, go on and stop with one key', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Low Water Mark');
  await page.getByRole('link', { name: 'Band' }).click();
  await expect(playing(page, 'Ebb bass')).toHaveText('rests');
  await rig.press(KEY.push, 90, 'lower');
  await rig.release(KEY.push, 'lower');
  await expect(playing(page, 'Ebb bass')).toHaveText('push');
  await expect.poll(() => desk.output()).toBeGreaterThan(3);
  await rig.press(KEY.bassOff, 90, 'lower');
  await rig.release(KEY.bassOff, 'lower');
  await expect(playing(page, 'Ebb bass')).toHaveText('rests');
  await desk.quiet();

  await rig.press(KEY.allBegin, 90, 'lower');
  await rig.release(KEY.allBegin, 'lower');
  for (const [name, pattern] of [
    ['Quay drums', 'half tide'],
    ['Ebb bass', 'push'],
    ['Mist', 'rising mist'],
    ['Reed line', 'drops'],
  ] as const)
    await expect(playing(page, name)).toHaveText(pattern);
  await rig.press(KEY.allNext, 90, 'lower');
  await rig.release(KEY.allNext, 'lower');
  await expect(playing(page, 'Quay drums')).toHaveText('springs');
  await expect(playing(page, 'Ebb bass')).toHaveText('walk');
  // Hands still play over it, and what they play ends with them.
  await rig.press(72, 90);
  await rig.release(72);
  for (let twice = 0; twice < 2; twice++) {
    await rig.press(KEY.allStop, 90, 'lower');
    await rig.release(KEY.allStop, 'lower');
  }
  await expect(playing(page, 'Reed line')).toHaveText('rests');
  await desk.quiet();
});

test('a band is written: an accompanist, patterns on the next keys, how they are played; undone, and kept', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('link', { name: 'Band' }).click();
  await expect(page.getByText('No accompanist yet')).toBeVisible();
  await page.getByRole('button', { name: 'Add an accompanist' }).click();
  const add = page.getByRole('combobox', { name: 'Add a pattern to the next key' });
  for (const name of ['eighths', 'push up']) {
    await add.fill(name);
    await page.getByRole('option', { name }).waitFor();
    await add.press('Enter');
  }
  const flags = page.locator('pc-key-flags button');
  await expect(flags).toHaveText(['eighths', 'push up']);
  await desk.type('Transposition of the pattern, semitones', '12');
  await expect(page.getByLabel('What adds up for the note')).toContainText('+12 pattern');
  await desk.saved();
  // The key at which the keyboard begins starts the first of them, and nothing else.
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await rig.press(36, 100, 'lower');
  await rig.release(36, 'lower');
  await expect(page.locator('pc-trace-panel')).toContainText(
    'This key starts “eighths” of Part 1, on the bar',
  );
  await expect.poll(() => desk.output()).toBeGreaterThan(3);
  // Another song comes: it stops, as it is meant to.
  await desk.openSong('Lantern Song');
  await desk.quiet();
  await desk.openSong('Saltglass');
  await page.getByRole('link', { name: 'Band' }).click();
  await expect(flags).toHaveText(['eighths', 'push up']);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('status')).toContainText('Undone: pattern moved');
  for (const left of [['eighths'], []]) {
    await page.keyboard.press('Control+z');
    await expect(flags).toHaveText(left);
  }
  await page.keyboard.press('Control+z');
  await expect(page.getByText('No accompanist yet')).toBeVisible();
});

test('in Showtime the band is told beside the cue, and a panic ends all of it', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Low Water Mark');
  await page.getByRole('link', { name: 'Showtime' }).click();
  await rig.press(KEY.halfTide, 90, 'lower');
  await rig.release(KEY.halfTide, 'lower');
  const drums = page.locator('[data-accompanist="Quay drums"]');
  await expect(drums).toContainText('half tide');
  await rig.press(KEY.drumsOff, 90, 'lower');
  await rig.release(KEY.drumsOff, 'lower');
  await expect(drums).toContainText('then rests');
  await page.getByRole('button', { name: 'All notes off' }).click();
  await expect(drums).toContainText('rests');
  await expect(drums).not.toContainText('half tide');
});
