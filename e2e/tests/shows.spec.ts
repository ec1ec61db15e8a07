import { readFile } from 'node:fs/promises';
import type { Locator, Page } from '@playwright/test';
import { Desk } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const view = (page: Page, name: string) => page.getByRole('link', { name, exact: true }).click();
const row = (page: Page, song: string) =>
  page.getByRole('table').getByRole('row', { name: new RegExp(song) });
const order = (page: Page) => page.getByRole('table').locator('tbody tr .name');
const status = (page: Page) => page.getByTestId('status');

/** Copies tonight’s show for another night, and opens the copy. */
async function copyAndOpen(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Copy for another night' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'called' }).fill('Another night');
  await dialog.getByRole('button', { name: 'Make the copy' }).click();
  await expect(status(page)).toContainText('Night Tide at Pier Nine stays open');
  await page.getByRole('button', { name: 'Open Another night', exact: true }).click();
  await expect(page).toHaveURL(/running-order$/);
}

test('one song in two shows: changed for tonight in one, made permanent, undone', async ({
  desk,
  page,
}) => {
  await view(page, 'Shows');
  await copyAndOpen(page);
  await view(page, 'Shows');
  await expect(page.getByText('Nothing differs.')).toBeVisible();
  await view(page, 'Running order');
  await row(page, 'Nine Bells').click();
  const tempo = page.getByRole('spinbutton', { name: 'Tempo tonight' });
  await tempo.fill('126');
  await tempo.press('Enter');
  await expect(row(page, 'Nine Bells')).toContainText('tonight at 126');
  await page.getByRole('checkbox', { name: 'nine' }).uncheck();
  await expect(row(page, 'Nine Bells')).toContainText('1 cue left out');
  // The copy tells it, the other show knows nothing of it.
  await view(page, 'Shows');
  await expect(page.getByText('at 126, 1 cue left out', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Open Night Tide at Pier Nine', exact: true }).click();
  await expect(row(page, 'Nine Bells')).not.toContainText('tonight');
  await expect(row(page, 'Nine Bells')).toContainText('132');

  await view(page, 'Shows');
  await page.getByRole('button', { name: 'Open Another night', exact: true }).click();
  await row(page, 'Nine Bells').click();
  await page.getByRole('button', { name: 'Make permanent' }).click();
  await expect(status(page)).toContainText('also in Night Tide at Pier Nine');
  await view(page, 'Shows');
  await page.getByRole('button', { name: 'Open Night Tide at Pier Nine', exact: true }).click();
  await expect(row(page, 'Nine Bells')).toContainText('126');
  await page.locator('pc-order-log').click({ position: { x: 300, y: 12 } });
  await page.keyboard.press('Control+z');
  await expect(row(page, 'Nine Bells')).toContainText('132');
  await desk.saved();
  await page.reload();
  await expect(row(page, 'Nine Bells')).toContainText('132');
});

test('the night is put in order by hand and by keyboard, several places at once', async ({
  desk,
  page,
}) => {
  await view(page, 'Running order');
  const grip = (song: string) => row(page, song).locator('.grip');
  const from = await grip('Saltglass').boundingBox();
  const to = await row(page, 'Paper Lighthouse').boundingBox();
  if (!from || !to) throw new Error('the list is not there');
  await page.mouse.move(from.x + 6, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x + 6, from.y + 30, { steps: 4 });
  await page.mouse.move(from.x + 6, to.y + to.height - 2, { steps: 10 });
  await page.mouse.up();
  await expect(order(page).nth(2)).toHaveText('Saltglass');
  await expect(row(page, 'Saltglass')).toContainText('20:27');

  await row(page, 'Nine Bells').click();
  await row(page, 'Low Water Mark').click({ modifiers: ['Control'] });
  await page.keyboard.press('Alt+ArrowUp');
  await expect(order(page)).toHaveText([
    'Copper Weather',
    'Paper Lighthouse',
    'Saltglass',
    'talk',
    'Nine Bells',
    'Low Water Mark',
    'Ferry to Nowhere',
    'Lantern Song',
  ]);
  await page.keyboard.press('Control+z');
  await expect(order(page).nth(4)).toHaveText('Ferry to Nowhere');
  await desk.saved();
});

test('songs are found as one types or written by their name; talk, encores and the end of the slot', async ({
  desk,
  page,
}) => {
  await desk.saved();
  await view(page, 'Running order');
  const box = page.getByRole('searchbox', { name: /^A song’s name/ });
  await box.fill('lant');
  await expect(page.getByText('Enter takes Lantern Song')).toBeVisible();
  await box.press('Enter');
  await expect(row(page, 'Lantern Song').last()).toContainText('again');
  await page.getByRole('button', { name: '+ talk, a break' }).click();
  await page.getByRole('menuitem', { name: 'talk' }).click();
  // How long it is comes first.
  await expect(page.getByRole('spinbutton', { name: 'Length of talk' })).toBeFocused();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(order(page)).toHaveCount(9);
  await box.fill('Gullwing');
  await expect(page.getByText('Enter writes “Gullwing”')).toBeVisible();
  await box.press('Enter');
  await expect(row(page, 'Gullwing')).toContainText('none yet');
  // 46:40, the song again and the new one: over the slot by 0:40.
  await expect(page.getByRole('alert')).toContainText('0:40 over: Gullwing would end after 3:20');
  await expect(page.getByRole('alert')).toContainText('Without talk: 53:40');
  await row(page, 'Gullwing').click();
  await page.getByRole('switch', { name: 'encore, not counted' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect(page.getByTestId('sums')).toContainText('51:40');
  await expect(page.getByTestId('sums')).toContainText('ends 21:06');
  await page.getByRole('textbox', { name: 'Start' }).fill('2030');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('sums')).toContainText('ends 21:21');
});

test('a song that another show needs stays, and is said to; a song without patches has a way on', async ({
  desk,
  page,
}) => {
  await desk.saved();
  await view(page, 'Shows');
  await copyAndOpen(page);
  await row(page, 'Saltglass').click();
  await page.getByRole('button', { name: 'Remove from the repertoire' }).click();
  await expect(status(page)).toContainText('Night Tide at Pier Nine needs it');
  await expect(page.getByRole('button', { name: 'Add Saltglass' })).toBeVisible();
  const box = page.getByRole('searchbox', { name: /^A song’s name/ });
  await box.fill('Slack Tide');
  await box.press('Enter');
  await row(page, 'Slack Tide').click();
  await page.getByRole('button', { name: 'Open the song' }).click();
  await expect(page.getByText('No patch yet: nothing sounds.')).toBeVisible();
  // What needs a patch waits for one; what makes one is offered.
  await expect(page.getByRole('button', { name: 'Three strengths' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Empty patch' }).click();
  await expect(page).toHaveURL(/\/patch$/);
});

test('shows are dated, put away, brought back and removed; their songs stay', async ({
  desk,
  page,
}) => {
  await view(page, 'Shows');
  await page.getByRole('button', { name: 'New show' }).click();
  await expect(page.getByText('No song yet.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Name of the show' }).fill('Low Water Matinee');
  await page.keyboard.press('Enter');
  await view(page, 'Shows');
  const date = page.getByRole('textbox', { name: 'Date of Low Water Matinee' });
  await page
    .getByRole('row')
    .filter({ has: date })
    .getByRole('button', { name: 'Open calendar' })
    .click();
  await page
    .locator('mat-calendar')
    .getByRole('button', { name: /\b15\b/ })
    .click();
  await expect(date).toHaveValue(/15/);
  await page.getByRole('button', { name: 'More of Low Water Matinee' }).click();
  await page.getByRole('menuitem', { name: 'Put away' }).click();
  await expect(page.getByRole('radio', { name: 'Put away (1)' })).toBeVisible();
  // Another one is open now.
  await expect(page.locator('pc-ribbon strong')).toHaveText('Night Tide at Pier Nine');
  await page.getByRole('radio', { name: 'Put away (1)' }).click();
  await page.getByRole('button', { name: 'More of Low Water Matinee' }).click();
  await page.getByRole('menuitem', { name: 'Bring back' }).click();
  await page.getByRole('radio', { name: 'Shows (2)' }).click();
  await page.getByRole('button', { name: 'More of Night Tide at Pier Nine' }).click();
  await page.getByRole('menuitem', { name: /^Remove/ }).click();
  await expect(status(page)).toContainText('Its songs stay in the repertoire');
  await view(page, 'Running order');
  await expect(page.getByRole('button', { name: 'Add Nine Bells' })).toBeVisible();
  await desk.saved();
});

test('the demo is removed whole and brought back, and a new installation offers either beginning', async ({
  page,
  server,
}) => {
  await page.goto(server.origin);
  await page.getByRole('button', { name: 'Open the demo show' }).click();
  await expect(order(page).first()).toHaveText('Saltglass');
  await view(page, 'Shows');
  await page.getByRole('button', { name: 'Remove the demo' }).click();
  await expect(page.getByText('No show yet: make one above.')).toBeVisible();
  await page.goto(server.origin);
  await expect(
    page.getByRole('heading', { name: 'What shall the night begin with?' }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Open the demo show' }).click();
  await expect(order(page)).toHaveCount(8);
});

test('two windows on one show: what is put in order in one is so in the other', async ({
  desk,
  page,
  context,
  server,
}) => {
  await view(page, 'Running order');
  const other = await context.newPage();
  await other.goto(`${server.origin}/running-order`);
  await expect(order(other)).toHaveCount(8);
  await row(page, 'Lantern Song').click();
  await page.keyboard.press('Alt+ArrowUp');
  await desk.saved();
  await expect(order(other).nth(6)).toHaveText('Lantern Song');
  await row(other, 'Saltglass').click();
  await other.keyboard.press('Delete');
  await expect(order(page)).toHaveCount(7);
  await new Desk(other).saved();
});

test('songs come out of a table and go out as one; what was not understood is told, and one undo takes all back', async ({
  desk,
  page,
}) => {
  await page.getByRole('link', { name: 'Running order' }).click();
  const rows = page.locator('pc-order-log tbody tr');
  const before = 8;
  await expect(rows).toHaveCount(before);
  const choose = async (item: string) => {
    await page.getByRole('button', { name: 'Sheet, tables' }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  const saved = async (item: string) => {
    const download = page.waitForEvent('download');
    await choose(item);
    return readFile(await (await download).path());
  };
  const dialog = page.getByRole('dialog');
  const bringIn = async (name: string, buffer: Buffer) => {
    await choose('Songs from a table or a list…');
    const chooser = page.waitForEvent('filechooser');
    await dialog.getByRole('button', { name: 'Choose a file…' }).click();
    await (await chooser).setFiles({ name, mimeType: 'text/csv', buffer });
  };
  await bringIn(
    'night.csv',
    Buffer.from(
      'Title;BPM;Key;Duration\r\nTide Table;88;E flat minor;4:05\r\nnine bells;128;;\r\nSand Bar;fast;H-Moll;3 min\r\n',
    ),
  );
  await expect(dialog.getByRole('status')).toHaveText(/line 4: “fast” is not a tempo/);
  await expect(dialog.getByRole('row', { name: /nine bells/ })).toContainText('with other tempo');
  await dialog.getByRole('checkbox', { name: /change songs that are there/ }).check();
  await dialog.getByRole('button', { name: 'Take 3 lines' }).click();
  await expect(rows).toHaveCount(before + 3);
  await expect(page.getByRole('row', { name: /Sand Bar/ })).toContainText('Bm');
  await desk.saved();
  const order = await saved('Save this order as CSV');
  expect(order.toString()).toContain('song,Nine Bells,,Em,F♯m,128,6/8,5:50,,');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(rows).toHaveCount(before);
  expect((await saved('Save the repertoire as CSV')).toString()).toMatch(/Nine Bells,,Em,F♯m,132/);

  // What was written is read again. The songs of that night differ where something is otherwise that night, and where it was undone.
  await bringIn('again.csv', order);
  await expect(dialog.getByRole('row', { name: /is there$/ })).toHaveCount(5);
  await expect(dialog.getByRole('row', { name: /is there, with other/ })).toHaveCount(3);
  await expect(dialog.getByRole('row', { name: /new song/ })).toHaveCount(2);
  await expect(dialog.getByRole('status')).toHaveCount(0);
});

test('the sheet for the stand is seen before it is printed, in parts and on the paper that are wanted', async ({
  desk,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await view(page, 'Running order');
  // What was changed just now is on it, however long saving takes.
  let save = () => undefined as void;
  const held = new Promise<void>((resolve) => (save = resolve));
  await page.route('**/api/shows/*', async (route) => {
    await held;
    await route.continue();
  });
  await page.getByRole('textbox', { name: 'Name of the show' }).fill('Night at Pier Ten');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Sheet, tables' }).click();
  await page.getByRole('menuitem', { name: 'Sheet for the stand…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Sheet for the stand' });
  const pages = dialog.getByRole('img', { name: /^Page/ });
  await expect(dialog).toContainText('The pages are being laid out…');
  // The server has long answered others when it is saved at last, and only then is it asked for the sheet.
  let early = 0;
  page.on('request', (request) => void (/sheets/.test(request.url()) && early++));
  await page.evaluate(async () => {
    for (let times = 0; times < 200; times++) await fetch('/api/health');
  });
  expect(early).toBe(0);
  save();
  await expect(pages).toHaveCount(9);
  const first = pages.first();
  await expect(first).toHaveAttribute('data-drawn', 'true');
  // There is ink on it.
  const dark = await first.evaluate((canvas: HTMLCanvasElement) => {
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    return data.filter((value, at) => at % 4 === 0 && value < 90).length;
  });
  expect(dark).toBeGreaterThan(1000);

  await dialog.getByRole('checkbox', { name: 'a page a song' }).uncheck();
  await expect(pages).toHaveCount(2);
  await dialog.getByRole('checkbox', { name: 'the rig, for setting up' }).uncheck();
  await expect(pages).toHaveCount(1);
  // However fast it is chosen, the last choice is what is seen.
  for (const paper of ['Letter', 'A4', 'Letter', 'A4', 'Letter'])
    await dialog.getByRole('radio', { name: paper }).click();
  await expect.poll(() => ratioOf(first)).toBeCloseTo(792 / 612, 2);

  const download = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Save as PDF' }).click();
  const saved = await download;
  expect(saved.suggestedFilename()).toBe('Night at Pier Ten 2027-08-14.pdf');
  const pdf = await readFile(await saved.path(), 'latin1');
  expect(pdf).toMatch(/^%PDF-/);
  expect(pdf).toContain('(Night at Pier Ten)');

  await dialog.getByRole('checkbox', { name: 'running order' }).uncheck();
  await expect(dialog).toContainText('Choose what is to stand on it.');
  await expect(dialog.getByRole('button', { name: 'Save as PDF' })).toBeDisabled();
});

const ratioOf = (page: Locator) =>
  page.evaluate((canvas: HTMLCanvasElement) => canvas.height / canvas.width);
