import type { Page } from '@playwright/test';
import { archiveOf, writeWav } from '@pentachord/core/exchange';
import { goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const RATE = 48_000;

/** A file with a note of a few partials, as a browser is given it. */
function note(name: string, key: number, peak = 0.5, seconds = 1.2) {
  const frequency = 440 * 2 ** ((key - 69) / 12);
  const samples = Float32Array.from({ length: RATE * seconds }, (_, i) => {
    const at = (2 * Math.PI * frequency * i) / RATE;
    return (peak / 2) * (Math.sin(at) + 0.5 * Math.sin(2 * at) + 0.3 * Math.sin(3 * at));
  });
  const bytes = writeWav({ channels: [samples], sampleRate: RATE, bits: 16 });
  return { name, mimeType: 'audio/wav', buffer: Buffer.from(bytes) };
}

/** Picks files in the browser’s own dialog. */
async function pick(page: Page, files: ReturnType<typeof note>[]) {
  const asked = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add files…' }).click();
  await (await asked).setFiles(files);
}

/** Brings files in by the button, and waits until each has its line. */
async function bring(page: Page, files: ReturnType<typeof note>[], summary: string | RegExp) {
  await pick(page, files);
  await expect(page.getByRole('status').filter({ hasText: /taken|refused|already/ })).toHaveText(
    summary,
  );
}

const zones = (page: Page) => page.locator('pc-zone-chart [data-zone]');

test('files are brought in and heard, bad ones refused with the reason, and made an instrument that plays softly and hard', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  await goToRoom(page, 'Library', 'Recordings');
  const good = [
    note('oboe-C4-soft.wav', 60, 0.05),
    note('oboe-C4-hard.wav', 60, 0.6),
    note('oboe-G4-soft.wav', 67, 0.05),
    note('oboe-G4-hard.wav', 67, 0.6),
  ];
  const cut = { ...good[0], name: 'cut.wav', buffer: good[1].buffer.subarray(0, 900) };
  const packed = archiveOf({
    'in/oboe-E5-hard.wav': note('', 76).buffer,
    '../out.wav': note('', 76).buffer,
  });
  const zip = { name: 'more.packed', mimeType: '', buffer: Buffer.from(packed) };
  await bring(page, [...good, cut, zip], '5 taken · 2 refused');
  const lines = page.getByRole('list', { name: 'Files brought in' });
  await expect(lines).toContainText('cut.wavrefused: it is cut off or damaged');
  await expect(lines).toContainText('its path leads outside');
  await page.getByRole('button', { name: 'Done' }).click();
  await bring(page, [good[0]], '1 already there');
  await page.getByRole('button', { name: 'Done' }).click();
  const row = page.locator('pc-recordings-view .row', { hasText: 'oboe-G4-hard' });
  await expect(row).toContainText('G4');

  await page.getByRole('searchbox', { name: 'Search recordings' }).fill('oboe');
  await page.getByRole('checkbox', { name: 'All recordings' }).check();
  await page.getByRole('button', { name: 'Make a sound of 5' }).click();
  await expect(zones(page)).toHaveCount(5);
  await expect(page.getByRole('textbox', { name: 'Sound' })).toHaveValue('Oboe');
  await expect(page.getByRole('spinbutton', { name: 'Highest key of oboe-C4-soft' })).toHaveValue(
    'E♭4',
  );

  // The soft recording is heard softly, and what sounded is told.
  const sounded = page.getByRole('region', { name: 'What sounded' });
  await expect(async () => {
    await rig.release(62);
    await rig.press(62, 50);
    await expect.poll(() => desk.output(), { timeout: 700 }).toBeGreaterThan(1);
  }).toPass();
  await expect(sounded.locator('li').first()).toContainText('oboe-C4-soft +2 st');
  await rig.release(62);
  await rig.press(62, 120);
  await expect(sounded.locator('li').first()).toContainText('oboe-C4-hard +2 st');
  await rig.release(62);
  await desk.quiet();

  // One step of undo takes the sound away, and gives it back.
  await desk.saved();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('There is no such sound')).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.locator('pc-sound-browser, pc-zone-chart').first()).toBeVisible();
});

test('zones are dragged on the chart, typed, played, smoothed and mended; what is dropped later finds its place', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Nine Bells');
  await goToRoom(page, 'Library', 'Sounds');
  await page.locator('li[data-item="Night bells"] button.row').click();
  await page.getByRole('button', { name: 'Open its zones' }).click();
  await expect(zones(page)).toHaveCount(12);

  // An edge by the hand, and by an arrow key.
  const name = 'night-bell-E4-middle';
  await page.locator(`[data-zone="${name}"]`).click();
  const edge = page.locator('[data-handle="keys high"]');
  const high = page.getByRole('spinbutton', { name: `Highest key of ${name}` });
  const before = await high.inputValue();
  await edge.focus();
  await page.keyboard.press('ArrowRight');
  await expect(high).not.toHaveValue(before);
  await page.keyboard.press('ArrowLeft');
  await expect(high).toHaveValue(before);
  const box = await edge.locator('.hit').boundingBox();
  if (!box) throw new Error('there is no edge');
  await page.mouse.move(box.x + 12, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x - 40, box.y + 12, { steps: 4 });
  await page.mouse.up();
  await expect(high).not.toHaveValue(before);
  // Silence that has come of it is told, and mended.
  await page
    .getByRole('button', { name: /^silent/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'stretch over it' }).first().click();
  await expect(page.getByRole('button', { name: /^silent/ })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(high).toHaveValue(before);

  // Played to set, and a number for several at once.
  const low = page.getByRole('spinbutton', { name: `Lowest key of ${name}` });
  await low.focus();
  await rig.press(59, 80);
  await rig.release(59);
  await expect(low).toHaveValue('B3');
  await page.keyboard.press('Control+z');
  await page.locator(`[data-zone="night-bell-E4-hard"]`).click({ modifiers: ['Shift'] });
  const gain = page.getByRole('spinbutton', { name: 'Gain, dB' });
  await gain.fill('-20');
  await gain.press('Enter');
  await expect(
    page.getByRole('spinbutton', { name: 'Gain of night-bell-E4-hard, dB' }),
  ).toHaveValue('−20');
  await expect(page.getByRole('button', { name: /^a step of/ }).first()).toBeVisible();
  await page.keyboard.press('Escape');

  await pick(page, [note('night-bell-A4-hard.wav', 69, 0.7)]);
  await expect(zones(page)).toHaveCount(12);
  await expect(page.locator('[data-zone="night-bell-A4-hard"]')).toBeVisible();
  await desk.saved();
});

test('a set of recordings is swapped and the zones stay; they go out as WAV files', async ({
  desk,
  page,
}) => {
  await desk.openSong('Nine Bells');
  await goToRoom(page, 'Library', 'Recordings');
  const set = ['G3', 'E4', 'C5'].flatMap((key, i) =>
    (['soft', 'middle', 'hard'] as const).map((strength, s) =>
      note(`tin-${key}-${strength}.wav`, [55, 64, 72][i], 0.1 * 3 ** s),
    ),
  );
  await bring(page, set, '9 taken');
  await page.goto(page.url().replace('recordings', 'sounds/demo-night-bells/zones'));
  await expect(zones(page)).toHaveCount(12);
  const keys = page.getByRole('spinbutton', { name: /^Lowest key of/ }).first();
  const before = await keys.inputValue();
  await page.getByRole('button', { name: 'Swap recordings…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Search recordings').fill('tin-');
  for (const option of await dialog.getByRole('option').all()) await option.click();
  await expect(dialog.getByRole('status')).toContainText('9 of 12 zones find theirs');
  await expect(dialog.getByRole('status')).toContainText(
    'Nothing was found for: night-bell-A5-soft',
  );
  await dialog.getByRole('button', { name: 'Swap' }).click();
  await expect(page.locator('[data-zone="tin-E4-hard"]')).toBeVisible();
  await expect(keys).toHaveValue(before);

  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: /WAV files/ }).click();
  expect((await coming).suggestedFilename()).toBe('Night bells.zip');
});

test('a note is recorded from an input, its level shown before, and trimmed by itself', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  await goToRoom(page, 'Library', 'Recordings');
  await page.getByRole('button', { name: 'Record a note…' }).click();
  const level = page.getByRole('meter', { name: 'Input level' });
  await expect(level).not.toHaveAttribute('aria-valuenow', '-60');
  await page.getByRole('textbox', { name: 'called' }).fill('beep');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await page.getByRole('button', { name: /^Stop and keep \(2/ }).click();
  await expect(page.getByRole('status').filter({ hasText: /taken|refused/ })).toHaveText('1 taken');
  const beep = await page.evaluate(async () => {
    const all = (await (await fetch('api/recordings')).json()) as {
      name: string;
      frames: number;
      sampleRate: number;
      heard: { start: number; end: number };
    }[];
    return all.find(({ name }) => name.startsWith('beep'));
  });
  expect(beep && beep.heard.end - beep.heard.start).toBeLessThan(
    beep ? beep.frames / beep.sampleRate - 0.05 : 0,
  );
});

test('bells of recordings play on when the server is gone', async ({ alone }) => {
  const { page, origin } = alone;
  const server = await alone.serve();
  const { Desk } = await import('../stage/desk.js');
  const { Rig } = await import('../stage/rig.js');
  const desk = await Desk.visit(page, origin);
  const rig = new Rig(page);
  await desk.openSong('Nine Bells');
  const bell = async () => {
    await rig.press(72, 60);
    await expect.poll(() => desk.layerMeter('Gentle bells')).toBeGreaterThan(5);
    await rig.release(72);
    await desk.quiet();
  };
  await bell();
  await server.kill();
  await bell();
});
