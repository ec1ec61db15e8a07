import { expect, test } from '../stage/test.js';

const [LEFT, RIGHT] = [45, 72];
const RIGHT_HARP = 'Right-hand harp';
const LEFT_HARP = 'Left-hand harp, dug in';
const ORGAN = 'Chapel organ';

test('one wire harp plays the whole right half at any touch, and joins the left only when dug in', async ({
  desk,
  rig,
}) => {
  await desk.openSong('Paper Lighthouse');
  for (const velocity of [20, 120]) {
    await rig.press(RIGHT, velocity);
    await expect.poll(() => desk.layerMeter(RIGHT_HARP)).toBeGreaterThan(5);
    expect(await desk.layerMeter(LEFT_HARP)).toBe(0);
    expect(await desk.layerMeter(ORGAN)).toBe(0);
    await rig.release(RIGHT);
    await desk.quiet();
  }
  await rig.press(LEFT, 76);
  await expect.poll(() => desk.layerMeter(ORGAN)).toBeGreaterThan(10);
  expect(await desk.layerMeter(LEFT_HARP)).toBe(0);
  await expect(desk.trace(LEFT_HARP)).toContainText('silences everything under 77');
  await rig.release(LEFT);
  await rig.press(LEFT, 112);
  await expect.poll(() => desk.layerMeter(LEFT_HARP)).toBeGreaterThan(10);
  await expect(desk.trace(RIGHT_HARP)).toContainText('below its keys');
  await expect.poll(() => desk.layerMeter(RIGHT_HARP)).toBe(0);
  await rig.release(LEFT);
});

test('the modulation wheel moves the level of the left one alone, though both are one sound', async ({
  desk,
  page,
  rig,
  ear,
}) => {
  await desk.openSong('Paper Lighthouse');
  const drawer = await desk.open(LEFT_HARP, 'Controls');
  await expect(drawer).toContainText(`Upper keys CC 1`);
  await expect(drawer).toContainText(`level of ${LEFT_HARP}`);
  await desk.type(`Upper keys CC 1 moves level of ${LEFT_HARP} from`, '-50');
  await page.keyboard.press('Escape');
  await drawer.getByRole('button', { name: /^Done/ }).click();
  const heard = async (wheel: number) => {
    await rig.control(1, wheel);
    // A level that is moved glides for some hundredths of a second, so that nothing clicks.
    await ear.pass(0.15);
    await rig.press(LEFT, 110);
    await rig.press(RIGHT, 110);
    const found = {
      left: await desk.loudest(LEFT_HARP),
      right: await desk.layerMeter(RIGHT_HARP),
    };
    await rig.release(LEFT);
    await rig.release(RIGHT);
    await desk.quiet();
    return found;
  };
  const down = await heard(0);
  const up = await heard(127);
  expect(down.left).toBeLessThan(20);
  expect(up.left).toBeGreaterThan(down.left + 30);
  expect(Math.abs(up.right - down.right)).toBeLessThan(8);
});

test('sharing costs once; each has its own range, touch, level and pan; own and shared again by one click', async ({
  desk,
  page,
}) => {
  await desk.openSong('Paper Lighthouse');
  const cost = page.getByTestId('cost');
  await expect(desk.row(RIGHT_HARP)).toContainText(`shared with ${LEFT_HARP}`);
  await cost.click();
  await expect(page.getByText('Wire harp, shared by 2 layers')).toBeVisible();
  await page.keyboard.press('Escape');

  const drawer = await desk.open(LEFT_HARP, 'Sound');
  await drawer.getByRole('button', { name: 'Make its own' }).click();
  await expect(drawer).toContainText(`Only ${LEFT_HARP} plays it`);
  await cost.click();
  const advice = page.getByRole('button', {
    name: new RegExp(`^Share ${RIGHT_HARP} and ${LEFT_HARP}: saves \\d+\\.\\d %$`),
  });
  await expect(advice).toBeVisible();
  await page.keyboard.press('Escape');

  await drawer.getByRole('button', { name: RIGHT_HARP, exact: true }).click();
  await expect(drawer).toContainText('One sound for');
  await drawer.getByRole('button', { name: /^Done/ }).click();
  await desk.type(`Level of ${LEFT_HARP}, dB`, '-12');
  await desk.type(`Pan of ${LEFT_HARP}`, '40R');
  await desk.type(`Transposition of ${LEFT_HARP}, semitones`, '12');
  await expect(desk.field(`Level of ${RIGHT_HARP}, dB`)).toHaveValue('−4.0');
  await expect(desk.field(`Pan of ${RIGHT_HARP}`)).toHaveValue('C');
  await expect(desk.field(`Transposition of ${RIGHT_HARP}, semitones`)).toHaveValue('0');
  await desk.saved();
});
