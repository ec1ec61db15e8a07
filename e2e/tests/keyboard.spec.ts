import type { Page } from '@playwright/test';
import { expect, test } from '../stage/test.js';

/** What has the focus: its name, else its text. */
function focused(page: Page): Promise<string> {
  return page.evaluate(() => {
    const { activeElement: element, body } = document;
    if (element === body) return '';
    return element?.getAttribute('aria-label') ?? element?.textContent?.trim() ?? '';
  });
}

async function tabUntil(page: Page, name: string): Promise<number> {
  for (let tabs = 1; tabs < 60; tabs++) {
    await page.keyboard.press('Tab');
    if ((await focused(page)) === name) return tabs;
  }
  throw new Error(`${name} cannot be reached`);
}

test('few Tabs lead to the patch’s menu, and arrow keys go along rows of buttons and of the ledger', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  await page.reload();
  await expect(desk.field('Level of Felt piano, dB')).toBeVisible();
  await page.keyboard.press('Tab');
  expect(await focused(page)).toBe('Skip to content');
  await page.keyboard.press('Enter');
  // Name, other patches or remarks, the toolbar.
  expect(await tabUntil(page, 'Arrange')).toBeLessThanOrEqual(4);
  await page.keyboard.press('End');
  expect(await focused(page)).toBe('Keyboard shortcuts');
  await page.keyboard.press('ArrowLeft');
  expect(await focused(page)).toBe('More');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menuitem', { name: 'New patch in this song' })).toBeVisible();
  await page.keyboard.press('Escape');
  expect(await focused(page)).toBe('More');

  const ribbon = page.getByRole('button', { name: 'Saltglass', exact: true });
  await ribbon.focus();
  await page.keyboard.press('ArrowRight');
  expect(await focused(page)).toBe('Copper Weather');

  const level = desk.field('Level of Deep pad, dB');
  await level.focus();
  await page.keyboard.press('Control+ArrowDown');
  await expect(desk.field('Level of Felt piano, dB')).toBeFocused();
  await page.keyboard.press('Tab');
  expect(await focused(page)).toBe('Pan of Felt piano');
  // Past the row there is no other row.
  for (const name of [
    'Mute Felt piano',
    'Solo Felt piano',
    'Open Felt piano',
    'More for Felt piano',
  ]) {
    await page.keyboard.press('Tab');
    expect(await focused(page)).toBe(name);
  }
  await page.keyboard.press('Tab');
  expect(await focused(page)).not.toContain('Swelling strings');
});

test('the drawer takes the focus, leaves the ledger in reach, and gives it back', async ({
  desk,
  page,
}) => {
  await desk.openSong('Copper Weather');
  const open = page.getByRole('button', { name: 'Open Felt piano' });
  await open.focus();
  await page.keyboard.press('Enter');
  const drawer = page.getByRole('region', { name: 'Felt piano' });
  await expect(drawer).toBeFocused();
  // The rows stand beside it: the drawer goes along to the layer that is selected there.
  await page.locator('pc-ledger tbody tr').nth(2).locator('td').first().click();
  await expect(page.getByRole('region', { name: 'Glass bells' })).toBeVisible();
  await page.locator('pc-ledger tbody tr').nth(1).locator('td').first().click();
  await drawer.getByRole('tab', { name: 'Sound' }).click();
  await page.keyboard.press('Escape');
  await expect(drawer).toHaveCount(0);
  await expect(open).toBeFocused();

  // Another patch closes it too, and nothing stays out of reach.
  await open.click();
  await expect(drawer).toBeVisible();
  await desk.openSong('Saltglass');
  await expect(page.locator('pc-layer-drawer')).toHaveCount(0);
  await page.getByRole('button', { name: 'Mute Deep pad' }).click();
  await expect(page.getByRole('button', { name: 'Mute Deep pad' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
});

test('after something is removed or made its own the focus stays near', async ({ desk, page }) => {
  await desk.openSong('Saltglass');
  await page.getByRole('button', { name: 'More for Felt piano' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: /^Remove/ }).press('Enter');
  await expect.poll(() => desk.layers()).toEqual(['Deep pad', 'Swelling strings']);
  await expect(desk.row('Swelling strings')).toBeFocused();

  await page.getByRole('button', { name: 'More for Deep pad' }).click();
  await page.getByRole('menuitem', { name: /^Duplicate/ }).click();
  await page.getByRole('button', { name: 'More for Deep pad 2' }).click();
  await page.getByRole('menuitem', { name: 'Make its own' }).click();
  await expect(desk.row('Deep pad')).not.toContainText('shared');
  const drawer = await desk.open('Deep pad', 'Sound');
  await drawer.getByRole('button', { name: 'Deep pad 2' }).press('Enter');
  await expect(drawer).toContainText('One sound for');
  await drawer.getByRole('button', { name: 'Make its own' }).press('Enter');
  await expect(drawer).toContainText('Only Deep pad plays it');
  expect(
    await page.evaluate(() => document.activeElement?.closest('pc-layer-drawer') !== null),
  ).toBe(true);
});

test('keys that a control needs are no shortcuts while it has the focus, and why one cannot be done is told', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  await desk.select('Felt piano');
  await page.getByRole('textbox', { name: 'Name of the patch' }).click();
  await tabUntil(page, 'Arrange');
  await page.keyboard.press('Delete');
  expect(await desk.layers()).toHaveLength(3);
  await page.getByRole('columnheader', { name: 'Level' }).click();
  await page.keyboard.press('Alt+ArrowDown');
  await expect(page.getByTestId('status')).toHaveText(
    'Move down: the ledger is sorted by something else.',
  );
  expect(await desk.layers()).toHaveLength(3);
});

test('numbers refuse what is beyond them, errors go when it is good, and Escape brings back what was there', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  const level = desk.field('Level of Felt piano, dB');
  for (const text of ['60', '0x10', '1e1']) {
    await level.fill(text);
    await level.press('Enter');
    await expect(level).toHaveAttribute('aria-invalid', 'true');
    await expect(level).toHaveValue(text);
  }
  await level.fill('-9');
  await expect(level).not.toHaveAttribute('aria-invalid');
  await level.press('Escape');
  await expect(level).toHaveValue('−3.0');
  await level.fill('60');
  await page.getByRole('textbox', { name: 'Name of the patch' }).click();
  await expect(page.getByTestId('status')).toContainText('“60” is more than there can be');
  await expect(level).toHaveValue('−3.0');

  for (const name of ['Name of the patch', 'Name of layer Felt piano']) {
    const box = page.getByRole('textbox', { name });
    const before = await box.inputValue();
    await box.fill('Something else');
    await box.press('Escape');
    await expect(box).toHaveValue(before);
  }
  const drawer = await desk.open('Felt piano', 'Treatments');
  await drawer.getByRole('button', { name: /chord/i }).click();
  const intervals = drawer.getByRole('textbox', { name: /Semitones of the chord/ });
  const before = await intervals.inputValue();
  await intervals.fill('0 four');
  await intervals.press('Enter');
  await expect(intervals).toHaveAttribute('aria-invalid', 'true');
  await intervals.press('Escape');
  await expect(intervals).toHaveValue(before);
  await expect(intervals).not.toHaveAttribute('aria-invalid');
});

test('small things: Enter takes the first found, ticking keeps the menu open, what was done is said', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('button', { name: 'Add layer' }).click();
  await page.getByRole('dialog').getByRole('searchbox').fill('tine');
  await page.keyboard.press('Enter');
  await expect.poll(() => desk.layers()).toContain('Tine piano');

  await page.getByRole('button', { name: /^Tine piano listens to/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Lower keys' }).click();
  const upper = page.getByRole('menuitemcheckbox', { name: 'Upper keys' });
  await expect(upper).toHaveAttribute('aria-checked', 'true');
  await upper.click();
  await expect(upper).toHaveAttribute('aria-checked', 'false');
  await page.keyboard.press('Escape');
  await expect(
    page.getByRole('button', { name: /^Tine piano listens to Lower keys/ }),
  ).toBeVisible();

  await page.getByRole('button', { name: 'More for Tine piano' }).click();
  await page.getByRole('menuitem', { name: /^Keep in my sounds/ }).click();
  await expect(page.getByRole('dialog').getByRole('textbox', { name: 'called' })).toBeFocused();
  await page.keyboard.type('Dug-in tine');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('status')).toHaveText('Kept “Dug-in tine” in my sounds.');

  // Once more, with Ctrl: nothing is selected.
  await desk
    .row('Tine piano')
    .locator('td')
    .first()
    .click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Arrange' }).click();
  await expect(
    page.getByText(/^No layer is selected: .* about the 3 layers of the keyboard shown/),
  ).toBeVisible();
  await expect(
    page.getByRole('menuitem', { name: 'Keys: close gaps, remove overlaps' }),
  ).toBeEnabled();
});
