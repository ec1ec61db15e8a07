import { expect, test } from '../stage/test.js';

const BELOW_SPLIT = 40;
const SILENT_KEY = 55;
const ABOVE_SPLIT = 64;

test('a key below the split sounds only the bass, one above only the others, a silent one nothing', async ({
  desk,
  rig,
}) => {
  await desk.openSong('Copper Weather');

  await rig.press(BELOW_SPLIT, 90);
  await expect.poll(() => desk.layerMeter('Left-hand bass')).toBeGreaterThan(20);
  await expect.poll(() => desk.output()).toBeGreaterThan(20);
  for (const other of ['Felt piano', 'Glass bells', 'Tide pad'])
    expect(await desk.layerMeter(other)).toBe(0);
  await rig.release(BELOW_SPLIT);
  await desk.quiet();
  await expect.poll(() => desk.layerMeter('Left-hand bass')).toBe(0);

  await rig.press(ABOVE_SPLIT, 80);
  await expect.poll(() => desk.layerMeter('Felt piano')).toBeGreaterThan(20);
  await expect.poll(() => desk.layerMeter('Glass bells')).toBeGreaterThan(10);
  expect(await desk.layerMeter('Left-hand bass')).toBe(0);
  await rig.release(ABOVE_SPLIT);
  await desk.quiet();

  await rig.press(SILENT_KEY, 80);
  await expect(desk.page.getByTestId('last-message')).toHaveText('G3 v80 · Upper keys · ch 1');
  await expect(desk.trace('Left-hand bass')).toContainText('above its keys, which end at F♯3');
  await expect(desk.trace('Felt piano')).toContainText('below its keys, which begin at A3');
  await expect(desk.page.getByText('No layer answers this note.')).toBeVisible();
  expect(await desk.output()).toBe(0);
  await expect(desk.page.getByTestId('voices')).toHaveText('0 voices');
});

test('mute, solo and the sustain pedal do what they say', async ({ desk, rig, page, ear }) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'Solo Tide pad' }).click();
  await rig.press(80, 70);
  await expect.poll(() => desk.layerMeter('Tide pad')).toBeGreaterThan(5);
  await expect(desk.trace('Felt piano')).toContainText('another layer is soloed');
  await page.getByRole('button', { name: 'Solo Tide pad' }).click();
  await page.getByRole('button', { name: 'Mute Tide pad' }).click();
  await rig.release(80);
  await rig.control(64, 127);
  await rig.press(80, 70);
  await rig.release(80);
  await expect(desk.trace('Tide pad')).toContainText('muted');
  await ear.pass(0.7);
  await expect(page.getByTestId('voices')).not.toHaveText('0 voices');
  await rig.control(64, 0);
  await desk.quiet();
});

test('an outside module hears MIDI bytes, and sounds', async ({
  desk,
  rig,
  page,
  context,
  server,
}) => {
  await desk.openSong('Ferry to Nowhere');
  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  await expect(standIns.getByRole('heading', { name: 'Harbour module' })).toBeVisible();
  await page.bringToFront();
  // The stand-in has its sound made when it is first asked for it: until then it is struck in vain.
  await expect(async () => {
    await rig.press(60, 100, 'lower');
    await expect(standIns.getByText('ch 3 C3 v100')).toBeVisible();
    await expect.poll(() => desk.output(), { timeout: 1500 }).toBeGreaterThan(10);
  }).toPass();
  await rig.release(60, 'lower');
  await expect(standIns.getByText('ch 3 C3 off')).toBeVisible();
  await desk.quiet();
});
