import { expect, test } from '../stage/test.js';

test('a cue says what a hand has changed since, takes it over or puts it back, by one key', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Copper Weather');
  const drawer = await desk.open('Felt piano', 'Balance and effects');
  await drawer.getByRole('button', { name: 'Tie a control to level of Felt piano' }).click();
  await rig.bytes('stand-in pads', [0xb9, 20, 64]);
  await expect(page.getByTestId('status')).toContainText('Tied');
  await drawer.getByRole('button', { name: /^Done/ }).click();

  await page.getByRole('link', { name: 'Song', exact: true }).click();
  await page.getByRole('button', { name: /^Go to verse/ }).click();
  const since = page.getByTestId('since');
  await expect(since).toHaveCount(0);
  await page.keyboard.press('t');
  await expect(page.getByTestId('status')).toContainText('Nothing has changed since verse');
  // The hand comes by where the cue has put it, and takes it along.
  for (const value of [0, 127]) await rig.bytes('stand-in pads', [0xb9, 20, value]);
  await expect(since).toContainText('level −2.5 dB → 0.0 dB');
  await page.keyboard.press('p');
  await expect(since).toHaveCount(0);
  for (const value of [0, 127]) await rig.bytes('stand-in pads', [0xb9, 20, value]);
  await expect(since).toContainText('→ 0.0 dB');
  await page.keyboard.press('t');
  await expect(since).toHaveCount(0);
  await expect(page.getByTestId('status')).toContainText('verse is now as you hear it');
  await expect(page.getByRole('listitem', { name: 'verse', exact: true })).toContainText('0.0');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('listitem', { name: 'verse', exact: true })).toContainText('−2.5');
});

test('the heading says what is edited: in the cue’s balance a level is the cue’s, all else the patch’s', async ({
  desk,
  page,
  request,
  server,
}) => {
  await desk.openSong('Copper Weather');
  const level = desk.field('Level of Felt piano, dB');
  const written = await level.inputValue();
  await page.getByRole('radio', { name: 'cue: intro' }).click();
  await desk.type('Level of Felt piano, dB', '-11');
  await page
    .getByRole('button', { name: 'Mute Velvet bells' })
    .or(page.getByRole('button', { name: /^Mute / }).nth(2))
    .first()
    .click();
  await desk.type('Pan of Felt piano', '30L');
  await page.getByRole('radio', { name: 'as written' }).click();
  await expect(level).toHaveValue(written);
  await expect(desk.field('Pan of Felt piano')).toHaveValue('30L');
  await page.getByRole('radio', { name: 'cue: intro' }).click();
  await expect(level).toHaveValue('−11.0');
  await desk.saved();
  const cue = await (
    await request.get(`${server.origin}/api/cues/demo-copper-weather-cue-1`)
  ).json();
  expect(cue.value.balance['demo-copper-weather-under-2'].level).toBe(-11);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(level).not.toHaveValue('−11.0');
});

test('cues are carried along the song, copied, put in order, renamed and removed', async ({
  desk,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  const marks = page.locator('pc-cue-line .mark');
  const names = () => marks.locator('b');
  await expect(names()).toHaveText(['intro', 'verse', 'second verse', 'lift', 'quiet']);
  const box = await marks.nth(1).boundingBox();
  const line = await page.locator('pc-cue-line').boundingBox();
  if (!box || !line) throw new Error('the line is not there');
  await page.mouse.move(box.x + 8, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + 12, { steps: 6 });
  await page.mouse.move(line.x + line.width / 2, box.y + 12, { steps: 6 });
  await page.mouse.up();
  await expect(names()).toHaveText(['intro', 'second verse', 'verse', 'lift', 'quiet']);
  await marks.nth(2).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.getByRole('radio', { name: 'Table' }).click();
  await expect(desk.field('Time of verse')).toHaveValue(/^3:\d\d$/);
  await page.getByRole('button', { name: 'Copy lift' }).click();
  await page.getByRole('button', { name: 'Move up lift 2' }).click();
  await page.getByRole('textbox', { name: 'Name of cue 4' }).fill('before the lift');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Remove quiet' }).click();
  await expect(names()).toHaveText(['intro', 'second verse', 'verse', 'before the lift', 'lift']);
  const tempo = desk.field('Tempo of lift');
  await tempo.fill('100');
  await tempo.press('Enter');
  await page.getByRole('button', { name: 'Go to lift' }).click();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Control+z');
  await expect(names()).toHaveText(['intro', 'second verse', 'verse', 'lift', 'quiet']);
  await desk.saved();
});

test('a tempo is tapped: it averages, and shows what it hears', async ({ desk, page }) => {
  await desk.openSong('Saltglass');
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  const tap = page.getByRole('button', { name: 'Tap the tempo of Saltglass' });
  // Taps at times of their own, so that no machine is too slow for them.
  await tap.evaluate((button) => {
    for (const at of [1000, 1500, 2010, 2500]) {
      const event = new PointerEvent('pointerdown', { bubbles: true });
      Object.defineProperty(event, 'timeStamp', { value: at });
      button.dispatchEvent(event);
    }
  });
  await expect(tap).toContainText('♩ 120');
  await expect(desk.field('Tempo, beats a minute')).toHaveValue('120');
  const tempo = desk.field('Tempo, beats a minute');
  await tempo.fill('0');
  await tempo.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Type 20 to 400');
});

test('a starting point is heard on the lower keys too before it is taken, and then as it is meant', async ({
  desk,
  rig,
  ear,
  page,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  await page.getByRole('button', { name: 'Start from …' }).first().click();
  await page.getByRole('option', { name: /^Bells on top/ }).click();
  await desk.soundsReady();
  await ear.listen();
  await rig.press(72, 100, 'lower');
  await ear.louder(-50);
  await rig.release(72, 'lower');
  await page.getByRole('button', { name: 'Take Bells on top' }).click();
  await expect(page.getByTestId('status')).toContainText(
    '“Bells on top” is now a patch of Saltglass',
  );
  await desk.quiet();
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await rig.press(72, 100, 'lower');
  await expect(desk.trace('Bells')).toContainText('listens to Upper keys');
  await rig.release(72, 'lower');
});
