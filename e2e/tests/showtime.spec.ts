import type { Page } from '@playwright/test';
import { expect, test } from '../stage/test.js';

const cue = (page: Page) => page.getByTestId('cue');
const noVoices = (page: Page) =>
  expect(page.getByText('0 voices')).toBeVisible({ timeout: 15_000 });

test('the cues of Copper Weather from the pad, with a key held and let go later, leave no note', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(cue(page)).toHaveText('intro');
  await expect(page.getByText('Hands in E, sounds in E♭')).toBeVisible();
  // The two silent keys are marked under the hands too.
  for (const key of [55, 56])
    await expect(page.locator(`pc-hands-panel rect[data-key="${key}"]`)).toHaveClass(/dim/);
  await rig.press(64, 80);
  await expect(page.getByText(/[1-9]\d* voices/)).toBeVisible();
  for (const name of ['verse', 'second verse', 'lift', 'quiet']) {
    await rig.tapPad(4);
    await expect(cue(page)).toHaveText(name);
    await expect(page.getByText(/[1-9]\d* voices/)).toBeVisible();
    await rig.press(69, 80);
    await rig.release(69);
  }
  await rig.release(64);
  await noVoices(page);
});

test('next and back by button, space, arrows, pad and pedal; the ends of the show hold', async ({
  desk,
  rig,
  page,
}) => {
  await desk.soundsReady();
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(cue(page)).toHaveText('intro');
  await expect(page.getByRole('button', { name: /Back/ })).toBeDisabled();
  await page.getByRole('button', { name: /Next/ }).click();
  await expect(cue(page)).toHaveText('verse');
  await page.keyboard.press('Space');
  await expect(cue(page)).toHaveText('lift');
  await page.keyboard.press('ArrowLeft');
  await expect(cue(page)).toHaveText('verse');
  await rig.control(80, 127, 'lower');
  await rig.control(80, 0, 'lower');
  await expect(cue(page)).toHaveText('lift');
  await rig.tapPad(3);
  await expect(cue(page)).toHaveText('verse');
  for (let i = 0; i < 40; i++) await page.keyboard.press('ArrowRight');
  await expect(cue(page)).toHaveText('set down');
  await expect(page.getByTestId('then')).toHaveText('the show is over');
});

test('space presses a button that was reached by keyboard, and a click leaves none behind', async ({
  desk,
  rig,
  page,
}) => {
  await desk.soundsReady();
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(cue(page)).toHaveText('intro');
  await rig.press(64, 90);
  await expect(page.getByText(/[1-9]\d* voices?/)).toBeVisible();
  const panic = page.getByRole('button', { name: /All notes off/ });
  await page.keyboard.press('Tab');
  await panic.focus();
  await page.keyboard.press('Space');
  await noVoices(page);
  await expect(cue(page)).toHaveText('intro');
  await rig.release(64);
  await panic.click();
  await page.keyboard.press('Space');
  await expect(cue(page)).toHaveText('verse');
});

test('a cue glides: what it mutes is heard to fade over its seconds instead of stopping', async ({
  desk,
  rig,
  ear,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(cue(page)).toHaveText('intro');
  await page.keyboard.press('ArrowRight');
  await expect(cue(page)).toHaveText('verse');
  await rig.press(30, 100);
  await ear.listen();
  await ear.louder(-45);
  await page.keyboard.press('ArrowLeft');
  await expect(cue(page)).toHaveText('intro');
  // The intro mutes the bass over 1.5 s, from its −4 dB down to −60.
  const heard = await ear.softer(-100);
  const loudest = Math.max(...heard.map(({ level }) => level));
  const fading = heard.filter(({ level }) => level < loudest - 12 && level > loudest - 40);
  expect(fading.at(-1)!.at - fading[0].at).toBeGreaterThan(0.4);
  await rig.release(30);
  await noVoices(page);
});

test('all notes off silences held notes and pedals, from the button and from pad 8', async ({
  desk,
  rig,
  page,
}) => {
  await desk.soundsReady();
  await page.getByRole('link', { name: 'Showtime' }).click();
  for (const stop of [
    () => page.getByRole('button', { name: 'All notes off' }).click(),
    () => rig.tapPad(8),
  ]) {
    await rig.control(64, 127);
    for (const key of [40, 64, 67]) await rig.press(key, 90);
    await expect(page.getByText(/[1-9]\d* voices/)).toBeVisible();
    await stop();
    await noVoices(page);
  }
});

for (const song of ['Copper Weather', 'Low Water Mark'])
  test(`${song} fits a ten-inch tablet, upright too`, async ({ desk, page }) => {
    await desk.openSong(song);
    await page.getByRole('link', { name: 'Showtime' }).click();
    await expect(page.locator('pc-getting-ready section')).toHaveCount(0, { timeout: 60_000 });
    for (const size of [
      { width: 1280, height: 800 },
      { width: 1024, height: 768 },
      { width: 800, height: 1280 },
    ]) {
      await page.setViewportSize(size);
      for (const name of [/Next/, /Back/, /All notes off/]) {
        const box = await page.getByRole('button', { name }).boundingBox();
        if (!box) throw new Error(`${name} is not there`);
        expect(box.x).toBeGreaterThanOrEqual(0);
        expect(box.x + box.width).toBeLessThanOrEqual(size.width);
        expect(box.y + box.height).toBeLessThanOrEqual(size.height);
      }
      // The keys of both hands are seen whole.
      const trims = await page.locator('pc-layer-trims').boundingBox();
      for (const keys of await page.locator('pc-hands-panel pc-keyboard').all()) {
        const box = await keys.boundingBox();
        expect(box?.height).toBeGreaterThan(36);
        expect((box?.y ?? 0) + (box?.height ?? 0)).toBeLessThanOrEqual(trims?.y ?? 0);
      }
      // What the keys of a band start stands over them, where there is room for names that can be read.
      const names = page.locator('pc-hands-panel pc-key-flags');
      if (song === 'Low Water Mark' && size.width === 1280) await expect(names).toBeInViewport();
      const scrolls = await page.evaluate(
        () => document.documentElement.scrollWidth > document.documentElement.clientWidth,
      );
      expect(scrolls).toBe(false);
    }
  });
