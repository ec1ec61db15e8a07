import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import {
  newCue,
  newPatch,
  newPatchSound,
  newLayer,
  newSong,
  songEntry,
} from '@pentachord/core/model';
import { newShow, type Patch } from '@pentachord/core/model';
import { fillLibrary, fillRig } from '@pentachord/server/demo/fill';
import { openDatabase } from '@pentachord/server/store/database';
import { Store } from '@pentachord/server/store/store';
import { workOfMarkedTasks } from './frames.js';
import { serve, visitor } from './serving.js';
import { quantile, type Result } from './table.js';

/** A show of a thousand cues: each song has ten, by turns of two patches of eight layers. */
const SONGS = 100;
const CUES = 10;
const LAYERS = 8;
const CHANGES = 1000;
const WARM_UP = 40;
/** The name under which a browser’s trace tells of a change. */
const CHANGE = 'a change of cue';
/** Milliseconds of an audio block of 128 frames at 48 kHz. */
const BLOCK = (128 / 48_000) * 1000;
/** Milliseconds within which Showtime is there. */
const THERE = 2000;
const RUNS = 5;

/** Playing a large show: opening it in Showtime, going on, and being back after a reload, with the server and without. */
export async function measureShowtime(browser: Browser): Promise<Result[]> {
  const data = await mkdtemp(join(tmpdir(), 'pentachord-bench-'));
  const knex = await openDatabase(join(data, 'pentachord.sqlite'));
  await fillShow(new Store(knex));
  await knex.destroy();
  const { server, origin } = await serve(data);
  try {
    const page = await visitor(browser);
    // The first time sounds are made, which is measured by itself.
    await opening(page, `${origin}/showtime`);
    await page.locator('pc-getting-ready section').waitFor({ state: 'detached', timeout: 120_000 });
    // On the desk: in Showtime nothing is asked about the program.
    await page.goto(`${origin}/shows`);
    await kept(page);
    const opened: number[] = [];
    for (let run = 0; run < RUNS; run++) opened.push(await opening(page, `${origin}/showtime`));
    const changes = await changing(browser, page);
    server.kill('SIGKILL');
    const alone: number[] = [];
    for (let run = 0; run < RUNS; run++) alone.push(await opening(page, `${origin}/showtime`));
    await page.context().close();
    return [
      {
        what: `next to the new patch of ${LAYERS} layers being able to sound: work of the main thread, 99 of 100 of ${CHANGES} within`,
        value: quantile(changes, 0.99),
        goal: BLOCK,
        unit: 'ms',
      },
      {
        what: `a show of ${SONGS * CUES} cues open in Showtime, the slowest of ${RUNS}`,
        value: Math.max(...opened),
        goal: THERE,
        unit: 'ms',
      },
      {
        what: `the same after a reload without a server, the slowest of ${RUNS}`,
        value: Math.max(...alone),
        goal: THERE,
        unit: 'ms',
      },
    ];
  } finally {
    server.kill();
    await rm(data, { recursive: true, force: true });
  }
}

/** From asking for the page to its cue being painted. */
async function opening(page: Page, address: string): Promise<number> {
  await page.goto(address, { waitUntil: 'commit' });
  return page.evaluate(async () => {
    while (!document.querySelector('[data-testid="cue"]')?.textContent)
      await new Promise((then) => setTimeout(then));
    await new Promise((then) => requestAnimationFrame(then));
    return performance.now();
  });
}

/** Milliseconds of work of the main thread for each press of the key that goes on. */
async function changing(browser: Browser, page: Page): Promise<number[]> {
  await page.keyboard.press('Shift');
  const press = (count: number) =>
    page.evaluate(
      async ([mark, times]) => {
        for (let change = 0; change < times; change++) {
          // As fast as the guard lets a player go on; in a task of its own.
          await new Promise((then) => setTimeout(then, 150));
          performance.mark(mark);
          document.dispatchEvent(
            new KeyboardEvent('keydown', { key: 'ArrowRight', code: 'ArrowRight', bubbles: true }),
          );
        }
      },
      [CHANGE, count] as const,
    );
  // A few before, in which the browser gets used to it; the show begins anew at its end.
  await press(WARM_UP);
  return workOfMarkedTasks(browser, page, CHANGE, () => press(CHANGES));
}

/** Waits until the browser keeps program and show. */
async function kept(page: Page): Promise<void> {
  for (let look = 0; look < 200; look++) {
    if (await page.evaluate(isKept)) return;
    await page.waitForTimeout(300);
  }
  throw new Error('the browser does not keep the program');
}

/** Runs in the page. */
async function isKept(): Promise<boolean> {
  if (!navigator.serviceWorker.controller) return false;
  const asked = await fetch('/ngsw.json');
  if (!asked.ok) return false;
  const answer = (await asked.json()) as { assetGroups: { urls: string[] }[] };
  const all = await Promise.all(
    answer.assetGroups[0].urls.map((url) => caches.match(url, { ignoreVary: true })),
  );
  return all.every((response) => response !== undefined);
}

async function fillShow(store: Store): Promise<void> {
  await fillLibrary(store);
  await fillRig(store);
  await store.together(async (inside) => {
    const [rig] = await inside.all('rigs');
    const order: ReturnType<typeof songEntry>[] = [];
    for (let s = 0; s < SONGS; s++) {
      const songId = `song-${s}`;
      await inside.save('songs', { revision: 0, value: newSong(songId, `Song ${s}`) });
      for (const half of [0, 1])
        await inside.save('patches', { revision: 0, value: eightLayers(songId, half) });
      for (let c = 0; c < CUES; c++) {
        const cue = newCue(`cue-${s}-${c}`, songId, c, `cue ${c}`, `${songId}-${c % 2}`);
        const balance = { [`layer-${c % LAYERS}`]: { level: -c } };
        await inside.save('cues', { revision: 0, value: { ...cue, atSeconds: c * 20, balance } });
      }
      order.push(songEntry(`entry-${s}`, songId));
    }
    const show = newShow('large', 'A long night', '2027-01-01', rig.value.id);
    const going = { ...show.going, guardSeconds: 0, atEnd: 'wrap' as const };
    await inside.save('shows', { revision: 0, value: { ...show, order, going } });
  });
}

const SOUNDS = ['felt-piano', 'tine-piano', 'glass-bells', 'warm-pad'];

function eightLayers(songId: string, half: number): Patch {
  const id = `${songId}-${half}`;
  const sounds = SOUNDS.map((name, i) => newPatchSound(`sound-${i}`, `house-${name}`));
  const layers = Array.from({ length: LAYERS }, (_, i) => ({
    ...newLayer(`layer-${i}`, `Layer ${i}`, `sound-${i % SOUNDS.length}`),
    keys: { low: 28 + i * 6, high: 103, fadeIn: 3, fadeOut: 0, law: 'equalPower' as const },
    level: -6 - i,
  }));
  return { ...newPatch(id, songId, half, `Patch ${half}`), sounds, layers };
}
