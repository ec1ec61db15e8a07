import { expect, test } from '../stage/test.js';

test('a sound of one voice goes by the last key struck, and comes back to the one still held', async ({
  desk,
  page,
  rig,
  ear,
}) => {
  await desk.openSong('Saltglass');
  const drawer = await desk.open('Deep pad', 'Sound');
  await drawer.getByRole('radio', { name: 'one', exact: true }).click();
  await desk.type('Glide from note to note, seconds', '0.1');
  const voices = page.getByTestId('voices');
  await rig.press(40, 90);
  await expect(voices).toHaveText('1 voice');
  await rig.press(47, 90);
  await ear.pass(0.4);
  await expect(voices).toHaveText('1 voice');
  await rig.release(47);
  await ear.pass(0.3);
  await expect.poll(() => desk.layerMeter('Deep pad')).toBeGreaterThan(5);
  await rig.release(40);
  await desk.quiet();
});

test('notes that a sound has no voices for are cut off, and the ledger says so', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  const drawer = await desk.open('Deep pad', 'Sound');
  await drawer.getByRole('radio', { name: 'a number', exact: true }).click();
  await desk.type('Voices of the sound', '2');
  await drawer.getByRole('button', { name: /^Done/ }).click();
  for (const key of [40, 44, 47, 52]) await rig.press(key, 90);
  await expect(page.getByText('2 cut off')).toBeVisible();
  await expect(page.getByTestId('voices')).toHaveText('2 voices');
  for (const key of [40, 44, 47, 52]) await rig.release(key);
  await desk.quiet();
});

test('a send is heard as a tail after the note, a shelf changes how loud it is, and a knob moves a send', async ({
  desk,
  page,
  rig,
  ear,
}) => {
  await desk.openSong('Low Water Mark');
  await desk.select('Ebb bass');
  const drawer = await desk.open('Ebb bass', 'Balance and effects');
  const tail = async () => {
    await rig.press(40, 110);
    await ear.pass(0.35);
    await rig.release(40);
    await expect(page.getByTestId('voices')).toHaveText('0 voices');
    await ear.pass(0.35);
    const left = await desk.output();
    await desk.quiet();
    return left;
  };
  await desk.type('Send to the reverb, dB', '-60');
  const dry = await tail();
  await desk.type('Send to the reverb, dB', '6');
  const wet = await tail();
  expect(dry).toBeLessThan(3);
  expect(wet).toBeGreaterThan(dry + 8);
  await desk.type('Send to the reverb, dB', '-60');

  const loudest = async () => {
    await rig.press(40, 110);
    const found = await desk.loudest('Ebb bass');
    await rig.release(40);
    await desk.quiet();
    return found;
  };
  const flat = await loudest();
  await desk.type('Low shelf, dB', '-15');
  expect(await loudest()).toBeLessThan(flat - 8);
  await desk.type('Low shelf, dB', '0');

  await drawer.getByRole('button', { name: 'Tie a control to reverb send of Ebb bass' }).click();
  await rig.control(21, 3);
  // The knob takes the send over where that stands.
  await rig.control(21, 0);
  await rig.control(21, 127);
  expect(await tail()).toBeGreaterThan(dry + 4);
  await rig.control(21, 0);
  expect(await tail()).toBeLessThan(3);
});

test('sound that fails begins again within a second, and says so', async ({
  desk,
  page,
  rig,
  ear,
}) => {
  await desk.openSong('Saltglass');
  await ear.breakSounds();
  await rig.press(60, 100);
  await expect(page.getByRole('alert')).toHaveText('Sound failed and is back. Strike again.');
  await rig.release(60);
  await ear.listen();
  await rig.press(60, 100);
  await ear.louder(-45);
  await rig.release(60);
  await desk.quiet();
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(page.getByText('Sound back')).toBeVisible();
});

test('sound that breaks off is told in the header, where there is little room too', async ({
  desk,
  page,
  ear,
}) => {
  // Counted as a browser counts that gives its figures.
  await page.addInitScript(() => {
    const counted = { underrunEvents: 0 };
    Object.assign(globalThis, { counted });
    Object.defineProperty(AudioContext.prototype, 'playbackStats', { get: () => counted });
  });
  await page.reload();
  await desk.openSong('Saltglass');
  await page.setViewportSize({ width: 1024, height: 768 });
  await ear.listen();
  const told = page.getByText(/^Sound broke off (\d+) times$/);
  await expect(async () => {
    await page.evaluate(() => {
      (globalThis as unknown as { counted: { underrunEvents: number } }).counted.underrunEvents +=
        4;
    });
    expect(await told.evaluate((words) => words.clientWidth >= words.scrollWidth)).toBe(true);
  }).toPass();
  const part = page.locator('pc-sound-state');
  expect(await part.evaluate((whole) => whole.scrollWidth <= whole.clientWidth)).toBe(true);
});

test('a touch that comes before the window knows that it plays begins sound as well', async ({
  desk,
  page,
}) => {
  await page.addInitScript(() => {
    const request = navigator.locks.request.bind(navigator.locks);
    const touched = new Promise((resolve) => addEventListener('keyup', resolve, { once: true }));
    Object.assign(navigator.locks, {
      request: (...asked: Parameters<typeof request>) => touched.then(() => request(...asked)),
    });
  });
  await page.reload();
  await expect(page.locator('pc-ledger tbody tr').first()).toBeVisible();
  await page.keyboard.press('Shift');
  await desk.soundsReady();
});

test('whatever is played, nothing beyond full scale goes out, and a lamp tells', async ({
  desk,
  page,
  rig,
  ear,
}) => {
  await desk.openSong('Saltglass');
  const meter = page.getByRole('meter', { name: 'Output level' });
  // As one plays, there is room.
  for (const key of [40, 47, 60, 64, 67, 71]) await rig.press(key, 100);
  await ear.pass(1);
  await expect(meter).not.toHaveClass(/limited/);
  for (const key of [40, 47, 60, 64, 67, 71]) await rig.release(key);
  await desk.open('Deep pad', 'Balance and effects');
  await desk.type('Level, dB', '12');
  await expect(meter).not.toHaveClass(/limited/);
  await ear.listen();
  for (let key = 36; key < 72; key++) await rig.press(key, 127);
  await expect(meter).toHaveClass(/limited/);
  await ear.pass(0.5);
  for (let key = 36; key < 72; key++) await rig.release(key);
  await desk.quiet();
  const loudest = Math.max(...(await ear.heard()).map(({ peak }) => peak));
  expect(loudest).toBeGreaterThan(0.5);
  expect(loudest).toBeLessThanOrEqual(0.967);
});
