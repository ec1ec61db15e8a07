import { expect, test } from '../stage/test.js';

test('remarks stand on the field too, and each has its mend', async ({ desk, page }) => {
  await desk.openSong('Saltglass');
  const field = page.locator('pc-field');
  await desk.type('Transposition of Deep pad, semitones', '60');
  await expect(
    field.getByText('outside MIDI').or(field.getByText('out of its range')).first(),
  ).toBeVisible();
  await desk.mend(/^sound .* lower/);
  await expect(desk.field('Transposition of Deep pad, semitones')).not.toHaveValue('+60');
  await desk.type('Transposition of Deep pad, semitones', '0');

  await desk.type('Level of Deep pad, dB', '-40');
  await expect(field.getByText('unbalanced')).toBeVisible();
  await field.getByText('unbalanced').hover();
  await expect(field.locator('.noticed')).toHaveCount(1);
  await desk.mend(/^balance both sides/);
  await expect(field.getByText('unbalanced')).toHaveCount(0);

  await page.getByRole('button', { name: 'Mute Deep pad' }).click();
  await desk.mend(/^unmute it/);
  await expect(page.getByRole('button', { name: 'Mute Deep pad' })).toHaveAttribute(
    'aria-pressed',
    'false',
  );
});

test('what a patch costs is read against the budget, which can be set', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  const cost = page.getByTestId('cost');
  await expect(cost).toHaveText(/cost [1-9]\d* %/, { timeout: 30_000 });
  const percent = async () => Number(/(\d+) %/.exec(await cost.innerText())?.[1]);
  await cost.click();
  await expect(page.getByText('the whole patch')).toBeVisible();
  await desk.type('Budget: percent of one core that sound may use', '10');
  await page.keyboard.press('Escape');
  const tight = await percent();
  await cost.click();
  await desk.type('Budget: percent of one core that sound may use', '100');
  await page.keyboard.press('Escape');
  await expect.poll(percent).toBeLessThan(tight / 5);
  await page.getByRole('button', { name: 'More for Glass bells' }).click();
  const before = await percent();
  await page.getByRole('menuitem', { name: /^Duplicate/ }).click();
  // The copy shares the sound: nothing is added.
  await expect(page.locator('pc-ledger tbody tr')).toHaveCount(5);
  expect(await percent()).toBe(before);
  await cost.click();
  await page.getByRole('button', { name: 'Go by that' }).click();
  await page.keyboard.press('Escape');
});

test('balance and plumb line know a sound in the colour it has', async ({ desk, page, rig }) => {
  await desk.openSong('Paper Lighthouse');
  await page.getByRole('tab', { name: 'Plumb line' }).click();
  await rig.press(72, 80);
  await rig.release(72);
  const now = page.getByTestId('plumb-now');
  await expect(now).toHaveText(/^v80 −\d+\.\d LUFS$/);
  const loudness = async () => Number(/−(\d+\.\d)/.exec(await now.innerText())?.[1]);
  const before = await loudness();
  await desk.open('Right-hand harp', 'Balance and effects');
  await desk.type('Low shelf, dB', '-12');
  // Further below zero, so quieter.
  await expect.poll(loudness).toBeGreaterThan(before + 1);
  await desk.type('Low shelf, dB', '0');
  await expect.poll(loudness).toBe(before);
});
