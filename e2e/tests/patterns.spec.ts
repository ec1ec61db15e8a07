import { readFile } from 'node:fs/promises';
import type { Locator, Page } from '@playwright/test';
import { readMidiFile, writeMidiFile } from '@pentachord/core/exchange';
import { goToRoom } from '../stage/desk.js';
import { expect, test } from '../stage/test.js';

const row = (page: Page, name: string): Locator => page.locator(`[data-pattern="${name}"]`);
const hear = (page: Page, name: string): Locator =>
  row(page, name).getByRole('button', { name: `Hear ${name}` });

test('a pattern is found as one types, heard with another on the beat, and taken to the next key by Enter', async ({
  desk,
  page,
}) => {
  await desk.openSong('Low Water Mark');
  await goToRoom(page, 'Library', 'Patterns');
  await hear(page, 'half tide').click();
  await expect.poll(() => desk.output()).toBeGreaterThan(3);
  const search = page.getByRole('searchbox', { name: 'Search patterns' });
  await search.fill('basses hold');
  await expect(page.locator('[data-pattern]')).toHaveCount(1);
  await hear(page, 'hold').click();
  await expect(row(page, 'hold')).toHaveAttribute('data-heard', 'true');
  await page.getByRole('button', { name: 'Silence' }).click();
  await desk.quiet();
  await row(page, 'hold').getByRole('button', { name: 'Favourite: hold' }).click();
  await search.press('Enter');
  // It goes to who plays basses already.
  await expect(page.getByRole('combobox', { name: 'Goes to' })).toContainText('Ebb bass');
  await search.fill('');
  await page.getByRole('option', { name: '★ Favourites' }).click();
  await expect(page.locator('[data-pattern]')).toHaveCount(1);
  await desk.saved();
  await page.getByRole('link', { name: 'Patch', exact: true }).click();
  await page.getByRole('link', { name: 'Band' }).click();
  const flags = page.locator('pc-key-flags');
  await expect(flags.getByRole('button', { name: 'hold', exact: true })).toHaveCount(2);
});

test('notes are mended by hand and by keys, heard while it runs, and it is undone', async ({
  desk,
  page,
}) => {
  await desk.openSong('Low Water Mark');
  await goToRoom(page, 'Library', 'Patterns');
  await page.getByRole('searchbox').fill('push up');
  await row(page, 'push up').getByText('push up', { exact: true }).click();
  await hear(page, 'push up').click();
  const chart = page.locator('pc-note-chart svg[role=group]');
  const notes = page.locator('pc-note-chart path');
  const count = await notes.count();
  await notes.first().click();
  const key = desk.field('Key of the note');
  const before = await key.inputValue();
  await chart.press('ArrowUp');
  await expect(key).not.toHaveValue(before);
  await chart.press('ArrowDown');
  await expect(key).toHaveValue(before);
  const beat = desk.field('Where the note begins, beats');
  const from = Number(await beat.inputValue());
  const box = await page.locator('pc-note-chart .chosen path').boundingBox();
  if (!box) throw new Error('no note is chosen');
  const wide = (await chart.boundingBox())?.width ?? 0;
  await page.mouse.move(box.x + 14, box.y + box.height / 2);
  await page.mouse.down();
  // Two of its eight beats.
  await page.mouse.move(box.x + 14 + wide / 4, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(beat).toHaveValue(String(from + 2));
  await chart.press('Insert');
  await expect(notes).toHaveCount(count + 1);
  await chart.press('Control+a');
  await chart.press('Delete');
  await expect(notes).toHaveCount(0);
  await desk.quiet();
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+z');
  await expect(notes).toHaveCount(count);
  await expect.poll(() => desk.output()).toBeGreaterThan(3);
});

test('bars of a MIDI file become a pattern, and a MIDI file is written of it', async ({
  desk,
  page,
}) => {
  const notes = [0, 1, 4, 5, 8, 9].map((beat, i) => ({
    ...{ beat, length: 0.5, key: 41 + i, velocity: 90 },
  }));
  const bytes = writeMidiFile({
    tracks: [{ name: 'Low road', channel: 2, notes, programs: [] }],
    tempos: [{ beat: 0, tempo: 96 }],
  });
  await desk.openSong('Low Water Mark');
  await goToRoom(page, 'Library', 'Patterns');
  const bring = async (name: string, buffer: Buffer) => {
    const asked = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Add MIDI files…' }).click();
    await (await asked).setFiles({ name, mimeType: 'audio/midi', buffer });
  };
  await bring('not.mid', Buffer.from('no midi at all'));
  await expect(page.getByTestId('status')).toContainText('not.mid was not taken');
  await bring('low road.mid', Buffer.from(bytes));
  const dialog = page.getByRole('dialog', { name: 'Patterns of low road' });
  await expect(dialog).toContainText('channel 2 · basses · 6 notes');
  await dialog.getByRole('slider', { name: 'First bar of Low road' }).press('ArrowRight');
  await dialog.getByRole('slider', { name: 'End of Low road' }).press('ArrowLeft');
  await expect(dialog).toContainText('bars 2–2');
  await dialog.getByRole('button', { name: 'Take 1 pattern' }).click();
  await expect(row(page, 'Low road')).toContainText('1 bar of 4/4');
  await desk.saved();
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Write a MIDI file' }).click();
  const written = readMidiFile(await readFile(await (await downloading).path()));
  expect(written.tracks[0].notes).toEqual(
    notes.slice(2, 4).map((n) => ({ ...n, beat: n.beat - 4 })),
  );
  expect(written.tempos).toEqual([{ beat: 0, tempo: 96 }]);
});

test('what hands play round and round becomes a pattern; a pass is taken back, and what was played is kept', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Low Water Mark');
  await goToRoom(page, 'Library', 'Patterns');
  await page.getByRole('button', { name: 'Record a pattern…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Length' }).click();
  await page.getByRole('option', { name: '1 bar, round and round' }).click();
  await dialog.getByRole('button', { name: 'Record' }).click();
  await expect(dialog).toContainText('Counts in');
  await expect(dialog).toContainText('Records: play.', { timeout: 10_000 });
  const play = async (key: number) => {
    await rig.press(key, 90);
    await rig.release(key);
  };
  await play(72);
  const notes = dialog.locator('pc-note-chart path');
  await expect(notes).toHaveCount(1);
  // In the next round it is heard again by itself, and another is played over it.
  await expect(dialog).toContainText('beat 5', { timeout: 10_000 });
  await play(76);
  await expect(notes).toHaveCount(2);
  await expect(dialog).toContainText('2 passes over one another');
  await dialog.getByRole('button', { name: 'Take back the last pass' }).click();
  await expect(notes).toHaveCount(1);
  await dialog.getByRole('button', { name: 'Stop' }).click();
  await dialog.getByRole('combobox', { name: 'Quantised to' }).click();
  await page.getByRole('option', { name: '1/8', exact: true }).click();
  await dialog.getByRole('textbox', { name: 'Called' }).fill('one bell');
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(row(page, 'one bell')).toContainText('1 bar of 4/4');
  await expect(page.getByRole('combobox', { name: 'Quantised to' })).toContainText('1/8');
  await desk.saved();
});
