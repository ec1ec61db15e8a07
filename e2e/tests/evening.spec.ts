import type { Locator, Page } from '@playwright/test';
import { Desk } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

test.use({ begins: 'empty' });
test.setTimeout(240_000);

/** The songs of the evening, as they are written: none is there before. */
const SONGS = [
  { name: 'Harbour Mouth', line: 'Harbour Mouth Bb 96' },
  { name: 'Slack Tide', line: 'Slack Tide Gm 74' },
  { name: 'Gullwing', line: 'Gullwing E 128' },
];
/** What the first one is put together from, as one asks for it. */
const SOUNDS = ['felt', 'warm pad', 'low bass', 'glass bells', 'big strings'];
/** And what the others start from. */
const STARTS = ['Bass left', 'Big ending'];
/** What a player may do until all is ready. */
const MOST = 60;
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
  for (const { line } of SONGS) await hand.type(box, line);
  await expect(page.getByRole('table').locator('tbody tr')).toHaveCount(3);

  const desk = new Desk(page);
  const strengths = async () => {
    await hand.click(page.getByRole('link', { name: 'Song', exact: true }));
    // What is measured comes first: the strengths are made of it.
    await desk.soundsReady();
    await hand.click(page.getByRole('button', { name: 'Three strengths' }));
    await expect(page.getByTestId('status')).toContainText('by measured loudness');
    await expect(page.locator('pc-cue-line .mark')).toHaveCount(3);
  };
  // The first song from five single sounds.
  await hand.click(page.getByRole('link', { name: 'Patch', exact: true }));
  const [first, ...others] = SOUNDS;
  await hand.type(page.getByRole('combobox', { name: 'First sound' }), first);
  for (const [at, sound] of others.entries()) {
    await expect(page.locator('pc-ledger tbody tr')).toHaveCount(at + 1);
    await hand.press('a');
    await hand.type(page.getByRole('searchbox', { name: 'Search sounds' }), sound);
  }
  await expect(page.locator('pc-ledger tbody tr')).toHaveCount(5);
  await strengths();
  for (const [at, start] of STARTS.entries()) {
    await hand.click(page.getByRole('button', { name: SONGS[at + 1].name, exact: true }));
    await hand.click(page.getByRole('button', { name: 'Start from …' }).first());
    await hand.click(page.getByRole('option', { name: start }));
    await hand.press('Enter');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    if (start === 'Big ending') {
      // One sound swapped, two layers doubled an octave up, before strengths are made of it; and a semitone lower.
      await hand.click(page.getByRole('link', { name: 'Patch', exact: true }));
      await hand.click(desk.row('Brass').locator('td').first());
      await hand.press('w');
      await hand.type(page.getByRole('searchbox', { name: 'Search sounds' }), 'ferry organ');
      await expect(page.getByRole('dialog')).toHaveCount(0);
      await hand.press('e');
      await hand.click(page.getByRole('tab', { name: 'Treatments' }));
      await hand.click(page.getByRole('button', { name: 'Add doubling' }));
      // The ledger stands beside the drawer.
      await hand.click(page.locator('pc-ledger tbody tr').first().locator('td').first());
      await hand.click(page.getByRole('button', { name: 'Add doubling' }));
      await expect(page.locator('pc-treatments-tab')).toContainText('doubling');
    }
    await strengths();
  }
  await hand.click(page.getByRole('combobox', { name: 'Sounding key' }));
  await hand.click(page.getByRole('option', { name: 'E♭', exact: true }));
  await expect(page.getByText('1 down')).toBeVisible();

  await desk.soundsReady();
  console.log(`the evening was built in ${hand.count} interactions`);
  expect(hand.count).toBeLessThanOrEqual(MOST);
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
  ]);
});
