import { goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

test('a cue clicked while the patch is as written is played, and what is added says that all cues have it', async ({
  desk,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await expect(page.getByRole('radio', { name: 'as written' })).toBeChecked();
  await page.getByRole('button', { name: 'second verse' }).click();
  await expect(page.getByRole('radio', { name: /^cue: second verse/ })).toBeChecked();
  await desk.select('Felt piano');
  await page.keyboard.press('d');
  const notice = page.locator('pc-added-notice');
  await expect(notice).toContainText(
    'Felt piano 2 is added to the patch, and sounds in all 4 cues',
  );
  await notice.getByRole('button', { name: 'Only in second verse' }).click();
  await expect(notice.getByRole('status')).toHaveCount(0);
  const mute = page.getByRole('button', { name: 'Mute Felt piano 2', exact: true });
  await expect(mute).toHaveAttribute('aria-pressed', 'false');
  await page.getByRole('button', { name: 'verse', exact: true }).click();
  await expect(mute).toHaveAttribute('aria-pressed', 'true');
});

test('a letter is a shortcut wherever the focus is, says what it did, and the words end with the next deed', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('button', { name: 'Add layer' }).click();
  await expect(page.getByRole('searchbox', { name: 'Search sounds' })).toBeFocused();
  await page.keyboard.type('warm pad');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // The focus is back on the button that was pressed; A asks again all the same.
  await page.keyboard.press('a');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await desk.select('Felt piano');
  await rig.press(62);
  await rig.release(62);
  await page.keyboard.press('l');
  await expect(page.getByTestId('status')).toHaveText(/^Felt piano plays D4–.* now\.$/);
  await page.keyboard.press('m');
  await expect(page.getByTestId('status')).toHaveText('');
});

test('what can be undone survives a reload', async ({ desk, page }) => {
  await desk.openSong('Saltglass');
  await desk.type('Level of Felt piano, dB', '-17');
  await desk.type('Pan of Felt piano', 'L30');
  await expect(desk.field('Pan of Felt piano')).toHaveValue('30L');
  await desk.saved();
  // It is kept a moment after the last edit.
  await expect
    .poll(() =>
      page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const opening = indexedDB.open('pentachord desk');
            opening.onsuccess = () => {
              const own = `history ${sessionStorage.getItem('pentachord window')}`;
              const asked = opening.result.transaction('about').objectStore('about').get(own);
              asked.onsuccess = () =>
                resolve((asked.result?.past as unknown[] | undefined)?.length ?? 0);
            };
          }),
      ),
    )
    .toBe(2);
  await page.reload();
  const undo = page.getByRole('button', { name: 'Undo' });
  await expect(undo).toBeEnabled();
  await undo.click();
  await undo.click();
  await expect(desk.field('Level of Felt piano, dB')).not.toHaveValue('−17.0');
  await expect(undo).toBeDisabled();
});

test('Controls says first what a control does already, and a key on a wrong channel brings its mend', async ({
  desk,
  rig,
  page,
}) => {
  await desk.openSong('Saltglass');
  await goToRoom(page, 'Rig', 'Controls');
  await page.getByRole('button', { name: 'Touch a control for Next cue' }).click();
  await rig.control(64, 127);
  const told = page.locator('pc-controls-view .told');
  await expect(told).toContainText('does already: sustain');
  await told.getByRole('button', { name: 'Cancel' }).click();
  await expect(told).toHaveText('');

  await goToRoom(page, 'Rig', 'Channels');
  await rig.bytes('stand-in lower keys', [0x94, 60, 80, 0x84, 60, 0]);
  const remarks = page.getByRole('list', { name: 'Remarks' });
  await expect(remarks).toContainText('Lower keys sends on channel 5; channel 2 is written of it');
  await remarks.getByRole('button', { name: 'write channel 5 of Lower keys' }).click();
  await expect(remarks).not.toContainText('is written of it');

  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  for (const layer of await desk.layers()) {
    await page.getByRole('button', { name: new RegExp(`^${layer} listens to`) }).click();
    await page.getByRole('menuitem', { name: /^channel/ }).click();
    await page.getByRole('menuitem', { name: '9', exact: true }).click();
  }
  await rig.press(60);
  const banner = page.locator('pc-silence-banner');
  await expect(banner).toContainText('no layer listens to channel 1');
  await banner.getByRole('button', { name: /listen to any channel/ }).click();
  // What mends is fetched when it is asked for first: a key that is struck before it came is silent still.
  await expect(async () => {
    await rig.press(62);
    await expect.poll(() => desk.layerMeter('Felt piano'), { timeout: 1500 }).toBeGreaterThan(5);
  }).toPass();
});

test('strengths of a song that has cues go in place of them or behind, and keys of two modes are remarked on', async ({
  desk,
  page,
}) => {
  await desk.openSong('Paper Lighthouse');
  await page.getByRole('link', { name: 'Song', exact: true }).click();
  const marks = page.locator('pc-cue-line .mark');
  await expect(marks).toHaveCount(4);
  const strengths = page.getByRole('button', { name: 'Three strengths' });
  await strengths.click();
  await page.getByRole('menuitem', { name: 'In place of the 4 cues' }).click();
  await expect(page.getByTestId('status')).toContainText('They stand at 0:00, 1:43, 3:27');
  await expect(marks).toHaveCount(3);
  await page.keyboard.press('Control+z');
  await expect(marks).toHaveCount(4);

  const hands = page.getByRole('combobox', { name: 'Key of the hands' });
  await hands.focus();
  await page.keyboard.type('Bbm');
  await expect(hands).toHaveText('B♭m');
  // Together until the sounding key is set by itself.
  await expect(page.getByRole('combobox', { name: 'Sounding key' })).toHaveText('B♭m');
  await page.getByRole('combobox', { name: 'Sounding key' }).focus();
  await page.keyboard.type('C');
  await expect(page.getByText('hands in a minor key, sounds in a major one')).toBeVisible();
  await page.getByRole('button', { name: 'make both minor' }).click();
  await expect(page.getByRole('combobox', { name: 'Sounding key' })).toHaveText('Cm');
});

test('the show begun in the middle asks where from, and the plan counts from there', async ({
  desk,
  page,
}) => {
  await desk.openSong('Ferry to Nowhere');
  await page.getByRole('link', { name: 'Showtime' }).click();
  await page.getByRole('button', { name: 'Begin the show' }).click();
  await page.getByRole('menuitem', { name: /^From here: Ferry to Nowhere/ }).click();
  await expect(page.getByTestId('plan')).toHaveText('on time');
  await expect(page.getByTestId('elapsed')).toHaveText(/^2\d:/);
});

test('a tooltip goes to a side where it covers no other control', async ({ desk, page }) => {
  await desk.openSong('Copper Weather');
  await desk.type('Level of Felt piano, dB', '-7');
  const tooltip = page.locator('mat-tooltip-component');
  for (const control of [
    page.getByRole('button', { name: 'Undo' }),
    page.getByRole('button', { name: 'Keyboard shortcuts' }),
    page.getByRole('link', { name: 'Copper Weather' }),
  ]) {
    await control.hover();
    await expect(tooltip).toBeVisible();
    const covered = await tooltip.evaluate((words) => {
      const box = words.getBoundingClientRect();
      return [...document.querySelectorAll('button, a[href], input')]
        .filter((other) => !other.matches(':hover'))
        .filter((other) => {
          const { left, top, right, bottom } = other.getBoundingClientRect();
          const isBeside = right < box.left + 1 || left > box.right - 1;
          return !isBeside && top < box.bottom - 1 && bottom > box.top + 1;
        })
        .map((other) => other.getAttribute('aria-label') ?? other.textContent?.trim());
    });
    expect(covered).toEqual([]);
    await page.mouse.move(300, 780);
    await expect(tooltip).toHaveCount(0);
  }
});
