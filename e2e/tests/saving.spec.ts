import type { APIRequestContext } from '@playwright/test';
import { Desk, chooseMore } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const TIDE = 'demo-saltglass-tide';

/** Saves something as another program would, of which this browser hears nothing. */
async function saveElsewhere(
  request: APIRequestContext,
  origin: string,
  path: string,
  change: (value: Record<string, unknown>) => void,
): Promise<void> {
  const saved = (await (await request.get(`${origin}/api/${path}`)).json()) as {
    revision: number;
    value: Record<string, unknown>;
  };
  change(saved.value);
  expect((await request.put(`${origin}/api/${path}`, { data: saved })).ok()).toBe(true);
}

test('what is saved in one window is shown in the other by itself', async ({
  desk,
  context,
  server,
}) => {
  await desk.openSong('Copper Weather');
  const other = await Desk.visit(await context.newPage(), server.origin);
  await expect(other.field('Level of Left-hand bass, dB')).toHaveValue('−4.0');
  await desk.type('Level of Left-hand bass, dB', '-9');
  await desk.saved();
  await expect(other.field('Level of Left-hand bass, dB')).toHaveValue('−9.0');
  await other.type('Level of Left-hand bass, dB', '-5');
  await other.saved();
  await expect(desk.field('Level of Left-hand bass, dB')).toHaveValue('−5.0');
  await expect(desk.page.getByRole('alertdialog')).toHaveCount(0);
});

test('what was saved elsewhere since is told in a player’s units; the version given up comes back by undoing', async ({
  desk,
  page,
  request,
  server,
}) => {
  await desk.openSong('Saltglass');
  await desk.type('Level of Swelling strings, dB', '-20');
  await desk.saved();
  await saveElsewhere(request, server.origin, `patches/${TIDE}`, (value) => {
    (value['layers'] as { level: number }[])[1].level = -2;
  });
  // A change of something else is saved while the player is asked.
  await desk.type('Level of Felt piano, dB', '-7');
  const dialog = page.getByRole('alertdialog');
  await expect(dialog).toContainText('This patch was saved elsewhere since');
  await expect(dialog.getByTestId('mine')).toHaveText('−7.0 dB');
  await expect(dialog.getByTestId('theirs')).toHaveText('−2.0 dB');
  await expect(page.getByTestId('saving')).toContainText('not saved');
  await dialog.getByRole('button', { name: 'Take the other' }).click();
  const level = desk.field('Level of Felt piano, dB');
  await expect(level).toHaveValue('−2.0');
  await desk.saved();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(level).toHaveValue('−7.0');
  await expect(page.getByTestId('status')).toContainText('Undone: the other version taken');
  await desk.saved();
  await page.reload();
  await expect(level).toHaveValue('−7.0');
});

test('a change that is refused for good is set aside, told, and holds nothing else back', async ({
  desk,
  page,
  request,
  server,
}) => {
  await desk.openSong('Nine Bells');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  const show = await (await request.get(`${server.origin}/api/shows/demo-show`)).json();
  show.value.order = show.value.order.filter(
    (entry: { songId?: string }) => entry.songId !== 'demo-nine-bells',
  );
  await request.put(`${server.origin}/api/shows/demo-show`, { data: show });
  const song = await (await request.get(`${server.origin}/api/songs/demo-nine-bells`)).json();
  await request.delete(`${server.origin}/api/songs/demo-nine-bells?revision=${song.revision}`);
  await page.getByRole('menuitem', { name: 'Copy of this patch' }).click();
  const saving = page.getByTestId('saving');
  await expect(saving).toHaveText('not saved');
  await desk.openSong('Saltglass');
  await desk.type('Level of Felt piano, dB', '-7');
  await expect
    .poll(async () => {
      const patch = await (await request.get(`${server.origin}/api/patches/${TIDE}`)).json();
      return patch.value.layers[1].level;
    })
    .toBe(-7);
  await expect(saving).toHaveText('not saved');

  await page.getByRole('button', { name: /set aside$/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Its song is not there any more');
  await dialog.getByRole('button', { name: 'Try again as it is' }).click();
  await expect(dialog.getByRole('button', { name: 'Try again as it is' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Keep as a copy' }).click();
  await expect(page.getByTestId('status')).toContainText('in my sounds');
  await dialog.getByRole('button', { name: 'Discard it' }).click();
  await expect(dialog).toContainText('Nothing is set aside any more');
  await dialog.getByRole('button', { name: 'Done' }).click();
  await desk.saved();
  const kept = await (await request.get(`${server.origin}/api/keepsakes`)).json();
  expect(JSON.stringify(kept)).toContain('"kind":"patch"');
});

test('a full disk is told in the header, and saving goes on by itself when there is room', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  // As the server answers when SQLite finds the disk full.
  const fault = { code: 'no-room', message: 'There is no room on the disk. Nothing was changed.' };
  await page.route(`**/api/patches/${TIDE}`, (route) =>
    route.fulfill({ status: 507, json: { error: fault } }),
  );
  await desk.type('Level of Felt piano, dB', '-7');
  await expect(page.getByTestId('saving')).toHaveText(
    'not saved: the disk is full. Your changes are safe in this window and are saved when there is room',
  );
  await expect(page.getByRole('button', { name: /set aside$/ })).toHaveCount(0);
  await page.unroute(`**/api/patches/${TIDE}`);
  await desk.saved();
  await page.reload();
  await expect(desk.field('Level of Felt piano, dB')).toHaveValue('−7.0');
});

test('undoing says what it took back and where, goes there, and leaves no empty page', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  const level = desk.field('Level of Felt piano, dB');
  await desk.type('Level of Felt piano, dB', '-11');
  await desk.openSong('Low Water Mark');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('status')).toHaveText(
    'Undone: level changed, in Piano over the tide of Saltglass',
  );
  await expect(page.getByRole('textbox', { name: 'Name of the patch' })).toHaveValue(
    'Piano over the tide',
  );
  await expect(level).toHaveValue('−3.0');

  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'New patch in this song' }).click();
  await expect(page.getByText('No layers yet')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('status')).toContainText('Undone: patch added');
  await expect(level).toBeVisible();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(page.getByText('No layers yet')).toBeVisible();
});

test('a backup is looked into and brought back, and what is damaged is named there', async ({
  page,
  outer,
}) => {
  const desk = await Desk.visit(page, outer.origin);
  await desk.openSong('Saltglass');
  await desk.type('Level of Felt piano, dB', '-11');
  await desk.saved();
  await chooseMore(page, 'Backups');
  await page
    .getByRole('button', { name: /^Look into/ })
    .last()
    .click();
  const content = page.getByRole('region', { name: 'What is in the backup' });
  await expect(content).toContainText('Night Tide at Pier Nine');
  await expect(content).toContainText('layers · Felt piano · level: then −3.0 dB, now −11.0 dB');
  await page
    .getByRole('button', { name: /^Bring back/ })
    .last()
    .click();
  await page.getByRole('dialog').getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByTestId('status')).toContainText('Brought back');
  await expect(page.getByRole('cell', { name: 'before another was brought back' })).toBeVisible();
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await expect(desk.field('Level of Felt piano, dB')).toHaveValue('−3.0');
  // The page goes on saving to what was brought back.
  await desk.type('Level of Felt piano, dB', '-5');
  await desk.saved();

  await outer.kill();
  outer.spoil(`update layers set keys = '{' where patch_id = '${TIDE}'`);
  await outer.restart();
  await page.goto(`${outer.origin}/backups`);
  const damaged = page.getByRole('region', { name: 'Damaged on the disk' });
  await expect(damaged).toContainText('Piano over the tide');
  await damaged.getByRole('button', { name: /^Bring it back as it was/ }).click();
  await expect(damaged).toHaveCount(0);
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await page.getByRole('button', { name: 'Saltglass', exact: true }).click();
  await expect(desk.field('Level of Felt piano, dB')).toHaveValue('−3.0');
});

test('a database that cannot be opened leads to its backups', async ({ page, outer }) => {
  await outer.kill();
  outer.damage();
  await outer.restart();
  await page.goto(`${outer.origin}/patch`);
  await expect(page.getByRole('alert')).toContainText('Nothing was changed');
  await page.getByRole('link', { name: 'Look into the backups' }).click();
  await page
    .getByRole('button', { name: /^Bring back/ })
    .first()
    .click();
  await page.getByRole('dialog').getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByTestId('status')).toContainText('Brought back');
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the patch' })).toBeVisible();
});
