import { expect, test } from '../stage/test.js';

/** A message to the module. */
interface Sent {
  /** When it is due, milliseconds of the day's clock. */
  at: number;
  bytes: number[];
}

const strikes = (sent: readonly Sent[]) =>
  sent.filter(({ bytes: [status, , velocity] }) => status >> 4 === 9 && velocity > 0);

/** The notes that still sound after these messages. */
function stillSounding(sent: readonly Sent[]): number[] {
  const sounding = new Set<number>();
  for (const { bytes } of sent.filter(({ bytes: [status] }) => (status & 0xe0) === 0x80)) {
    if (strikes([{ at: 0, bytes }]).length > 0) sounding.add(bytes[1]);
    else sounding.delete(bytes[1]);
  }
  return [...sounding];
}

test('an arpeggio reaches the module as bytes in time, and leaves no note when the keys go up', async ({
  desk,
  page,
  rig,
  context,
  server,
}) => {
  await desk.openSong('Ferry to Nowhere');
  const standIns = await context.newPage();
  await standIns.goto(`${server.origin}/stand-ins`);
  await standIns.evaluate(() => {
    const sent: Sent[] = [];
    Object.assign(globalThis, { sent });
    const cable = new BroadcastChannel('pentachord cable');
    cable.onmessage = ({ data }) => {
      if (data.direction === 'out')
        sent.push({ at: data.at ?? Date.now(), bytes: [...data.bytes] });
    };
  });
  const soFar = () => standIns.evaluate(() => (globalThis as unknown as { sent: Sent[] }).sent);
  await page.bringToFront();
  const drawer = await desk.open('Saloon reeds', 'Treatments');
  await drawer.getByRole('button', { name: 'Add arpeggio' }).click();
  await drawer.getByRole('combobox', { name: 'Rate of the arpeggio' }).click();
  await page.getByRole('option', { name: '1/8', exact: true }).click();
  await rig.chord([60, 64, 67], 100, 'lower');
  await expect.poll(async () => strikes(await soFar()).length).toBeGreaterThanOrEqual(6);
  for (const key of [60, 64, 67]) await rig.release(key, 'lower');
  await expect.poll(async () => stillSounding(await soFar())).toEqual([]);
  const struck = strikes(await soFar());
  // The layer sounds an octave lower; up, one after the other.
  expect(struck.slice(0, 4).map(({ bytes }) => bytes[1])).toEqual([48, 52, 55, 48]);
  // Eighths at 74 beats a minute, each to be sounded at its very time. The first comes with its key, at once.
  const steps = struck.slice(2, 6).map(({ at }, i) => at - struck[i + 1].at);
  for (const step of steps) expect(Math.abs(step - 30_000 / 74)).toBeLessThan(1);
});

test('treatments work in order on several layers, and a pad switches one on and off', async ({
  desk,
  page,
  rig,
  ear,
}) => {
  await desk.openSong('Low Water Mark');
  const drawer = await desk.open('Slack tine', 'Treatments');
  const arpeggio = drawer.locator('[data-treatment="arpeggio"]');
  await expect(arpeggio).toHaveClass(/off/);
  await rig.tapPad(5);
  await expect(arpeggio).not.toHaveClass(/off/);
  await expect(arpeggio).toContainText('by hand');
  await rig.tapPad(5);
  await expect(arpeggio).toHaveClass(/off/);
  await rig.tapPad(5);
  await arpeggio.getByRole('switch', { name: 'arpeggio on', exact: true }).click();
  await expect(arpeggio).toHaveClass(/off/);

  await drawer.getByRole('button', { name: 'Add chord' }).click();
  const chord = drawer.locator('[data-treatment="chord"]');
  await chord.getByRole('textbox').fill('0 4 7 12');
  await chord.getByRole('textbox').press('Enter');
  await chord.getByRole('button', { name: 'chord on Mud pad' }).click();
  const voices = page.getByTestId('voices');
  await rig.press(65, 80);
  await expect(voices).toHaveText('4 voices');
  await rig.release(65);
  await desk.quiet();
  await rig.press(65, 80, 'lower');
  await expect(voices).toHaveText('4 voices');
  // Taking it off while the keys are down ends what it had begun.
  await chord.getByRole('button', { name: 'Remove chord' }).click();
  await rig.release(65, 'lower');
  await desk.quiet();

  await drawer.getByRole('button', { name: 'Add sieve' }).click();
  await desk.type('Lowest velocity let through', '90');
  await rig.press(65, 80);
  await ear.pass(0.2);
  await expect(voices).toHaveText('0 voices');
  await expect(desk.trace('Slack tine')).toContainText('lets through velocities 90–127');
  await rig.release(65);
  await rig.press(65, 100);
  await expect(voices).toHaveText('1 voice');
  await rig.release(65);
  await desk.quiet();
  await desk.saved();
});
