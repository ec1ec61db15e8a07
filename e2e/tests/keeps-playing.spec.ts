import type { Page } from '@playwright/test';
import { programKept } from '../stage/alone.js';
import { Desk } from '../stage/desk.js';
import { Ear } from '../stage/ear.js';
import { Rig } from '../stage/rig.js';
import { expect, test } from '../stage/test.js';

const cue = (page: Page) => page.getByTestId('cue');
const trimOf = (page: Page, layer: string) =>
  page.getByRole('region', { name: layer }).getByTestId('trim');

async function showtime(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Showtime' }).click();
  await expect(cue(page)).toHaveText('intro');
}

/** Everything that is needed is in the browser: the program, the show and its sounds. */
async function readyAlone(page: Page, origin: string): Promise<void> {
  const desk = await Desk.visit(page, origin);
  await desk.openSong('Copper Weather');
  await programKept(page);
}

/** Strikes a key until it is heard: the sounds of a page that was opened anew are read from the browser. */
async function isHeard(page: Page): Promise<void> {
  const [rig, ear] = [new Rig(page), new Ear(page)];
  await page.mouse.click(640, 300);
  await expect(page.getByTestId('voices')).toBeVisible();
  await expect(async () => {
    await ear.listen();
    await rig.press(64, 90);
    await rig.release(64);
    await ear.pass(0.1);
    expect(Math.max(...(await ear.heard()).map(({ level }) => level))).toBeGreaterThan(-50);
  }).toPass();
}

const noteOf = async (page: Page, origin: string, id: string) =>
  (await (await page.request.get(`${origin}/api/cues/${id}`)).json()).value.note as string;

test('the server killed in the midst of a cue: reloaded, played and edited, the same cue; and the edit arrives when it is back', async ({
  alone,
}) => {
  const { page, origin } = alone;
  const server = await alone.serve();
  await readyAlone(page, origin);
  await showtime(page);
  await page.keyboard.press('Space');
  await page.keyboard.press('Space');
  await expect(cue(page)).toHaveText('second verse');
  await page.getByRole('button', { name: 'Softer: Felt piano' }).click();
  await page.keyboard.press('t');
  await page.getByRole('button', { name: 'Lift the lock' }).click();
  await page.getByRole('button', { name: 'A semitone lower' }).click();
  await expect(page.getByText('Hands in E, sounds in D')).toBeVisible();

  await server.kill();
  await page.reload();
  await expect(cue(page)).toHaveText('second verse');
  await expect(trimOf(page, 'Felt piano')).toHaveText('−1.0 dB');
  await expect(page.getByText('Hands in E, sounds in D')).toBeVisible();
  await isHeard(page);
  await expect(page.getByText('Server away')).toBeVisible();
  await page.getByRole('button', { name: 'Lift the lock' }).click();
  const note = page.getByRole('textbox', { name: 'What the cue says' });
  await note.fill('wait for the bells');
  await note.press('Tab');
  await expect(page.locator('.note', { hasText: 'wait for the bells' })).toBeVisible();
  // It survives the page too, and no question is asked about it.
  await page.reload();
  await expect(page.locator('.note', { hasText: 'wait for the bells' })).toBeVisible();
  // The window that is gone gives the show up in its own time.
  await isHeard(page);
  await page.keyboard.press('Space');
  await expect(cue(page)).toHaveText('lift');

  await server.restart();
  await expect
    .poll(() => noteOf(page, origin, 'demo-copper-weather-cue-3').catch(() => ''))
    .toBe('wait for the bells');
  await expect(page.getByText('Server away')).toBeHidden();
});

test('a tab that crashes and is opened again is at the same cue, without a server too', async ({
  alone,
}) => {
  const { page, origin, context } = alone;
  const server = await alone.serve();
  await readyAlone(page, origin);
  await showtime(page);
  await page.keyboard.press('Space');
  await expect(cue(page)).toHaveText('verse');
  await page.getByRole('button', { name: 'Louder: Glass bells' }).click();
  await expect(trimOf(page, 'Glass bells')).toHaveText('+1.0 dB');
  await server.kill();
  const crashed = page.waitForEvent('crash');
  await Promise.all([crashed, page.goto('chrome://crash').catch(() => undefined)]);
  const another = await context.newPage();
  await another.goto(`${origin}/showtime`);
  await expect(cue(another)).toHaveText('verse');
  await expect(trimOf(another, 'Glass bells')).toHaveText('+1.0 dB');
  await isHeard(another);
});

test('what was changed meanwhile and elsewhere too is shown with both versions, and neither is lost', async ({
  alone,
}) => {
  const { page, origin } = alone;
  const server = await alone.serve();
  await readyAlone(page, origin);
  await server.kill();
  const desk = new Desk(page);
  await desk.type('Level of Felt piano, dB', '-7');
  await expect(page.getByTestId('saving')).toContainText('not saved');
  await page.goto('about:blank');
  await server.restart();
  const path = `${origin}/api/patches/demo-copper-weather-under`;
  const saved = await (await page.request.get(path)).json();
  saved.value.name = 'Changed elsewhere';
  await page.request.put(path, { data: saved });
  await page.goto(`${origin}/patch`);
  const panel = page.getByRole('alertdialog');
  await expect(panel).toBeVisible();
  await expect(panel).toContainText('Changed elsewhere');
  await expect(panel).toContainText('−7');
  await panel.getByRole('button', { name: 'Keep mine' }).click();
  await desk.saved();
  const after = await (await page.request.get(path)).json();
  expect(after.value.layers[1].level).toBe(-7);
});

test('a new version of the program waits until the show is over', async ({ alone }) => {
  const { page, origin } = alone;
  let asked = 0;
  let isNew = false;
  await alone.serveInside({
    answer: (request, response) => {
      // By a service worker; the page of this test asks for it too.
      if (!request.url?.startsWith('/ngsw.json?') || !isNew) return false;
      asked++;
      void fetch(`${origin}/ngsw.json`).then(async (plain) => {
        const manifest = (await plain.json()) as object;
        response.setHeader('Content-Type', 'application/json');
        response.end(JSON.stringify({ ...manifest, appData: { version: 'new' } }));
      });
      return true;
    },
  });
  await readyAlone(page, origin);
  await showtime(page);
  await page.keyboard.press('Space');
  isNew = true;
  for (const name of ['verse', 'second verse']) {
    await page.reload();
    await expect(cue(page)).toHaveText(name);
    // The worker has been asked, and has looked for nothing.
    await page.evaluate(
      () =>
        new Promise<void>((done) => {
          const nonce = Math.floor(Math.random() * 1e8);
          navigator.serviceWorker.addEventListener('message', ({ data }) => {
            if (data.type === 'OPERATION_COMPLETED' && data.nonce === nonce) done();
          });
          navigator.serviceWorker.controller?.postMessage({ action: 'CHECK_FOR_UPDATES', nonce });
        }),
    );
    expect(asked).toBe(0);
    await page.keyboard.press('Space');
  }
  await page.getByRole('button', { name: 'Lift the lock' }).click();
  await page.getByRole('link', { name: 'Desk' }).click();
  await page.waitForURL('**/patch');
  await page.reload();
  const take = page.getByRole('button', { name: 'Take the new version' });
  await expect(take).toBeVisible({ timeout: 30_000 });
  expect(asked).toBeGreaterThan(0);
  await take.click();
  await expect(take).toHaveCount(0);
  await expect(page.getByRole('textbox', { name: 'Name of the patch' })).toBeVisible();
});

test('a browser that keeps nothing, and a place that is gone: both are told, and the show is played', async ({
  desk,
  page,
  context,
  server,
}) => {
  await desk.openSong('Nine Bells');
  await desk.saved();
  // The place that is remembered is one that no longer exists.
  await page.evaluate(() => {
    const kept = JSON.parse(localStorage.getItem('pentachord place') ?? '{}');
    kept.at = Date.now() + 1000;
    kept.value = { ...kept.value, songId: 'gone', entryId: 'gone', cueId: 'gone' };
    localStorage.setItem('pentachord place', JSON.stringify(kept));
    sessionStorage.clear();
  });
  await page.goto(`${server.origin}/patch`);
  await expect(page.getByTestId('status')).toContainText('is not there any more');
  await expect(page.getByRole('button', { name: 'Saltglass', exact: true })).toBeVisible();

  const strange = await context.newPage();
  await strange.addInitScript(() => {
    const refuse = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
    Storage.prototype.setItem = refuse;
    IDBFactory.prototype.open = refuse;
  });
  await strange.goto(`${server.origin}/showtime`);
  await expect(cue(strange)).toHaveText('intro');
  // Silent, it shows the tempo as it is written.
  await expect(strange.getByTestId('tempo')).toHaveText('98');
  await expect(strange.getByText(/Nothing kept|Browser store full/)).toBeVisible();
  // The first window plays: this one takes over before it steps on.
  await strange.getByRole('button', { name: 'Play here' }).click();
  await expect(strange.getByTestId('silent-window')).toHaveCount(0);
  await strange.keyboard.press('Space');
  await expect(cue(strange)).toHaveText('verse');
});

test('the sound device pulled out is told, and sound goes on by itself on another', async ({
  desk,
  ear,
  page,
}) => {
  await desk.openSong('Copper Weather');
  await showtime(page);
  await ear.listen();
  // Its clock stands still, as that of a device that is gone does.
  await page.evaluate(() => {
    const { analyser } = globalThis as unknown as { analyser: AnalyserNode };
    Object.defineProperty(analyser.context, 'currentTime', { get: () => 5 });
  });
  await expect(page.getByText('Sound device gone')).toBeVisible();
  await expect(page.getByText('Sound device gone')).toBeHidden();
  await expect(page.getByText(/Sound (\d+ %|broke off)/)).toBeVisible();
  await isHeard(page);
});

test('a band plays on through a swapped sound, another tempo, a cue and a killed server; another song lets it end, and nothing hangs', async ({
  alone,
}) => {
  const { page, origin } = alone;
  const server = await alone.serve();
  const desk = await Desk.visit(page, origin);
  await desk.openSong('Low Water Mark');
  await programKept(page);
  const rig = new Rig(page);
  const strike = async (key: number) => {
    await rig.press(key, 90, 'lower');
    await rig.release(key, 'lower');
  };
  // All begin.
  await strike(56);
  await expect.poll(() => desk.output()).toBeGreaterThan(3);
  await page.getByRole('button', { name: /^Sound of Ebb bass:/ }).click();
  await page.getByRole('dialog').getByRole('searchbox').fill('keel bass');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await desk.soundsReady();
  await server.kill();
  await page.getByRole('link', { name: 'Showtime' }).click();
  const playing = page.locator('[data-accompanist]', { hasText: 'push' });
  await expect(playing).toBeVisible();
  await page.keyboard.press('Space');
  await expect(cue(page)).toHaveText('verse');
  await page.keyboard.press('t');
  await page.keyboard.press('t');
  await expect(playing).toBeVisible();
  await page.keyboard.press('Space');
  await page.keyboard.press('Space');
  // The next song: the bass finishes its bar, the others stop.
  await expect(cue(page)).not.toHaveText('out');
  await expect(page.getByTestId('voices')).toHaveText('0 voices', { timeout: 15_000 });
});
