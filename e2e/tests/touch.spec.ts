import { expect, test } from '../stage/test.js';

test('the curve is pulled by its points, by hand and by arrow keys, and ready shapes replace it', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  const drawer = await desk.open('Felt piano', 'Touch');
  const chart = drawer.getByRole('img', { name: /^Touch: pp gives 16,/ });
  await expect(chart).toBeVisible();
  const low = drawer.getByRole('slider', { name: 'Where the curve begins' });
  const box = await low.boundingBox();
  const plot = await chart.locator('.apexcharts-grid').boundingBox();
  if (!box || !plot) throw new Error('the curve is not there');
  // Strength 1 to 127 lies over the whole width of the plot.
  await page.mouse.move(box.x + 8, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + 8 + (plot.width * 40) / 126, box.y + 8, { steps: 5 });
  await page.mouse.up();
  const from = Number(await desk.field('Lowest velocity in').inputValue());
  expect(Math.abs(from - 41)).toBeLessThanOrEqual(2);
  await drawer.getByRole('slider', { name: 'Where the curve ends' }).press('ArrowDown');
  await expect(desk.field('Highest velocity out')).toHaveValue('126');
  await drawer.getByRole('slider', { name: 'How the curve bends' }).press('ArrowUp');
  await expect(desk.field('Bend in percent, softer above 0')).toHaveValue('5');
  await drawer.getByRole('option', { name: 'softer', exact: true }).click();
  await expect(desk.field('Lowest velocity in')).toHaveValue('1');
  await rig.press(72, 64);
  // Bend 0.5 makes 90 of 64.
  await expect(desk.trace('Felt piano')).toContainText('sounds C5 at 90');
  await rig.release(72);
  await expect(
    drawer.locator('.apexcharts-series[seriesName="playedxtoday"] path'),
  ).not.toHaveCount(0);
  await desk.saved();
});

test('a lift is tied to a pedal by touching it, and switched on and off while playing', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  const drawer = await desk.open('Felt piano', 'Touch');
  const tie = drawer.getByRole('button', { name: 'Tie a control to lift of Felt piano' });
  await tie.click();
  await expect(page.getByText('move a control…')).toBeVisible();
  await rig.control(20, 5);
  await expect(
    drawer.getByRole('button', { name: /^lift of Felt piano is moved by Upper keys CC 20/ }),
  ).toBeVisible();
  const soundsAt = async (velocity: number, out: number) => {
    await rig.press(72, velocity);
    await expect(desk.trace('Felt piano')).toContainText(`sounds C5 at ${out}`);
    await rig.release(72);
  };
  await soundsAt(1, 1);
  await rig.control(20, 127);
  await expect(drawer.getByText('switched on by hand')).toBeVisible();
  await soundsAt(1, 55);
  await soundsAt(127, 127);
  await rig.control(20, 0);
  await expect(drawer.getByText('switched on by hand')).toHaveCount(0);
  await soundsAt(1, 1);
  await desk.saved();
  await page.reload();
  await desk.soundsReady();
  await rig.control(20, 100);
  await soundsAt(1, 55);
});

test('what a pad does already is told, for the show or the patch, and it is tied when struck again', async ({
  desk,
  rig,
}) => {
  await desk.openSong('Saltglass');
  const drawer = await desk.open('Felt piano', 'Touch');
  const tie = drawer.getByRole('button', { name: 'Tie a control to lift of Felt piano' });
  await tie.click();
  await rig.tapPad(4);
  await expect(
    drawer.getByText(
      'pad 4 goes to the next cue. Move it again to have it do this instead while this patch is played.',
    ),
  ).toBeVisible();
  await expect(tie).toBeVisible();
  await rig.tapPad(7);
  const tied = drawer.getByRole('button', { name: /^lift of Felt piano is moved by pad 7/ });
  await expect(tied).toBeVisible();
  await expect(drawer.getByText(/goes to the next cue/)).toHaveCount(0);
  await drawer.getByRole('button', { name: /^Done/ }).click();
  const other = await desk.open('Deep pad', 'Touch');
  await other.getByRole('button', { name: 'Tie a control to lift of Deep pad' }).click();
  await rig.tapPad(7);
  await expect(
    other.getByText(/^pad 7 moves lift of Felt piano on and off. Move it again/),
  ).toBeVisible();
  await expect(async () => {
    await rig.tapPad(7);
    await expect(
      other.getByRole('button', { name: /^lift of Deep pad is moved by pad 7/ }),
    ).toBeVisible({ timeout: 1000 });
  }).toPass();
});
