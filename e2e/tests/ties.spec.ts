import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const row = (page: Page, control: string) =>
  page.locator('pc-ties-view tr', { has: page.getByRole('cell', { name: control, exact: true }) });

async function openTies(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await goToRoom(page, 'Rig', 'Ties');
  await expect(page.getByRole('heading', { name: 'Ties' })).toBeVisible();
}

async function choose(page: Page, label: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}

test('a knob that is touched is tied for the whole rig, moves whatever patch is played, and tears nothing away', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Saltglass');
  const drawer = await desk.open('Felt piano', 'Controls');
  await expect(drawer.getByTestId('elsewhere')).toContainText(
    'knob 2: level of Felt piano (the rig, always)',
  );
  await drawer.getByRole('button', { name: /^Done/ }).click();
  await openTies(page);
  // What the rig ties already is shown, and where the knob stands.
  await expect(row(page, 'knob 1')).toContainText('level of Deep pad');
  await rig.bytes('stand-in pads', [0xb9, 20, 30]);
  await expect(row(page, 'knob 1')).toContainText('waits for the hand');
  await rig.bytes('stand-in pads', [0xb9, 20, 127]);
  await expect(row(page, 'knob 1')).toContainText('0.0 dB');
  await expect(row(page, 'knob 1')).not.toContainText('waits');

  await page.getByRole('button', { name: 'Touch a control' }).click();
  for (const value of [1, 1, 1, 127, 127, 1]) await rig.bytes('stand-in pads', [0xb9, 26, value]);
  await expect(page.getByRole('heading', { name: 'knob 7' })).toBeVisible();
  await expect(page.getByText('It does nothing yet.')).toBeVisible();
  // It was turned both ways: it has no ends.
  await expect(page.getByRole('combobox', { name: 'the control is' })).toContainText(
    'endless, 1 and 127',
  );
  await page.getByRole('radio', { name: 'the rig, always' }).click();
  await choose(page, 'it moves', 'pan');
  await choose(page, 'of', 'layer B: Felt piano here');
  const axe = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
  expect(axe.violations).toEqual([]);
  await page.getByRole('button', { name: 'Tie it' }).click();
  await expect(row(page, 'knob 7')).toContainText('pan of Felt piano');
  await expect(row(page, 'knob 7')).toContainText('C');
  for (let turn = 0; turn < 4; turn++) await rig.bytes('stand-in pads', [0xb9, 26, 16]);
  await expect(row(page, 'knob 7')).toContainText('100R');
  await desk.openSong('Copper Weather');
  await expect(row(page, 'knob 7')).toContainText('the rig, always');
  await desk.saved();
});

test('a pad mutes what sounds while it is held; the nearer tie wins, and says so', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Saltglass');
  await openTies(page);
  await page.getByRole('button', { name: 'Touch a control' }).click();
  await rig.tapPad(4);
  await expect(page.getByText('It does already: next cue (the show).')).toBeVisible();
  await choose(page, 'of', 'A Deep pad');
  await choose(page, 'when pressed or moved', 'while it is held');
  await page.getByRole('button', { name: 'Tie it' }).click();
  await expect(page.locator('pc-ties-view tr', { hasText: 'next cue' }).last()).toContainText(
    'rests: this patch has taken it',
  );
  await page.getByRole('link', { name: 'Patch' }).click();
  await rig.press(40, 100);
  await expect.poll(() => desk.layerMeter('Deep pad')).toBeGreaterThan(5);
  await rig.bytes('stand-in pads', [0x99, 39, 100]);
  await expect.poll(() => desk.layerMeter('Deep pad')).toBe(0);
  await rig.bytes('stand-in pads', [0x89, 39, 0]);
  await expect.poll(() => desk.layerMeter('Deep pad')).toBeGreaterThan(5);
  await rig.release(40);
  await desk.quiet();
  // The show goes on as soon as the patch lets the pad go.
  await page.keyboard.press('ControlOrMeta+z');
  await rig.tapPad(4);
  await expect(page.getByRole('radio', { name: 'cue: verse' })).toBeVisible();
});

test('a cue chooses a program on an instrument that no layer plays', async ({
  desk,
  page,
  context,
  server,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  await page.getByRole('button', { name: 'More of verse' }).first().click();
  await page.getByRole('menuitem', { name: 'Program changes sent with it' }).click();
  await page.getByRole('button', { name: 'Add a program' }).click();
  await desk.type('Channel of instrument 1', '5');
  await desk.type('Program of instrument 1', '41');
  await page.getByRole('button', { name: 'Done' }).click();
  await desk.saved();
  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  await standIns.evaluate(() => {
    const sent: number[][] = [];
    Object.assign(globalThis, { sent });
    new BroadcastChannel('pentachord cable').addEventListener('message', ({ data }) => {
      if (data.direction === 'out') sent.push(data.bytes);
    });
  });
  await page.bringToFront();
  await page
    .getByRole('button', { name: /^Go to verse/ })
    .first()
    .click();
  await expect
    .poll(() => standIns.evaluate(() => (globalThis as unknown as { sent: number[][] }).sent))
    .toContainEqual([0xc4, 40]);
});
