import { expect, test } from '../stage/test.js';

test('ends go to the last key played or to the neighbour, and a layer is split at a key', async ({
  desk,
  page,
  rig,
}) => {
  await desk.openSong('Saltglass');
  await rig.press(50);
  await rig.release(50);
  await desk.select('Deep pad');
  await page.keyboard.press('h');
  await expect.poll(() => desk.keysOf('Deep pad')).toBe('E1–D3');
  await page.keyboard.press('u');
  await expect.poll(() => desk.keysOf('Deep pad')).toBe('E1–B3');
  await rig.press(45);
  await rig.release(45);
  await page.keyboard.press('x');
  await expect.poll(() => desk.layers()).toContain('Deep pad A2–B3');
  expect(await desk.keysOf('Deep pad E1–A♭2')).toBe('E1–A♭2');
  expect(await desk.keysOf('Deep pad A2–B3')).toBe('A2–B3');
  await rig.press(45);
  await expect(desk.trace('Deep pad A2–B3')).toContainText('sounds A2');
  await expect(desk.trace('Deep pad E1–A♭2')).toContainText('above its keys');
  await rig.release(45);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => desk.layers()).not.toContain('Deep pad A2–B3');
});

test('one layer is split three ways, and several share the keyboard or the strengths evenly', async ({
  desk,
  page,
}) => {
  await desk.openSong('Lantern Song');
  await desk.select('Felt piano');
  await page.keyboard.press('3');
  await expect.poll(() => desk.layers()).toHaveLength(4);
  expect(await desk.keysOf('Felt piano E1–F3')).toBe('E1–F3');
  await expect(desk.remark('silent')).toHaveCount(0);

  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => desk.layers()).toHaveLength(2);
  await desk.select('Felt piano');
  await desk.select('Tide strings', true);
  await page.keyboard.press('n');
  await expect.poll(() => desk.keysOf('Felt piano')).toBe('E1–F4');
  expect(await desk.keysOf('Tide strings')).toBe('F♯4–G7');
  await page.getByRole('button', { name: 'Arrange' }).click();
  await page.getByRole('menuitem', { name: 'Share the velocities out evenly' }).click();
  const strengths = ['Felt piano', 'Tide strings'].map((name) =>
    desk.field(`Lowest velocity of ${name}`),
  );
  await expect(strengths[0]).toHaveValue('1');
  await expect(strengths[1]).toHaveValue('65');
});

test('gaps close, overlaps go or become crossfades of their length, by one key', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  await desk.type('Highest key of Deep pad', 'E4');
  await desk.select('Deep pad');
  await desk.select('Felt piano', true);
  await page.keyboard.press('Shift+c');
  await expect(desk.field('Fade out over keys, Deep pad')).toHaveValue('5');
  await expect(desk.field('Fade in over keys, Felt piano')).toHaveValue('5');
  await page.keyboard.press('g');
  await expect.poll(() => desk.keysOf('Deep pad')).toBe('E1–C♯4');
  expect(await desk.keysOf('Felt piano')).toBe('D4–G7');
  await expect(desk.field('Fade out over keys, Deep pad')).toHaveValue('0');
});

test('an edge dragged with Shift takes its neighbours along, and low and high swap when they cross', async ({
  desk,
  page,
}) => {
  await desk.openSong('Saltglass');
  await page.getByRole('button', { name: 'A Deep pad' }).click();
  const field = await page.locator('pc-field').boundingBox();
  const edge = await page.locator('[data-handle="keys high"] .hit').boundingBox();
  if (!field || !edge) throw new Error('the edge is not there');
  const key = field.width / 76;
  const [x, y] = [edge.x + edge.width / 2, edge.y + edge.height * 0.2];
  await page.keyboard.down('Shift');
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 5 * key, y, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect.poll(() => desk.keysOf('Deep pad')).toBe('E1–F♯3');
  for (const layer of ['Felt piano', 'Swelling strings'])
    expect(await desk.keysOf(layer)).toBe('G3–G7');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => desk.keysOf('Felt piano')).toBe('C4–G7');
  await desk.type('Lowest key of Deep pad', 'C5');
  await expect.poll(() => desk.keysOf('Deep pad')).toBe('B3–C5');
});

test('what a key would sound is told on every key while the hand is on a transposition', async ({
  desk,
  page,
}) => {
  await desk.openSong('Copper Weather');
  const names = page.locator('pc-patch-view pc-keyboard .name');
  const before = await names.allInnerTexts();
  expect(before).toContain('C4');
  await desk.field('Transposition of Left-hand bass, semitones').hover();
  // The song sounds a semitone lower than it is fingered.
  await expect.poll(async () => (await names.allInnerTexts()).at(0)).toMatch(/^E♭\s1$/);
  expect(await names.count()).toBe(54 - 28 + 1);
  await page.getByRole('textbox', { name: 'Name of the patch' }).hover();
  await expect.poll(() => names.allInnerTexts()).toEqual(before);
});
