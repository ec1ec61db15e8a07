import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { Desk, goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const LEVELS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** What a page, or the named part of it, does against WCAG 2.2 AA, each with where it was found. */
async function violationsOf(page: Page, where: string, part?: string): Promise<string[]> {
  // What is fading in has not the colours yet that it will have.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter(({ effect }) => Number.isFinite(effect?.getComputedTiming().endTime))
        .map((animation) => animation.finished.catch(() => undefined)),
    ),
  );
  // What is well is counted only: telling where each of it stands takes far longer than looking.
  const builder = new AxeBuilder({ page })
    .options({ resultTypes: ['violations'] })
    .withTags(LEVELS);
  const { violations } = await (part ? builder.include(part) : builder).analyze();
  return violations.map(
    ({ id, nodes }) => `${where}: ${id} at ${nodes.map((n) => n.target.join(' ')).join(', ')}`,
  );
}

test('Patch, Sounds, the picker, Showtime and the stand-ins keep to WCAG 2.2 AA', async ({
  desk,
  page,
  server,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'B Felt piano' }).click();
  const found = await violationsOf(page, 'Patch');
  await page.keyboard.press('w');
  await expect(page.getByRole('dialog').getByRole('searchbox')).toBeFocused();
  found.push(...(await violationsOf(page, 'Picker', '.cdk-overlay-container')));
  await page.keyboard.press('Escape');
  await goToRoom(page, 'Library', 'Sounds');
  await page.locator('li[data-item="Warm pad"] button.row').click();
  found.push(...(await violationsOf(page, 'Sounds')));
  await goToRoom(page, 'Library', 'Recordings');
  await expect(page.locator('pc-recordings-view .row').nth(3)).toBeVisible();
  found.push(...(await violationsOf(page, 'Recordings')));
  await goToRoom(page, 'Library', 'Patterns');
  await page.locator('[data-pattern]').first().locator('.row').click();
  await expect(page.locator('pc-note-chart svg[role=group]')).toBeVisible();
  found.push(...(await violationsOf(page, 'Patterns')));
  await page.getByRole('button', { name: 'Low Water Mark', exact: true }).click();
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await page.getByRole('link', { name: 'Band' }).click();
  await expect(page.locator('pc-key-flags button').first()).toBeVisible();
  found.push(...(await violationsOf(page, 'Band')));
  for (const tab of ['Accompanist', 'All of them']) {
    await page.getByRole('tab', { name: tab }).click();
    found.push(...(await violationsOf(page, `Band, ${tab}`)));
  }
  await page.goto(`${server.origin}/library/sounds/demo-night-bells/zones`);
  await page.locator('[data-zone="night-bell-E4-middle"]').click();
  await expect(page.locator('pc-zone-panel')).toBeVisible();
  found.push(...(await violationsOf(page, 'Zones')));
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(page.getByTestId('cue')).toBeVisible();
  found.push(...(await violationsOf(page, 'Showtime')));
  await page.goto(`${server.origin}/stand-ins`);
  await expect(page.getByRole('heading', { name: 'Pedals' })).toBeVisible();
  found.push(...(await violationsOf(page, 'Stand-ins')));
  expect(found).toEqual([]);
});

test('Showtime in its three versions, its list and its lock, and Controls keep to WCAG 2.2 AA', async ({
  desk,
  page,
}) => {
  await desk.openSong('Ferry to Nowhere');
  await goToRoom(page, 'Rig', 'Controls');
  await expect(page.getByRole('combobox', { name: 'Who keeps time' })).toBeVisible();
  const found = await violationsOf(page, 'Controls');
  await page.getByRole('link', { name: 'Showtime' }).click();
  await page.getByRole('button', { name: 'Softer: Engine-room bass' }).click();
  await page.getByRole('button', { name: 'Begin the show' }).click();
  await page.getByRole('menuitem', { name: /^From here/ }).click();
  await page.getByRole('button', { name: 'Lift the lock' }).click();
  for (const look of ['dark', 'dim', 'bright']) {
    await expect(page.locator(`pc-showtime-view.look-${look}`)).toBeVisible();
    found.push(...(await violationsOf(page, look)));
    await page.keyboard.press('/');
    await expect(page.getByRole('dialog').getByRole('textbox')).toBeFocused();
    found.push(...(await violationsOf(page, `list, ${look}`, '.cdk-overlay-container')));
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await page.getByRole('button', { name: /^Brightness/ }).click();
  }
  await page.getByRole('link', { name: 'Desk' }).click();
  await page.getByRole('button', { name: '1 changed while playing' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  found.push(...(await violationsOf(page, 'changed while playing', '.cdk-overlay-container')));
  expect(found).toEqual([]);
});

test('every part of the layer drawer keeps to WCAG 2.2 AA', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  const found: string[] = [];
  for (const tab of ['Touch', 'Sound', 'Balance and effects', 'Treatments', 'Controls']) {
    const drawer = await desk.open('Felt piano', tab);
    if (tab === 'Treatments') await drawer.getByRole('button', { name: 'Add arpeggio' }).click();
    if (tab === 'Touch') await expect(drawer.getByRole('slider')).toHaveCount(3);
    found.push(...(await violationsOf(page, tab, 'pc-layer-drawer')));
    await drawer.getByRole('button', { name: /^Done/ }).click();
  }
  expect(found).toEqual([]);
});

test('every menu, panel and dialog of the Patch keeps to WCAG 2.2 AA', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  await desk.type('Level of Left-hand bass, dB', '-30');
  const found: string[] = [];
  const look = async (where: string, opens: () => Promise<void>, role: string) => {
    await opens();
    const overlay = page.locator(`.cdk-overlay-container [role="${role}"]`).first();
    await expect(overlay).toBeVisible();
    found.push(...(await violationsOf(page, where, '.cdk-overlay-container')));
    await page.keyboard.press('Escape');
    await expect(overlay).toHaveCount(0);
  };
  const button = (name: string) => () =>
    page.getByRole('button', { name, exact: true }).first().click();
  await look('menu of a layer', button('More for Felt piano'), 'menu');
  await look('menu of the patch', button('More'), 'menu');
  await look('arranging', button('Arrange'), 'menu');
  await look('other patches', button('Other patches'), 'menu');
  await look('cost', () => page.getByTestId('cost').click(), 'dialog');
  await look('balance', button('Balance'), 'dialog');
  await look('shortcuts', () => page.keyboard.press('Shift+?'), 'dialog');
  const listening = page.getByRole('button', { name: /^Felt piano listens to/ });
  await look('keyboards of a layer', () => listening.click(), 'menu');
  expect(found).toEqual([]);
});

test('Shows, Running order, Song and the beginning keep to WCAG 2.2 AA', async ({
  page,
  server,
}) => {
  const found: string[] = [];
  await page.goto(server.origin);
  await expect(page.getByRole('button', { name: 'Open the demo show' })).toBeVisible();
  found.push(...(await violationsOf(page, 'the beginning')));
  await page.goto(`${server.origin}/shows`);
  await page.getByRole('button', { name: 'Copy for another night' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  found.push(...(await violationsOf(page, 'a copy', '.cdk-overlay-container')));
  await page.getByRole('button', { name: 'Make the copy' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  found.push(...(await violationsOf(page, 'Shows')));
  await page.getByRole('link', { name: 'Running order' }).click();
  await page
    .getByRole('table')
    .getByRole('row', { name: /Nine Bells/ })
    .click();
  await page.getByRole('spinbutton', { name: 'Tempo tonight' }).fill('126');
  await page.keyboard.press('Enter');
  found.push(...(await violationsOf(page, 'Running order')));
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  await new Desk(page).openSong('Copper Weather');
  await expect(page.locator('pc-cue-line .mark')).toHaveCount(5);
  found.push(...(await violationsOf(page, 'Song')));
  await page.getByRole('radio', { name: 'Table' }).click();
  found.push(...(await violationsOf(page, 'Song as a table', 'pc-song-view')));
  await page.getByRole('button', { name: 'Start from …' }).first().click();
  await page.getByRole('option', { name: /^Organ/ }).click();
  found.push(...(await violationsOf(page, 'Start from', '.cdk-overlay-container')));
  expect(found).toEqual([]);
});
