import { expect, test } from '../stage/test.js';

const [LEFT, RIGHT] = [45, 72];
const RIGHT_TINE = 'Right-hand tine';
const LEFT_TINE = 'Left-hand tine, dug in';
const PAD = 'Left-hand pad';

test('one electric piano plays the whole right half at any touch, and joins the left only when dug in', async ({
  desk,
  rig,
}) => {
  await desk.openSong('Paper Lighthouse');
  for (const velocity of [20, 120]) {
    await rig.press(RIGHT, velocity);
    await expect.poll(() => desk.layerMeter(RIGHT_TINE)).toBeGreaterThan(5);
    expect(await desk.layerMeter(LEFT_TINE)).toBe(0);
    expect(await desk.layerMeter(PAD)).toBe(0);
    await rig.release(RIGHT);
    await desk.quiet();
  }
  await rig.press(LEFT, 76);
  await expect.poll(() => desk.layerMeter(PAD)).toBeGreaterThan(10);
  expect(await desk.layerMeter(LEFT_TINE)).toBe(0);
  await expect(desk.trace(LEFT_TINE)).toContainText('silences everything under 77');
  await rig.release(LEFT);
  await rig.press(LEFT, 112);
  await expect.poll(() => desk.layerMeter(LEFT_TINE)).toBeGreaterThan(10);
  await expect(desk.trace(RIGHT_TINE)).toContainText('below its keys');
  await expect.poll(() => desk.layerMeter(RIGHT_TINE)).toBe(0);
  await rig.release(LEFT);
});

test('the modulation wheel moves the level of the left one alone, though both are one sound', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Paper Lighthouse');
  const drawer = await desk.open(LEFT_TINE, 'Controls');
  await expect(drawer).toContainText(`Upper keys CC 1`);
  await expect(drawer).toContainText(`level of ${LEFT_TINE}`);
  await desk.type(`Upper keys CC 1 moves level of ${LEFT_TINE} from`, '-50');
  await page.keyboard.press('Escape');
  await drawer.getByRole('button', { name: /^Close/ }).click();
  const heard = async (wheel: number) => {
    await rig.control(1, wheel);
    // A level that is moved glides for some hundredths of a second, so that nothing clicks.
    await page.waitForTimeout(150);
    await rig.press(LEFT, 110);
    await rig.press(RIGHT, 110);
    const found = {
      left: await desk.loudest(LEFT_TINE),
      right: await desk.layerMeter(RIGHT_TINE),
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
  await expect(desk.row(RIGHT_TINE)).toContainText(`shared with ${LEFT_TINE}`);
  await cost.click();
  await expect(page.getByText('Tine piano, shared by 2 layers')).toBeVisible();
  await page.keyboard.press('Escape');

  const drawer = await desk.open(LEFT_TINE, 'Sound');
  await drawer.getByRole('button', { name: 'Make its own' }).click();
  await expect(drawer).toContainText(`Only ${LEFT_TINE} plays it`);
  await cost.click();
  const advice = page.getByRole('button', {
    name: new RegExp(`^Share ${RIGHT_TINE} and ${LEFT_TINE}: saves \\d+\\.\\d %$`),
  });
  await expect(advice).toBeVisible();
  await page.keyboard.press('Escape');

  await drawer.getByRole('button', { name: RIGHT_TINE, exact: true }).click();
  await expect(drawer).toContainText('One sound for');
  await drawer.getByRole('button', { name: /^Close/ }).click();
  await desk.type(`Level of ${LEFT_TINE}, dB`, '-12');
  await desk.type(`Pan of ${LEFT_TINE}`, '40R');
  await desk.type(`Transposition of ${LEFT_TINE}, semitones`, '12');
  await expect(desk.field(`Level of ${RIGHT_TINE}, dB`)).toHaveValue('−4.0');
  await expect(desk.field(`Pan of ${RIGHT_TINE}`)).toHaveValue('C');
  await expect(desk.field(`Transposition of ${RIGHT_TINE}, semitones`)).toHaveValue('0');
  await desk.saved();
});
