import type { Page } from '@playwright/test';
import { expect, test } from '../stage/test.js';

/** Keys of the lower keyboard that start something in Low Water Mark. */
const KEY = {
  halfTide: 37,
  springs: 38,
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

  // Trace says what a key began, and how long that waits for what plays already.
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await page.getByRole('tab', { name: 'Trace' }).click();
  for (const key of [KEY.halfTide, KEY.springs]) {
    await rig.press(key, 90, 'lower');
    await rig.release(key, 'lower');
    await expect(page.getByText(/This key starts/)).toContainText('of Quay drums, on the bar');
  }
  await expect(page.getByText(/^Quay drums: then springs, in \d beats?$/)).toBeVisible();
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
  const add = page.getByRole('searchbox', { name: 'Add a pattern to the next key' });
  for (const name of ['eighths', 'push up']) {
    await add.fill(name);
    await expect(page.locator('pc-placed-panel li').first()).toContainText(name);
    await add.press('Enter');
  }
  const flags = page.locator('pc-key-flags button');
  await expect(flags).toHaveText(['eighths', 'push up']);
  await flags.last().click();
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

test('a band is kept, and taken into another song with its sounds; the same keys get other patterns', async ({
  desk,
  page,
}) => {
  await desk.openSong('Low Water Mark');
  await page.getByRole('link', { name: 'Band' }).click();
  const flags = page.locator('pc-key-flags button');
  await expect(flags).toHaveCount(23);
  const names = await flags.allInnerTexts();
  await page.getByRole('button', { name: 'Same keys, other patterns' }).click();
  await page.getByRole('menuitem', { name: 'only basses' }).click();
  const onBoard = page.locator('pc-key-flags');
  await expect(onBoard.getByRole('button', { name: 'push', exact: true })).toHaveCount(0);
  await expect(flags.filter({ hasText: 'half tide' })).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(flags).toHaveText(names);
  await page.getByRole('button', { name: 'Kept bands' }).click();
  await page.getByRole('menuitem', { name: 'Keep this band…' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click();
  await desk.openSong('Paper Lighthouse');
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await page.getByRole('link', { name: 'Band' }).click();
  await page.getByRole('button', { name: 'Kept bands' }).click();
  await page.getByRole('menuitem', { name: /^Take “Band of Low Water Mark”/ }).click();
  await expect(flags).toHaveText(names);
  await desk.saved();
});

test('pads start patterns, a pattern goes onto the key that is played, and a knob moves the weight of a part', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Low Water Mark');
  await page.getByRole('link', { name: 'Band' }).click();
  const panel = page.locator('pc-placed-panel');
  await panel.getByRole('searchbox').fill('walk');
  await panel.getByRole('button', { name: 'Put walk on the key that is played' }).click();
  await rig.press(61, 90, 'lower');
  await rig.release(61, 'lower');
  await expect(page.getByTestId('status')).toContainText('walk is on C♯4 of Quay drums');
  await page.locator('pc-accompanist-rows').getByText('Ebb bass').click();
  await panel.getByRole('tab', { name: 'Accompanist' }).click();
  await panel.getByRole('combobox', { name: 'Is started at' }).click();
  await page.getByRole('option', { name: 'pads', exact: true }).click();
  const pads = page.getByRole('group', { name: 'What is started at the pads' });
  await panel.getByRole('tab', { name: 'Shelf' }).click();
  await panel.getByRole('searchbox').fill('push up');
  await panel.getByRole('searchbox').press('Enter');
  await expect(pads.getByRole('button', { name: 'pad 1 push up' })).toBeVisible();
  await rig.tapPad(1);
  await expect(playing(page, 'Ebb bass')).toHaveText('push up');
  await expect.poll(() => desk.output()).toBeGreaterThan(3);
  // The cue has it otherwise as soon as it is moved, and keeps it when it is taken over.
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  const since = page.getByTestId('since');
  await expect(page.locator('pc-song-heading')).toBeVisible();
  await rig.bytes('stand-in pads', [0xb9, 21, 0, 21, 127]);
  await expect(since).toContainText('weight of Ebb bass 0 → 1');
  await since.getByRole('button', { name: /^Take it over/ }).click();
  await expect(since).toHaveCount(0);
  await desk.saved();
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
  // It rests at the bar to come, which may be there already.
  await expect(drums).toContainText('rests');
  await page.getByRole('button', { name: 'All notes off' }).click();
  await expect(drums).toContainText('rests');
  await expect(drums).not.toContainText('half tide');
});
