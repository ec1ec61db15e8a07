import type { Page } from '@playwright/test';
import { goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const tempo = async (page: Page) => Number(await page.getByTestId('tempo').textContent());
const keeper = (page: Page) => page.getByTestId('keeper');
const choose = async (page: Page, label: string, option: string) => {
  await page.getByRole('combobox', { name: label }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
  await page.keyboard.press('Escape');
};

test('a MIDI clock with jitter drives tempo light and arpeggio; when it stops the tempo goes on', async ({
  desk,
  rig,
  page,
  context,
  server,
}) => {
  await desk.openSong('Ferry to Nowhere');
  const drawer = await desk.open('Saloon reeds', 'Treatments');
  await drawer.getByRole('button', { name: 'Add arpeggio' }).click();
  await drawer.getByRole('combobox', { name: 'Rate of the arpeggio' }).click();
  await page.getByRole('option', { name: '1/8', exact: true }).click();
  await goToRoom(page, 'Rig', 'Controls');
  await choose(page, 'Who keeps time', 'stand-in clock');
  await desk.saved();

  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  await standIns.getByRole('slider', { name: 'Tempo of the clock that leads' }).fill('132');
  await standIns.getByRole('slider', { name: /^Jitter/ }).fill('3');
  await standIns.evaluate(() => {
    const struck: number[] = [];
    Object.assign(globalThis, { struck });
    const cable = new BroadcastChannel('pentachord cable');
    cable.onmessage = ({ data }) => {
      const [status, , velocity] = data.bytes;
      if (data.direction === 'out' && status >> 4 === 9 && velocity > 0)
        struck.push(data.at ?? Date.now());
    };
  });
  await page.bringToFront();
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(keeper(page)).toHaveText('waiting for stand-in clock');
  await standIns.getByRole('button', { name: 'Ticks' }).click();
  await expect(keeper(page)).toHaveText('following stand-in clock');
  await expect.poll(() => tempo(page)).toBeGreaterThan(131);
  // From the fourth beat on the tempo is known, and shown to a tenth.
  await expect.poll(async () => Math.abs((await tempo(page)) - 132)).toBeLessThanOrEqual(0.3);
  // The leader's tempo counts for more than a tap or the song's own.
  await expect(page.getByRole('button', { name: 'Tap' })).toBeDisabled();
  const light = page.locator('pc-tempo-box i.now');
  await expect(light).toHaveCount(1);

  const struck = () =>
    standIns.evaluate(() => (globalThis as unknown as { struck: number[] }).struck);
  for (const key of [60, 64, 67]) await rig.press(key, 100, 'lower');
  await expect.poll(async () => (await struck()).length, { timeout: 20_000 }).toBeGreaterThan(24);
  for (const key of [60, 64, 67]) await rig.release(key, 'lower');
  // Eighths at 132 a minute: on average to a thousandth, each within what is left of the jitter.
  const all = (await struck()).slice(2, 24);
  const eighth = 30_000 / 132;
  const mean = (all[all.length - 1] - all[0]) / (all.length - 1);
  expect(Math.abs(mean / eighth - 1)).toBeLessThan(0.002);
  const off = all.map((at, i) => Math.abs(at - all[0] - i * mean));
  expect(Math.max(...off)).toBeLessThan(3);

  await standIns.getByRole('button', { name: 'Ticks' }).click();
  await expect(keeper(page)).toHaveText('stand-in clock is silent: going on');
  expect(Math.abs((await tempo(page)) - 132)).toBeLessThanOrEqual(0.3);
});

test('clock goes out: a count-in is clicked and shown, then who follows starts; the click is heard', async ({
  desk,
  ear,
  page,
  context,
  server,
}) => {
  await desk.openSong('Copper Weather');
  await goToRoom(page, 'Rig', 'Controls');
  await choose(page, 'Who follows', 'stand-in follower');
  await desk.type('Level of the click, dB', '0');
  await desk.saved();
  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  const follower = standIns.getByRole('status').filter({ hasText: /hears/ });
  await page.bringToFront();
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(follower).toContainText('hears 92, stands');
  await ear.listen();
  await expect(page.getByTestId('cue')).toBeVisible();
  await page.keyboard.press('c');
  await expect(keeper(page)).toContainText('counting in');
  await ear.louder(-40);
  await expect(keeper(page)).toHaveText('own clock');
  await expect(follower).toContainText('plays');
  await ear.softer(-90);
  await page.keyboard.press('m');
  await ear.louder(-40);
  await expect(page.getByRole('button', { name: 'Click' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('m');
  await ear.softer(-90);
});

test('a tempo is tapped from a control while playing, and holds for the song tonight', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await goToRoom(page, 'Rig', 'Controls');
  await page.getByRole('button', { name: 'Touch a control for Tap the tempo' }).click();
  await rig.tapPad(5);
  await expect(page.getByText('pad 5', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Showtime' }).click();
  // Taps at 120 a minute, timed inside the page.
  await page.evaluate(async () => {
    const cable = new BroadcastChannel('pentachord cable');
    const begun = performance.now();
    for (let tap = 0; tap < 6; tap++) {
      while (performance.now() < begun + tap * 500) await new Promise((r) => setTimeout(r, 1));
      const at = performance.timeOrigin + begun + tap * 500;
      for (const velocity of [100, 0])
        cable.postMessage({
          direction: 'in',
          port: 'stand-in pads',
          bytes: [0x99, 40, velocity],
          at,
        });
    }
    cable.close();
  });
  await expect.poll(() => tempo(page)).toBeGreaterThan(117);
  expect(await tempo(page)).toBeLessThan(123);
  const tapped = await tempo(page);
  await page.keyboard.press('ArrowDown');
  await expect.poll(() => tempo(page)).toBe(124);
  await page.keyboard.press('ArrowUp');
  await expect.poll(() => tempo(page)).toBe(tapped);
});
