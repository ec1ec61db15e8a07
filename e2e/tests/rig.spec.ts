import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const plan = (page: Page, place: string) => page.locator(`[data-device="${place}"]`);
const told = (page: Page) => page.getByTestId('exchange');

/** Presses a key of a stand-in keyboard on the stand-ins’ page, which plays as that device holds its settings. */
async function playStandIn(standIns: Page, board: number, key: number): Promise<void> {
  await standIns.bringToFront();
  const of = standIns.locator('pc-keyboard').nth(board);
  const box = await of.locator(`rect[data-key="${key}"]`).first().boundingBox();
  if (!box) throw new Error(`there is no key ${key}`);
  await standIns.mouse.click(box.x + box.width / 2, box.y + box.height - 6);
}

test('a channel is wanted, written in packets and read back; a write that stops half-way leaves the old one', async ({
  desk,
  page,
  context,
  server,
}) => {
  await desk.openSong('Ferry to Nowhere');
  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  await expect(standIns.getByText('sends on 2 · octave 0 · even')).toBeVisible();
  await page.bringToFront();
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await plan(page, 'keys2').click();
  await page.getByRole('tab', { name: /Settings on the device/ }).click();
  await page.getByRole('combobox', { name: 'Channel that it is to send on' }).click();
  await page.getByRole('option', { name: '3', exact: true }).click();
  await page.getByRole('radio', { name: 'softer' }).click();
  await expect(told(page)).toHaveText('2 settings are not yet on the device.');
  await goToRoom(page, 'Rig', 'Channels');
  await expect(
    page.getByLabel('Lower keys will send on channel 3, once that is written'),
  ).toBeVisible();
  await goToRoom(page, 'Rig', 'Plan');
  await plan(page, 'keys2').click();
  await page.getByRole('tab', { name: /Settings on the device/ }).click();
  // Nothing has changed yet: it plays as before.
  await playStandIn(standIns, 1, 60);
  await page.bringToFront();
  await expect(page.getByTestId('last-message')).toContainText('Lower keys · ch 2');
  await standIns.bringToFront();

  const misbehaves = standIns.getByRole('combobox', { name: 'How Lower keys misbehaves' });
  await misbehaves.click();
  await standIns.getByRole('option', { name: 'stops half-way' }).click();
  await page.bringToFront();
  await page.getByRole('button', { name: 'Write to the device' }).click();
  await expect(told(page)).toContainText('It stopped answering after 2 of 3 packets.');
  await expect(told(page)).toContainText('What it held before stays.');
  await expect(standIns.getByText('sends on 2 · octave 0 · even')).toBeVisible();

  await misbehaves.click();
  await standIns.getByRole('option', { name: 'behaves well' }).click();
  await page.bringToFront();
  await page.getByRole('button', { name: 'Write to the device' }).click();
  await expect(told(page)).toContainText('Written and read back: the same.');
  await expect(standIns.getByText('sends on 3 · octave 0 · softer')).toBeVisible();
  await goToRoom(page, 'Rig', 'Channels');
  await expect(page.getByLabel('Lower keys sends on channel 3')).toBeVisible();
  await playStandIn(standIns, 1, 60);
  await page.bringToFront();
  await expect(page.getByTestId('last-message')).toContainText('Lower keys · ch 3');
  await goToRoom(page, 'Rig', 'Monitor');
  await expect(
    page.locator('pc-monitor-view .row', { hasText: 'exclusive' }).first(),
  ).toBeVisible();
  await expect(
    page.locator('pc-monitor-view .row', { hasText: 'C4 struck at' }).last(),
  ).toContainText('3');
  await desk.saved();
  // The device keeps it, also over a reload of everything.
  await standIns.reload();
  await expect(standIns.getByText('sends on 3 · octave 0 · softer')).toBeVisible();
});

test('pads pick what the keyboard plays while a chord is held, and the choice is seen and kept', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Nine Bells');
  const chips = page.getByRole('listbox', { name: 'Right hand' });
  await expect(chips.getByRole('option', { name: 'bells' })).toHaveAttribute(
    'aria-selected',
    'true',
  );
  await rig.press(60, 60);
  await rig.press(64, 60);
  await expect.poll(() => desk.layerMeter('Gentle bells')).toBeGreaterThan(5);
  await rig.tapPad(7);
  await expect(chips.getByRole('option', { name: 'harp' })).toHaveAttribute(
    'aria-selected',
    'true',
  );
  await expect(page.locator('pc-field').getByText('Gentle bells · not picked')).toBeVisible();
  await rig.press(72, 100);
  await expect.poll(() => desk.layerMeter('Harp')).toBeGreaterThan(10);
  expect(await desk.layerMeter('Struck bells')).toBe(0);
  await expect(desk.trace('Struck bells')).toContainText('another choice is picked');
  for (const key of [60, 64, 72]) await rig.release(key);
  await desk.quiet();

  await page.getByRole('link', { name: 'Showtime' }).click();
  const inShowtime = page.getByRole('listbox', { name: 'Right hand' });
  await expect(inShowtime).toBeVisible();
  await rig.tapPad(6);
  await expect(inShowtime.getByRole('option', { name: 'music box' })).toHaveAttribute(
    'aria-selected',
    'true',
  );
});

test('a show is moved to a smaller rig: what is wanting is listed, and what stands in plays', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Ferry to Nowhere');
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await page.getByRole('button', { name: 'Rigs' }).click();
  await page.getByRole('menuitem', { name: 'New rig' }).click();
  await page.getByRole('button', { name: 'Add a device' }).click();
  await page.getByRole('menuitem', { name: '88 keys' }).click();
  await expect(plan(page, 'keys1')).toContainText('88 keys A0–C8');
  await plan(page, 'keys1').press('ArrowRight');
  await page.getByRole('button', { name: 'Play the show on another rig' }).click();
  const dialog = page.getByRole('dialog');
  for (const words of [
    'lower keys: nothing stands there',
    'pads: nothing stands there',
    'module 1: nothing stands there',
  ])
    await expect(dialog.getByText(words)).toBeVisible();
  await expect(dialog.getByRole('combobox', { name: 'What stands in for lower keys' })).toHaveText(
    'Upper keys',
  );
  await dialog.getByRole('button', { name: 'Play it there' }).click();
  await expect(dialog).toHaveCount(0);
  await desk.saved();
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  // A layer of the lower keys, played on the only keyboard there is.
  await rig.press(50, 90);
  await expect.poll(() => desk.layerMeter('Engine-room bass')).toBeGreaterThan(5);
  await rig.release(50);
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('used by no show yet')).toBeVisible();
});

test('a keyboard that is pulled out leaves no note, is told of on screen, and plays again; an unknown one is found by playing it', async ({
  desk,
  rig,
  page,
  context,
  server,
}) => {
  await desk.openSong('Saltglass');
  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  await page.bringToFront();
  await page.getByRole('link', { name: 'Showtime' }).click();
  await rig.press(64, 90);
  await expect(page.getByTestId('voices')).not.toHaveText('0 voices');
  const plug = standIns.getByRole('switch', { name: 'Upper keys is plugged in' });
  await plug.click();
  await expect(page.getByText('Upper keys not there')).toBeVisible();
  await expect(page.getByTestId('voices')).toHaveText('0 voices');
  await page.keyboard.press('Escape');
  await page.goto(`${server.origin}/rig`);
  await expect(plan(page, 'keys1')).toBeVisible();
  await plug.click();
  await plug.click();
  await expect(page.getByText('Upper keys is gone. What it held is ended')).toBeVisible();
  await expect(plan(page, 'keys1')).toContainText('not there');
  await plug.click();
  await expect(page.getByText('Upper keys is plugged in and plays.')).toBeVisible();

  await page.getByRole('button', { name: 'Which one is it? Play it' }).click();
  await rig.bytes('Borrowed keys', [0x94, 60, 80, 60, 0]);
  await expect(
    page.getByText('Upper keys is “Borrowed keys”, and sends on channel 5.'),
  ).toBeVisible();
  await goToRoom(page, 'Rig', 'Channels');
  await expect(page.getByLabel('Upper keys sends on channel 5')).toBeVisible();
});

test('the monitor shows what comes, says what is broken, traces a key, and a key without a sound says why', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await goToRoom(page, 'Rig', 'Monitor');
  const line = (words: string) => page.locator('pc-monitor-view .row', { hasText: words }).last();
  await rig.press(55, 80);
  await expect(page.getByTestId('silence')).toHaveText(/^Upper keys G3 sounds nothing: [A-D] /);
  await line('G3 struck at 80').click();
  await expect(page.locator('pc-trace-panel')).toContainText('above its keys, which end at F♯3');
  await rig.bytes('stand-in upper keys', [0xf0, 0x7d, 1, 2, 3, 0x90, 64, 70]);
  await expect(line('it never ended')).toBeVisible();
  await rig.bytes('stand-in upper keys', [0xf7, 1, 2]);
  await expect(line('3 bytes make no message')).toBeVisible();
  await rig.bytes('stand-in upper keys', [0xf8, 0xf8]);
  await expect(page.locator('pc-monitor-view .row', { hasText: 'clock' })).toHaveCount(0);
  await page.getByRole('button', { name: 'clock', exact: true }).click();
  await expect(line('clock')).toBeVisible();
  await page.getByRole('button', { name: 'Pause' }).click();
  await rig.bytes('stand-in upper keys', [0x90, 57, 44]);
  await expect(line('struck at 44')).toHaveCount(0);
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(line('struck at 44')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as text' }).click();
  expect((await download).suggestedFilename()).toBe('monitor.txt');
});

test('programs of a module are named by a pasted list, and a layer of one sends bank, program and notes', async ({
  desk,
  rig,
  page,
  context,
  server,
}) => {
  await desk.openSong('Saltglass');
  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  await expect(standIns.getByText('nothing yet')).toBeVisible();
  await page.bringToFront();
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await plan(page, 'module1').click();
  await page.getByRole('tab', { name: 'Programs' }).click();
  await page
    .getByRole('textbox', { name: 'list of programs' })
    .fill('Bank MSB,Bank LSB,Program,Name\n0,3,6,Fog reeds\n0,999,7,Broken');
  await expect(
    page.getByText('bank lsb “999” is no number from 0 to 127: 0, 999, 7, Broken'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Put 1 into the sounds' }).click();
  await expect(page.getByText('1 are among the sounds already.')).toBeVisible();
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await page.getByRole('button', { name: 'Add layer' }).click();
  await page.getByRole('dialog').getByRole('searchbox').fill('Fog reeds');
  await page.getByRole('dialog').locator('li[data-item="Fog reeds"] button.row').dblclick();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await rig.press(62, 90);
  await rig.release(62);
  for (const line of ['CC 0 = 0', 'CC 32 = 3', 'program 6', 'D4 v90'])
    await expect(standIns.locator('section.module').getByText(`ch 1 ${line}`)).toBeVisible();
  await desk.saved();
});

test('a touch is fitted to soft, medium and hard strokes', async ({ desk, rig, page }) => {
  await desk.openSong('Saltglass');
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await plan(page, 'keys1').click();
  await page.getByRole('tab', { name: 'Touch' }).click();
  await page.getByRole('button', { name: 'Begin anew' }).click();
  const strokes = [
    [12, 15, 14, 90, 16],
    [30, 33, 31, 35, 29],
    [60, 66, 64, 70, 62],
  ];
  for (const velocity of strokes.flat()) {
    await rig.press(60, velocity);
    await rig.release(60);
  }
  await expect(page.getByText('12 15 14 90 16 · middle 15')).toBeVisible();
  await expect(page.getByText(/^Fitted: /)).toBeVisible();
  await page.getByRole('button', { name: 'Take the fitted touch' }).click();
  await expect(page.getByText('The touch of this keyboard is even')).toHaveCount(0);
  await desk.saved();
});

test('Rig, its settings, Monitor and choosers keep to WCAG 2.2 AA', async ({ desk, page }) => {
  const found: string[] = [];
  const look = async (where: string) => {
    const { violations } = await new AxeBuilder({ page })
      .options({ resultTypes: ['violations'] })
      .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
      .analyze();
    for (const { id, nodes } of violations)
      found.push(`${where}: ${id} at ${nodes.map((node) => node.target.join(' ')).join(', ')}`);
  };
  await desk.openSong('Nine Bells');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: /^Choosers/ }).click();
  await expect(page.getByRole('dialog')).toContainText('pad 5');
  await look('choosers');
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await plan(page, 'pads1').click();
  await look('Rig');
  await page.getByRole('tab', { name: /Settings on the device/ }).click();
  await expect(page.getByRole('button', { name: 'Write to the device' })).toBeVisible();
  await look('settings');
  await goToRoom(page, 'Rig', 'Monitor');
  await expect(page.getByRole('heading', { name: 'Monitor' })).toBeVisible();
  await look('Monitor');
  expect(found).toEqual([]);
});

test('settings of the whole rig are kept under a name, wanted again, written and compared', async ({
  desk,
  page,
  context,
  server,
}) => {
  await desk.openSong('Saltglass');
  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  await expect(standIns.getByText('sends on 2 · octave 0 · even')).toBeVisible();
  await page.bringToFront();
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await page.getByRole('button', { name: 'All settings' }).click();
  const dialog = page.getByRole('dialog');
  const state = dialog.getByTestId('all-settings');
  await dialog.getByRole('button', { name: 'Compare all' }).click();
  await expect(state).toHaveText('3 of 3 devices hold what is wanted.');
  await dialog.getByLabel('keep what is wanted now as').fill('As at home');
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(dialog.getByText('As at home', { exact: true })).toBeVisible();
  await dialog.getByRole('button', { name: 'Done' }).click();

  await plan(page, 'keys2').click();
  await page.getByRole('tab', { name: /Settings on the device/ }).click();
  await page.getByRole('radio', { name: 'harder' }).click();
  await page.getByRole('button', { name: 'All settings' }).click();
  await dialog.getByRole('button', { name: 'Write all' }).click();
  await expect(state).toHaveText('3 of 3 devices hold what is wanted.');
  await expect(standIns.getByText('sends on 2 · octave 0 · harder')).toBeVisible();
  await dialog.getByRole('button', { name: 'Use the values of As at home' }).click();
  await expect(state).toContainText('1 of 3 devices are yet to be written.');
  await expect(dialog.getByRole('row', { name: /Lower keys/ })).toContainText(
    'velocity curve even',
  );
  await dialog.getByRole('button', { name: 'Write all' }).click();
  await expect(state).toHaveText('3 of 3 devices hold what is wanted.');
  await expect(standIns.getByText('sends on 2 · octave 0 · even')).toBeVisible();
});

test('a recipe leads through a held button and keys, lights them up, and believes only what arrives', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await plan(page, 'keys1').click();
  await page.getByRole('tab', { name: 'Steps by hand' }).click();
  await page.getByRole('button', { name: 'New steps by hand' }).click();
  await desk.type('Channel of step 4', '3');
  await page.getByRole('button', { name: 'Lead me through it' }).click();
  const told = page.getByTestId('recipe');
  await expect(told).toHaveText('Now: hold the set button.');
  await page.getByRole('button', { name: 'Done, next' }).click();
  await expect(plan(page, 'keys1').locator('.asked')).toHaveCount(1);
  await rig.press(28);
  await rig.release(28);
  await expect(told).toHaveText('Now: let go of the set button.');
  await page.getByRole('button', { name: 'Done, next' }).click();
  // Only the bytes can say that it worked.
  await expect(page.getByRole('button', { name: 'Done, next' })).toHaveCount(0);
  await rig.press(60);
  await rig.release(60);
  await expect(told).toHaveText('It arrived on channel 1, not 3: go back, and try again.');
  await rig.bytes('stand-in upper keys', [0x92, 60, 80, 0x82, 60, 0]);
  await expect(told).toHaveText('Done, and seen to work.');
});

test('pads are struck, and what speaks too hardly is wanted otherwise', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await plan(page, 'pads1').click();
  await page.getByRole('tab', { name: 'Touch' }).click();
  const pads = page.getByRole('table', { name: 'Strokes on the pads' });
  for (const velocity of [30, 31, 127, 29, 30])
    await rig.bytes('stand-in pads', [0x99, 36, velocity, 0x89, 36, 0]);
  await expect(pads.getByRole('row').nth(1)).toContainText('4 →');
  await page.getByRole('button', { name: 'Want these, to be written' }).click();
  await expect(
    page.getByRole('tab', { name: 'Settings on the device (1 to write)' }),
  ).toBeVisible();
});
