import type { Locator, Page } from '@playwright/test';
import { Desk } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

test.use({ begins: 'empty' });
test.setTimeout(240_000);

/** The songs of the evening, each with what it starts from; none is there before. */
const SONGS = [
  { name: 'Harbour Mouth', key: 'B♭', tempo: '96', start: 'First keys' },
  { name: 'Slack Tide', key: 'Gm', tempo: '74', start: 'Bass left' },
  { name: 'Kelp and Wire', key: 'A', tempo: '112', start: 'Bells on top' },
  { name: 'Gullwing', key: 'E', tempo: '128', start: 'Big ending' },
];
/** A chord that every one of them answers, from bass to treble; gentle, so that nothing is held back at the loud end. */
const CHORD = [40, 60, 67, 72];

/** What a player does, counted: a click, something typed, a key pressed. */
class Hand {
  count = 0;

  constructor(private readonly page: Page) {}

  async click(what: Locator): Promise<void> {
    this.count++;
    await what.click();
  }

  /** Types and presses Enter: two. */
  async type(what: Locator, text: string): Promise<void> {
    this.count += 2;
    await what.fill(text);
    await what.press('Enter');
  }

  async press(key: string): Promise<void> {
    this.count++;
    await this.page.keyboard.press(key);
  }
}

test('a player who is called at noon plays at eight: a whole evening from an empty database', async ({
  page,
  server,
  rig,
  ear,
}) => {
  const hand = new Hand(page);
  await page.goto(server.origin);
  await hand.click(page.getByRole('button', { name: 'Begin with an empty show' }));
  const box = page.getByRole('searchbox', { name: /^A song’s name/ });
  for (const { name } of SONGS) await hand.type(box, name);
  await hand.click(page.getByRole('button', { name: '+ talk, a break' }));
  await hand.click(page.getByRole('menuitem', { name: 'talk' }));
  await expect(page.getByRole('table').locator('tbody tr')).toHaveCount(5);

  const desk = new Desk(page);
  await hand.click(page.getByRole('link', { name: 'Song', exact: true }));
  for (const { name, key, tempo, start } of SONGS) {
    await hand.click(page.getByRole('button', { name, exact: true }));
    await hand.click(page.getByRole('combobox', { name: 'Sounding key' }));
    await hand.click(page.getByRole('option', { name: key, exact: true }));
    await hand.type(page.getByRole('spinbutton', { name: 'Tempo, beats a minute' }), tempo);
    await hand.click(page.getByRole('button', { name: 'Start from …' }).first());
    await hand.click(page.getByRole('option', { name: start }));
    await hand.click(page.getByRole('button', { name: `Take ${start}` }));
    if (name === 'Gullwing') {
      // One sound swapped, and an octave doubled, before strengths are made of it.
      await hand.click(page.getByRole('link', { name: 'Patch', exact: true }));
      await hand.click(desk.row('Brass').locator('td').first());
      await hand.press('w');
      await hand.click(page.getByRole('dialog').locator('li[data-item="Ferry organ"] button.row'));
      await hand.click(page.getByRole('button', { name: 'Take Ferry organ' }));
      await expect(page.getByRole('dialog')).toHaveCount(0);
      await hand.press('e');
      await hand.click(page.getByRole('tab', { name: 'Treatments' }));
      await hand.click(page.getByRole('button', { name: 'Add doubling' }));
      await hand.click(page.getByRole('link', { name: 'Song', exact: true }));
    }
    // What is measured comes first: the strengths are made of it.
    await desk.soundsReady();
    await hand.click(page.getByRole('button', { name: 'Three strengths' }));
    await expect(page.getByTestId('status')).toContainText('by measured loudness');
    await expect(page.locator('pc-cue-line .mark')).toHaveCount(3);
  }

  await desk.soundsReady();
  console.log(`the evening was built in ${hand.count} interactions`);
  expect(hand.count).toBeLessThan(70);
  await desk.saved();

  // And now it is played, from the pad box.
  await page.getByRole('link', { name: 'Showtime' }).click();
  const cue = page.getByTestId('cue');
  // Keys are meant for Showtime, which has to be there.
  await expect(cue).toBeVisible();
  await page.keyboard.press('1');
  await page.keyboard.press('Enter');
  for (const { name } of SONGS) {
    const levels: number[] = [];
    for (const strength of ['low', 'middle', 'full']) {
      await expect(cue).toHaveText(strength);
      await expect(page.getByText(name).first()).toBeVisible();
      // The glide is over before it is listened to.
      await ear.pass(1.7);
      // Over most of a second at once: what is heard does not hang on when one looks.
      await ear.listen(32_768);
      for (const key of CHORD) {
        await rig.press(key, 64, 'upper');
      }
      await ear.louder(-60);
      await ear.pass(1.2);
      levels.push(Math.max(...(await ear.heard()).map(({ level }) => level)));
      for (const key of CHORD) await rig.release(key, 'upper');
      await rig.tapPad(8);
      await ear.softer(-90);
      await rig.tapPad(4);
    }
    const [low, middle, full] = levels;
    // By the measured amount, as near as one chord stands for all keys.
    expect(full - middle, `${name}: middle to full`).toBeGreaterThan(1);
    expect(middle - low, `${name}: low to middle`).toBeGreaterThan(2);
    expect(full - low, `${name}: low to full`).toBeGreaterThan(5);
    expect(full - low, `${name}: low to full`).toBeLessThan(15);
  }
  await expect(page.getByText('0 voices')).toBeVisible({ timeout: 15_000 });

  // Nothing was lost on the way: it is all there again, in its order.
  await page.goto(`${server.origin}/running-order`);
  await expect(page.getByRole('table').locator('tbody tr .name')).toHaveText([
    ...SONGS.map(({ name }) => name),
    'talk',
  ]);
});
