import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { bytesOfTake } from '@pentachord/core/exchange';
import { A_NIGHT } from '../stage/a-night.js';
import { Desk, goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const FOLDER = join(dirname(fileURLToPath(import.meta.url)), '../../docs/screenshots');
const file = (name: string) => ({ path: join(FOLDER, `${name}.png`) });
/** Milliseconds in which meters rise and lists settle. */
const SETTLED = 400;

test('patches', async ({ desk, rig, page }) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'second verse' }).click();
  await page.getByRole('button', { name: 'B Felt piano' }).click();
  for (const [key, velocity] of [
    [40, 84],
    [64, 78],
    [67, 80],
    [76, 92],
  ])
    await rig.press(key, velocity);
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('patch'));
  for (const key of [40, 64, 67, 76]) await rig.release(key);
});

test('writing the show', async ({ desk, rig, page }) => {
  await desk.openSong('Copper Weather');
  const drawer = await desk.open('Felt piano', 'Balance and effects');
  await drawer.getByRole('button', { name: 'Tie a control to level of Felt piano' }).click();
  await rig.bytes('stand-in pads', [0xb9, 20, 64]);
  await drawer.getByRole('button', { name: /^Done/ }).click();
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  await page.getByRole('button', { name: /^Go to second verse/ }).click();
  for (const value of [0, 112]) await rig.bytes('stand-in pads', [0xb9, 20, value]);
  await expect(page.getByTestId('since')).toBeVisible();
  await page.mouse.move(640, 780);
  await page.waitForTimeout(2500);
  await page.screenshot(file('song'));
  await page.keyboard.press('p');

  await page.getByRole('link', { name: 'Running order' }).click();
  const box = page.getByRole('searchbox', { name: /^A song’s name/ });
  for (const name of ['Gullwing', 'Kelp and Wire']) {
    await box.fill(name);
    await box.press('Enter');
  }
  const row = (song: string) =>
    page.getByRole('table').getByRole('row', { name: new RegExp(song) });
  await row('Kelp and Wire').click();
  await page.keyboard.press('Delete');
  await row('Gullwing').click();
  await page.getByRole('switch', { name: 'encore, not counted' }).click();
  await row('Nine Bells').click();
  const tempo = page.getByRole('spinbutton', { name: 'Tempo tonight' });
  await tempo.fill('126');
  await tempo.press('Enter');
  const note = page.getByRole('textbox', { name: 'Note for tonight' });
  await note.fill('no drums in the first verse');
  await note.press('Tab');
  await page.mouse.move(640, 780);
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('running-order'));

  await page.getByRole('link', { name: 'Shows' }).click();
  await page.getByRole('button', { name: 'Copy for another night' }).click();
  await page.getByRole('button', { name: 'Make the copy' }).click();
  await page.getByRole('button', { name: /^Open Night Tide at Pier Nine 2$/ }).click();
  await row('Lantern Song').click();
  for (let up = 0; up < 3; up++) await page.keyboard.press('Alt+ArrowUp');
  await page.getByRole('link', { name: 'Shows' }).click();
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('shows'));
});

test('Sounds', async ({ desk, rig, page }) => {
  await desk.openSong('Saltglass');
  await goToRoom(page, 'Library', 'Sounds');
  await desk.soundsReady();
  await page.locator('li[data-item="Glass bells"] button.row').click();
  await rig.press(72, 90);
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('sounds'));
});

test('Showtime, Controls and the stand-ins', async ({ desk, rig, page, server }) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'second verse' }).click();
  await goToRoom(page, 'Rig', 'Controls');
  for (const [what, bytes] of [
    ['First cue of the next song', [0x99, 36, 100]],
    ['Song by its number', [0xc9, 2]],
    ['Tap the tempo', [0x99, 40, 100]],
  ] as const) {
    await page.getByRole('button', { name: `Touch a control for ${what}` }).click();
    await rig.bytes('stand-in pads', [...bytes]);
  }
  await page.getByRole('button', { name: 'Touch a control that trims' }).click();
  await rig.bytes('stand-in pads', [0xb9, 20, 2]);
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('controls'));
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(page.getByTestId('cue')).toHaveText('second verse');
  await page.evaluate(() => {
    const begunAt = Date.now() - 1000 * (60 * 9 + 12);
    const value = [{ showId: 'demo-show', begunAt, trims: [], songs: [] }];
    localStorage.setItem('pentachord nights', JSON.stringify({ at: Date.now() + 10, value }));
    // What a machine can bear that does nothing else meanwhile.
    const machine = JSON.parse(localStorage.getItem('pentachord machine') ?? '{}');
    machine.chosen = 0.5;
    localStorage.setItem('pentachord machine', JSON.stringify(machine));
  });
  await page.reload();
  await page.mouse.click(640, 330);
  await expect(page.getByTestId('cue')).toHaveText('second verse');
  await page.evaluate(() => {
    const machine = JSON.parse(localStorage.getItem('pentachord machine') ?? '{}');
    localStorage.setItem('pentachord machine', JSON.stringify({ ...machine, chosen: null }));
  });
  await page.getByRole('button', { name: 'Louder: Glass bells' }).click();
  await page.mouse.move(640, 330);
  for (const key of [40, 64, 67, 76]) await rig.press(key, 84);
  await page.waitForTimeout(1200);
  await page.screenshot(file('showtime'));
  for (const key of [40, 64, 67, 76]) await rig.release(key);
  await page.keyboard.press('4');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Brightness/ }).click();
  await page.setViewportSize({ width: 800, height: 1280 });
  await page.mouse.move(400, 330);
  await page.waitForTimeout(1200);
  await page.screenshot(file('showtime-upright'));
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${server.origin}/stand-ins`);
  await page.waitForTimeout(800);
  await page.screenshot(file('stand-ins'));
});

test('the rig and what goes in and out', async ({ desk, rig, page }) => {
  await desk.openSong('Nine Bells');
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  await page.locator('[data-device="keys2"]').click();
  await page.getByRole('tab', { name: /Settings on the device/ }).click();
  await page.getByRole('button', { name: 'Read it back' }).click();
  await expect(page.getByTestId('exchange')).toContainText('Read: this is what it holds.');
  await page.getByRole('combobox', { name: 'Channel that it is to send on' }).click();
  await page.getByRole('option', { name: '3', exact: true }).click();
  await rig.bytes('stand-in upper keys', [0x90, 60, 90, 64, 80]);
  await rig.bytes('stand-in pads', [0x99, 39, 100, 0xb9, 22, 90]);
  await page.mouse.move(640, 140);
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('rig'));
  await goToRoom(page, 'Rig', 'Channels');
  await page.getByRole('button', { name: /^Channel 2/ }).click();
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('channels'));
  await goToRoom(page, 'Rig', 'Monitor');
  await expect(page.getByRole('heading', { name: 'Monitor' })).toBeVisible();
  for (const key of [48, 55, 60, 64, 67, 72])
    await rig.bytes('stand-in upper keys', [0x90, key, 40 + key, 0x80, key, 0]);
  await rig.bytes('stand-in lower keys', [0x91, 60, 80, 60, 0]);
  await page.locator('pc-monitor-view .row', { hasText: 'C4 struck at 100' }).last().click();
  await page.waitForTimeout(6000);
  await page.screenshot(file('monitor'));
});

test('Ties and Preferences', async ({ desk, rig, page }) => {
  await desk.openSong('Low Water Mark');
  await goToRoom(page, 'Rig', 'Ties');
  for (const [knob, values] of [
    [20, [0, 127, 96]],
    [21, [0, 127, 80]],
    [22, [40]],
  ] as const)
    for (const value of values) await rig.bytes('stand-in pads', [0xb9, knob, value]);
  await page.getByRole('button', { name: 'Touch a control' }).click();
  for (const value of [1, 1, 1, 127, 127, 1]) await rig.bytes('stand-in pads', [0xb9, 26, value]);
  await page.getByRole('radio', { name: 'this song' }).click();
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('ties'));
});

test('logbook', async ({ page, server }) => {
  await page.request.put(`${server.origin}/api/takes/${A_NIGHT.take.id}`, {
    headers: { 'Content-Type': 'application/octet-stream' },
    data: Buffer.from(bytesOfTake(A_NIGHT)),
  });
  await page.goto(`${server.origin}/logbook`);
  const roll = page.getByRole('slider', { name: 'Place in what was played' });
  const box = await roll.boundingBox();
  if (!box) throw new Error('the roll is not there');
  await page.mouse.click(box.x + box.width * 0.56, box.y + 80);
  await page.mouse.move(640, 780);
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('logbook'));
});

test('backups', async ({ page, outer }) => {
  const desk = await Desk.visit(page, outer.origin);
  await desk.openSong('Saltglass');
  await desk.type('Level of Felt piano, dB', '-7');
  await desk.type('Highest key of Deep pad', 'A3');
  await desk.saved();
  await outer.kill();
  outer.spoil(`update layers set keys = '{' where patch_id = 'demo-saltglass-tide'`);
  outer.spoil(`update songs set tempo = 9000 where id = 'demo-low-water-mark'`);
  await outer.restart();
  await page.goto(`${outer.origin}/backups`);
  await page.getByRole('button', { name: 'Make one now' }).click();
  await page
    .getByRole('button', { name: /^Look into/ })
    .last()
    .click();
  await expect(page.getByText('Different from now')).toBeVisible();
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('backups'));
});

test('the band', async ({ desk, page, rig }) => {
  await desk.openSong('Low Water Mark');
  await page.getByRole('link', { name: 'Band' }).click();
  await rig.press(56, 90, 'lower');
  await rig.release(56, 'lower');
  await expect(page.locator('[data-playing="Reed line"]')).toHaveText('drops');
  await page.locator('pc-key-flags button', { hasText: 'push' }).click();
  await page.waitForTimeout(2 * SETTLED);
  await page.screenshot(file('band'));
});

test('patterns', async ({ desk, page }) => {
  await desk.openSong('Low Water Mark');
  await goToRoom(page, 'Library', 'Patterns');
  await page.getByRole('searchbox', { name: 'Search patterns' }).fill('basses');
  const push = page.locator('[data-pattern="push"]');
  await push.getByText('push', { exact: true }).click();
  await push.getByRole('button', { name: 'Hear push' }).click();
  await page.locator('pc-note-chart path').nth(2).click();
  await page.waitForTimeout(2 * SETTLED);
  await page.screenshot(file('patterns'));
});

test('recordings and zones', async ({ desk, page, rig }) => {
  await desk.openSong('Nine Bells');
  await goToRoom(page, 'Library', 'Recordings');
  await expect(page.locator('pc-recordings-view pc-outline path[d^="M"]').first()).toBeVisible();
  await page.waitForTimeout(2 * SETTLED);
  await page.screenshot(file('recordings'));
  await goToRoom(page, 'Library', 'Sounds');
  await page.locator('li[data-item="Night bells"] button.row').click();
  await page.getByRole('button', { name: 'Open its zones' }).click();
  await page.locator('[data-zone="night-bell-E4-middle"]').click();
  await rig.press(60, 40);
  await rig.release(60);
  await rig.press(66, 91);
  await page.waitForTimeout(SETTLED);
  await page.screenshot(file('zones'));
  await rig.release(66);
});
