import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { AxeBuilder } from '@axe-core/playwright';
import { readAudio, readMidiFile } from '@pentachord/core/exchange';
import { expect, test } from '../stage/test.js';

const roll = (page: Page) => page.getByRole('slider', { name: 'Place in what was played' });
const takes = (page: Page) => page.getByRole('table', { name: /^Takes/ }).locator('tbody tr');
const chooseMore = async (page: Page, name: RegExp) => {
  await page.getByRole('button', { name: /^More: / }).click();
  await page
    .getByRole('menuitem', { name })
    .or(page.getByRole('menuitemcheckbox', { name }))
    .click();
};
const logbook = async (page: Page) => {
  await chooseMore(page, /^Logbook/);
  await expect(page.getByRole('heading', { name: 'Logbook' })).toBeVisible();
};

async function saved(page: Page, button: string): Promise<Uint8Array> {
  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: button }).click();
  const file = await coming;
  expect(file.suggestedFilename()).toMatch(
    /^Night Tide at Pier Nine .* as it (came in|sounded)\.mid$/,
  );
  return readFile(await file.path());
}

/** Keys and strengths of the notes of each track. */
function notesOf(bytes: Uint8Array): Record<string, number[][]> {
  const { tracks, doubts } = readMidiFile(bytes);
  expect(doubts).toEqual([]);
  return Object.fromEntries(
    tracks.map(({ name, notes }) => [name, notes.map(({ key, velocity }) => [key, velocity])]),
  );
}

async function bring(page: Page, name: string, buffer: Buffer): Promise<void> {
  const asked = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'MIDI file in…' }).click();
  await (await asked).setFiles({ name, mimeType: 'audio/midi', buffer });
}

test('what is played in Showtime is written down over a reload, read, heard again and taken out', async ({
  desk,
  rig,
  ear,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('link', { name: 'Showtime' }).click();
  const cue = page.getByTestId('cue');
  await expect(cue).toHaveText('intro');
  await rig.press(64, 90);
  await rig.press(41, 70, 'lower');
  await expect
    .poll(async () => Number((await page.getByTestId('voices').textContent())?.split(' ')[0]))
    .toBeGreaterThan(0);
  await rig.release(64);
  await rig.release(41, 'lower');
  await page.keyboard.press('Space');
  await expect(cue).toHaveText('verse');
  await rig.control(64, 127);
  await rig.press(67, 110);
  await rig.release(67);
  await rig.control(64, 0);
  // What was played before the page is loaded anew is the same take.
  await expect.poll(() => keptKeys(page)).toBe(3);
  await page.reload();
  await expect(cue).toHaveText('verse');
  await page.mouse.click(640, 300);
  await rig.press(60, 50);
  await rig.release(60);
  await expect.poll(() => keptKeys(page)).toBe(4);
  await page.getByRole('button', { name: 'Lift the lock' }).click();
  await page
    .getByRole('link', { name: 'Desk' })
    .or(page.getByRole('button', { name: 'Desk' }))
    .first()
    .click();
  await logbook(page);
  await expect(takes(page)).toHaveCount(1);
  await expect(takes(page)).toContainText('Copper Weather');
  await expect(page.getByText(/· 4 keys ·/)).toBeVisible();
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag22aa'])
    .analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);

  const evening = await saved(page, 'Out as it came in');
  expect(notesOf(evening)).toEqual({
    'upper keys: Upper keys': [
      [64, 90],
      [67, 110],
      [60, 50],
    ],
    'lower keys: Lower keys': [[41, 70]],
  });
  const sounded = readMidiFile(await saved(page, 'Out as it sounded'));
  expect(sounded.doubts).toEqual([]);
  expect(sounded.tempos[0].tempo).toBeCloseTo(92, 1);
  // Copper Weather is fingered in E and sounds in E♭.
  const keys = sounded.tracks.flatMap(({ name, notes }) =>
    notes.map(({ key }) => `${name}: ${key}`),
  );
  expect(keys.filter((key) => /Felt piano: 63$/.test(key))).not.toEqual([]);

  // Heard again from the first key on: it goes through the cues, sounds, and leaves the desk as it was.
  await roll(page).focus();
  await page.keyboard.press('Home');
  await ear.listen();
  await page.getByRole('button', { name: 'Hear it from here' }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect
    .poll(async () => Math.max(...(await ear.heard()).map(({ level }) => level)))
    .toBeGreaterThan(-50);
  await page.getByRole('button', { name: 'Stop' }).click();
  await desk.quiet();

  // A good stretch is chosen by keyboard, named, and still there; the take is kept for good, removed, and brought back.
  await roll(page).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Ends here' }).click();
  await page.getByRole('textbox', { name: 'Name of the stretch' }).fill('The opening');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'The opening', exact: true })).toBeVisible();
  await takes(page).getByRole('button', { name: 'Keep for good' }).click();
  await expect(takes(page)).toContainText('kept');
  await page.reload();
  await expect(page.getByRole('button', { name: 'The opening', exact: true })).toBeVisible();
  await takes(page)
    .getByRole('button', { name: /^Remove/ })
    .click();
  await expect(takes(page)).toHaveCount(0);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(takes(page)).toContainText('kept');
  await expect(page.getByRole('button', { name: 'The opening', exact: true })).toBeVisible();

  // A MIDI file comes in as a take of this show; what is none is refused in words.
  await bring(page, 'an evening.mid', Buffer.from(evening));
  await expect(takes(page)).toHaveCount(2);
  await expect(page.getByRole('textbox', { name: 'Name of what was played' })).toHaveValue(
    'an evening',
  );
  // A page that is opened slowly comes to the present cue by way of its patch.
  await expect(page.getByText(/· 4 keys · [23] cues$/)).toBeVisible();
  await bring(page, 'no music.mid', Buffer.from('no music'));
  await expect(page.getByRole('alert')).toHaveText(
    'no music.mid: it is no Standard MIDI File. Nothing was changed.',
  );
  await expect(takes(page)).toHaveCount(2);
});

test('on the desk it is written down when that is asked for, without the server too, and rendered as it sounds', async ({
  desk,
  rig,
  ear,
  page,
  server,
}) => {
  await desk.openSong('Saltglass');
  await rig.press(62);
  await rig.release(62);
  await chooseMore(page, /Write down what I play/);
  const told = page.getByRole('button', { name: 'Written down' });
  await expect(told).toBeVisible();
  // Over a reload too.
  await page.reload();
  await expect(told).toBeVisible();
  await desk.soundsReady();
  // Held until it is on disk, so that it can be heard for a while.
  await rig.press(60);
  await expect.poll(() => keptKeys(page)).toBe(1);
  await rig.release(60);
  await told.click();
  await expect(told).toBeHidden();
  await rig.press(64);
  await rig.release(64);
  await page.route('**/api/takes**', (route) => route.abort());
  await logbook(page);
  await expect(takes(page)).toContainText('On the desk');
  await expect(page.getByRole('alert')).toContainText('What is kept for good is not shown');
  await expect(page.getByText(/· 1 keys? ·/)).toBeVisible();
  await takes(page).getByRole('button', { name: 'Keep for good' }).click();
  await expect(page.getByRole('alert')).toHaveText(
    /^The server does not answer\. Nothing was changed/,
  );
  await expect(takes(page)).toContainText('here until');
  await page.unroute('**/api/takes**');
  await takes(page).getByRole('button', { name: 'Keep for good' }).click();
  await expect(takes(page)).not.toContainText('here until');
  const answer = await page.request.get(`${server.origin}/api/takes`);
  expect(await answer.json()).toMatchObject([{ name: 'On the desk', keys: 1 }]);

  // Heard again to its end, and rendered: as loud as it was heard, and another time the very same.
  await ear.listen();
  await page.getByRole('button', { name: 'Hear it from here' }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^▶ Hear/ })).toBeVisible({ timeout: 20_000 });
  const heard = Math.max(...(await ear.heard()).map(({ level }) => level));
  expect(heard).toBeGreaterThan(-50);
  await page.getByRole('button', { name: /^Out as sound/ }).click();
  const render = async () => {
    const coming = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Render and save' }).click();
    const file = await coming;
    await expect(page.getByText(/^Saved\. It was rendered \d+ times as fast/)).toBeVisible();
    return readFile(await file.path());
  };
  const bytes = await render();
  expect(Math.abs(loudestOf(await readAudio(bytes, 'bounce.wav')) - heard)).toBeLessThan(1.5);
  expect((await render()).equals(bytes)).toBe(true);
});

/** How loud the loudest moment of a recording is, dB below full scale, over the window through which an ear listens. */
function loudestOf({ channels }: { channels: readonly Float32Array[] }): number {
  const [left, right] = channels;
  let most = 0;
  for (let from = 0; from + 1024 <= left.length; from += 64) {
    let power = 0;
    // An ear hears both sides as one.
    for (let i = from; i < from + 1024; i++) power += ((left[i] + right[i]) / 2) ** 2;
    most = Math.max(most, power / 1024);
  }
  return 10 * Math.log10(most + 1e-12);
}

/** Keys of the takes that this browser has on disk. */
function keptKeys(page: Page): Promise<number> {
  return page.evaluate(async () => {
    const name = 'pentachord logbook';
    // Opened before the program has, it would be there without its stores.
    if (!(await indexedDB.databases()).some((one) => one.name === name)) return 0;
    const done = <T>(asked: IDBRequest<T>) =>
      new Promise<T>((resolve, reject) => {
        asked.onsuccess = () => resolve(asked.result);
        asked.onerror = () => reject(asked.error ?? new Error('it cannot be read'));
      });
    const database = await done(indexedDB.open(name));
    const kept = await done(database.transaction('takes').objectStore('takes').getAll());
    database.close();
    return (kept as { take: { keys: number } }[]).reduce((sum, { take }) => sum + take.keys, 0);
  });
}
