import type { Page } from '@playwright/test';
import { goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const cue = (page: Page) => page.getByTestId('cue');
const song = (page: Page) => page.locator('p.song');
const learn = async (page: Page, what: string, touch: () => Promise<void>) => {
  const button = page.getByRole('button', { name: `Touch a control for ${what}` });
  await button.click();
  await expect(button).toHaveText('waiting … Esc ends');
  await touch();
  await expect(button).toHaveText('Touch a control');
};

test('a show is gone through by pads, pedal, spare key, program changes, song select, numbers and letters, all learnt by touching', async ({
  desk,
  rig,
  page,
}) => {
  await desk.soundsReady();
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  await desk.openSong('Low Water Mark');
  await desk.type('The song’s own number, 0 for none', '42');
  await desk.saved();
  await goToRoom(page, 'Rig', 'Controls');
  await learn(page, 'First cue of the next song', () => rig.tapPad(1));
  await learn(page, 'First cue of the song before', () => rig.press(28, 60));
  await learn(page, 'Song by its number', () => rig.bytes('stand-in pads', [0xc9, 2]));
  await learn(page, 'Song by its number', () => rig.bytes('stand-in upper keys', [0xf3, 2]));
  await page.getByRole('combobox', { name: 'Where the control goes to' }).click();
  await page.getByRole('option', { name: 'Copper Weather: lift' }).click();
  await page.getByRole('button', { name: 'Touch a control that goes there' }).click();
  await rig.tapPad(2);
  await expect(page.getByText('pad 2 → Copper Weather: lift')).toBeVisible();
  // A pad that has a job is given another one, and undo gives it back.
  await learn(page, 'Tap the tempo', () => rig.tapPad(1));
  await expect(page.getByText(/does already: first cue of the next song/)).toBeVisible();
  await page.getByRole('button', { name: 'Tie it here' }).click();
  await expect(page.getByText(/was “First cue of the next song”/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('pad 1', { exact: true })).toBeVisible();
  await page.getByRole('radio', { name: 'begin anew' }).click();
  await desk.saved();

  await page.getByRole('link', { name: 'Showtime' }).click();
  await rig.tapPad(2);
  await expect(cue(page)).toHaveText('lift');
  await rig.tapPad(1);
  await expect(song(page)).toContainText('Paper Lighthouse');
  await rig.release(28);
  await rig.press(28, 60);
  await expect(song(page)).toContainText('Copper Weather');
  await rig.release(28);
  await rig.control(80, 127, 'lower');
  await expect(cue(page)).toHaveText('verse');
  // The message counts from 0, numbers from 1: 4 is Nine Bells, 41 is the song that bears 42.
  await rig.bytes('stand-in pads', [0xc9, 4]);
  await expect(song(page)).toContainText('Nine Bells');
  await rig.bytes('stand-in upper keys', [0xf3, 41]);
  await expect(song(page)).toContainText('Low Water Mark');
  await rig.bytes('stand-in pads', [0xc9, 99]);
  await page.keyboard.press('4');
  await page.keyboard.press('Enter');
  await expect(song(page)).toContainText('Ferry to Nowhere');
  await page.keyboard.press('/');
  await page.keyboard.type('pl');
  await expect(page.getByRole('button', { name: /Paper Lighthouse/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(song(page)).toContainText('Paper Lighthouse');
  await page.keyboard.press('/');
  await page.keyboard.type('zz');
  await expect(page.getByText(/No song of tonight/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('ArrowDown');
  await expect(song(page)).toContainText('Ferry to Nowhere');

  // On from the very last cue too, and told before.
  await page.keyboard.press('7');
  await page.keyboard.press('Enter');
  await expect(song(page)).toContainText('Lantern Song');
  for (const name of ['carry', 'set down']) {
    await page.getByRole('button', { name: /Next/ }).click();
    await expect(cue(page)).toHaveText(name);
  }
  await expect(page.getByTestId('then')).toContainText('Saltglass: intro');
  await page.getByRole('button', { name: /Next/ }).click();
  await expect(song(page)).toContainText('Saltglass');
});

test('a pad that rattles forty times a second goes on by one cue, and the end begins anew when that is wished', async ({
  desk,
  rig,
  page,
}) => {
  await desk.soundsReady();
  await goToRoom(page, 'Rig', 'Controls');
  await desk.type('Milliseconds after which a second press counts', '900');
  await page.getByRole('radio', { name: 'begin anew' }).click();
  await desk.saved();
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(cue(page)).toHaveText('intro');
  // Played inside the page, at the very rate.
  await page.evaluate(async () => {
    const cable = new BroadcastChannel('pentachord cable');
    for (let blow = 0; blow < 80; blow++) {
      for (const velocity of [100, 0])
        cable.postMessage({ direction: 'in', port: 'stand-in pads', bytes: [0x99, 39, velocity] });
      await new Promise((then) => setTimeout(then, 25));
    }
    cable.close();
  });
  await rig.tapPad(3);
  await expect(cue(page)).toHaveText('intro');
  await page.keyboard.press('7');
  await page.keyboard.press('Enter');
  await expect(song(page)).toContainText('Lantern Song');
  // The last song: the next one is the first.
  await page.keyboard.press('ArrowDown');
  await expect(song(page)).toContainText('Saltglass');
});

test('a layer is trimmed by screen and knob for the night, and the level is offered to the cue afterwards', async ({
  desk,
  rig,
  page,
  request,
  server,
}) => {
  await desk.openSong('Copper Weather');
  await goToRoom(page, 'Rig', 'Controls');
  await page.getByRole('combobox', { name: 'Layer that the control trims' }).click();
  await page.getByRole('option', { name: 'B', exact: true }).click();
  await page.getByRole('button', { name: 'Touch a control that trims' }).click();
  await rig.bytes('stand-in pads', [0xb9, 21, 0]);
  await page.getByRole('button', { name: 'Tie it here' }).click();
  await expect(page.getByText('knob 2 → B')).toBeVisible();
  await page.getByRole('link', { name: 'Showtime' }).click();
  await rig.tapPad(4);
  await expect(cue(page)).toHaveText('verse');
  const trim = (layer: string) => page.getByRole('region', { name: layer }).getByTestId('trim');
  for (let press = 0; press < 3; press++)
    await page.getByRole('button', { name: 'Softer: Left-hand bass' }).click();
  await expect(trim('Left-hand bass')).toHaveText('−3.0 dB');
  // A knob takes over only where the trim stands: its middle.
  await rig.bytes('stand-in pads', [0xb9, 21, 20]);
  await expect(trim('Felt piano')).toHaveText('as written');
  await rig.bytes('stand-in pads', [0xb9, 21, 64]);
  await rig.bytes('stand-in pads', [0xb9, 21, 32]);
  await expect(trim('Felt piano')).toHaveText('−12.0 dB');
  await rig.tapPad(4);
  await expect(trim('Left-hand bass')).toHaveText('−3.0 dB');

  await page.getByRole('button', { name: 'Lift the lock' }).click();
  await page.getByRole('button', { name: 'A semitone higher' }).click();
  await expect(page.getByText('Hands in E, sounds in E')).toBeVisible();
  await page.getByRole('link', { name: 'Desk' }).click();
  await page.getByRole('button', { name: '3 changed while playing' }).click();
  const dialog = page.getByRole('dialog');
  const levelIn = async (path: string) =>
    (await (await request.get(`${server.origin}/api/${path}`)).json()).value;
  const verse = async () => {
    const bass = 'demo-copper-weather-under-1';
    const { balance } = await levelIn('cues/demo-copper-weather-cue-2');
    const { layers } = await levelIn('patches/demo-copper-weather-under');
    return (balance[bass]?.level ?? layers[0].level) as number;
  };
  const before = await verse();
  await dialog
    .getByRole('listitem')
    .filter({ hasText: 'Left-hand bass' })
    .getByRole('button', { name: 'To the cue' })
    .click();
  await dialog
    .getByRole('listitem')
    .filter({ hasText: 'sounding in E' })
    .getByRole('button', { name: 'To this show' })
    .click();
  // What is discarded comes back by undoing, as everything does.
  const piano = dialog.getByRole('listitem').filter({ hasText: 'Felt piano' });
  await piano.getByRole('button', { name: 'Discard' }).click();
  await expect(piano).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(piano).toHaveCount(1);
  await dialog.getByRole('button', { name: /^End the night/ }).click();
  await expect(dialog.getByText('Nothing is changed any more.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Done' }).click();
  await desk.saved();
  expect(await verse()).toBeCloseTo(before - 3, 6);
  await expect(page.getByRole('button', { name: /changed while playing/ })).toHaveCount(0);
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(page.getByText('Hands in E, sounds in E')).toBeVisible();
  await expect(trim('Left-hand bass')).toHaveText('as written');
});
