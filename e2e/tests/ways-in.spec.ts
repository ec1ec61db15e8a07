import { chooseMore } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

test('bytes with running status, real-time bytes between, and broken ones come through as they should', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Saltglass');
  const last = page.getByTestId('last-message');
  await rig.bytes('stand-in upper keys', [0x90, 60, 0xf8]);
  await rig.bytes('stand-in upper keys', [70, 64, 90]);
  await expect(last).toHaveText('E4 v90 · Upper keys · ch 1');
  await rig.bytes('stand-in upper keys', [0xf4, 12, 0x90, 0x80, 60, 0, 64, 0]);
  await expect(last).toHaveText('E4 off · Upper keys · ch 1');
  await desk.quiet();
});

test('the keys on screen play harder towards the front', async ({ desk, page }) => {
  await desk.openSong('Saltglass');
  const key = page.locator('pc-patch-view pc-keyboard rect[data-key="60"]');
  const box = await key.boundingBox();
  if (!box) throw new Error('the key is not there');
  const velocityAt = async (share: number) => {
    await page.mouse.move(box.x + box.width / 2, box.y + box.height * share);
    await page.mouse.down();
    await expect(page.getByTestId('last-message')).toHaveText(/C4 v\d+/);
    const text = await page.getByTestId('last-message').textContent();
    await page.mouse.up();
    await expect(page.getByTestId('last-message')).toHaveText(/C4 off/);
    return Number(/v(\d+)/.exec(text ?? '')?.[1]);
  };
  const [soft, strong] = [await velocityAt(0.7), await velocityAt(0.95)];
  expect(soft).toBeLessThan(strong);
  expect(strong).toBeGreaterThan(110);
  await desk.quiet();
});

test('the computer’s keys play when asked to, and are shortcuts otherwise', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  await chooseMore(page, /Type to play/);
  await page.keyboard.down('d');
  await expect(page.getByTestId('last-message')).toHaveText('E4 v80 · Upper keys · ch 1');
  await expect.poll(() => desk.layerMeter('Felt piano')).toBeGreaterThan(10);
  await page.keyboard.up('d');
  await page.keyboard.press('Escape');
  await desk.select('Felt piano');
  await page.keyboard.press('d');
  await expect(page.locator('pc-ledger tbody tr')).toHaveCount(4);
});

test('the stand-ins’ window plays this one: keys, pads, pedals and raw bytes', async ({
  desk,
  page,
  context,
  server,
}) => {
  await desk.openSong('Saltglass');
  const last = page.getByTestId('last-message');
  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  await standIns
    .locator('rect[data-key="72"]')
    .first()
    .dispatchEvent('pointerdown', { pointerId: 1 });
  await standIns.getByRole('button', { name: 'Sustain pedal' }).dispatchEvent('pointerdown');
  await expect(last).toHaveText('CC 64 = 127 · Upper keys · ch 1');
  await standIns.getByRole('button', { name: 'pad 1', exact: true }).dispatchEvent('pointerdown');
  await expect(last).toHaveText('C2 v100 · Pads · ch 10');
  const bytes = standIns.getByRole('textbox', { name: 'Bytes in hex' });
  await bytes.fill('90 40 zz');
  await standIns.getByRole('button', { name: 'Send' }).click();
  await expect(standIns.getByRole('alert')).toContainText('“zz” is not a byte');
  await bytes.fill('90 40 50');
  await standIns.getByRole('button', { name: 'Send' }).click();
  await expect(last).toHaveText('E4 v80 · Upper keys · ch 1');
});
