import { Desk } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

test('of two tabs the second to save is refused, with both versions shown, and nothing is lost', async ({
  desk,
  page,
  context,
  server,
}) => {
  await desk.openSong('Copper Weather');
  const otherPage = await context.newPage();
  const other = await Desk.visit(otherPage, server.origin);
  await expect(other.field('Level of Left-hand bass, dB')).toHaveValue('−4.0');

  const mine = desk.field('Level of Left-hand bass, dB');
  await mine.fill('-9');
  await mine.press('Enter');
  await desk.saved();
  const theirs = other.field('Level of Left-hand bass, dB');
  await theirs.fill('-2');
  await theirs.press('Enter');
  const dialog = otherPage.getByRole('alertdialog');
  await expect(dialog).toContainText('This patch was saved elsewhere since');
  await expect(dialog.getByTestId('mine')).toHaveText('-2');
  await expect(dialog.getByTestId('theirs')).toHaveText('-9');
  await expect(otherPage.getByTestId('saving')).toContainText('not saved');

  await dialog.getByRole('button', { name: 'Take the other' }).click();
  await expect(theirs).toHaveValue('−9.0');
  await other.saved();
  await theirs.fill('-3');
  await theirs.press('Enter');
  await other.saved();
  await mine.fill('-5');
  await mine.press('Enter');
  await page.getByRole('button', { name: 'Keep mine' }).click();
  await desk.saved();
  await otherPage.reload();
  await expect(theirs).toHaveValue('−5.0');
});

test('with the server gone, changes wait in the window, playing goes on, and they are saved when it is back', async ({
  page,
  rig,
  outer,
}) => {
  const desk = await Desk.visit(page, outer.origin);
  await desk.openSong('Saltglass');
  await outer.kill();
  const level = desk.field('Level of Felt piano, dB');
  await level.fill('-11');
  await level.press('Enter');
  await expect(page.getByTestId('saving')).toContainText('not saved: the server does not answer');
  await rig.press(72, 90);
  await expect.poll(() => desk.layerMeter('Felt piano')).toBeGreaterThan(10);
  await rig.release(72);
  await outer.restart();
  await desk.saved();
  await page.reload();
  await expect(level).toHaveValue('−11.0');
});
