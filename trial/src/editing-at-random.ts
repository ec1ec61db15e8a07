import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Locator, type Page } from '@playwright/test';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';
import { startServer } from './running-server.js';

const CHROMIUM = '/usr/bin/chromium';
/** The songs of the running order, which lead to their patches. */
const SONGS = 'pc-ribbon ol button';

/**
 * Edits the demo in the page by mouse, keyboard and undo, at random, and compares what the page shows, what the server has,
 * and what a page that is opened anew shows.
 */
export async function editAtRandom(count: number, seed = 51): Promise<Finding[]> {
  const what = `${count.toLocaleString('en')} random edits by mouse, keyboard and undo: differences between page, server and reload`;
  if (!existsSync(CHROMIUM))
    return [{ what, found: `not tried: no ${CHROMIUM}`, promised: '0', holds: true }];
  const data = await mkdtemp(join(tmpdir(), 'pentachord-trial-'));
  const { child, origin } = await startServer(data);
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking', '--no-first-run'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.setDefaultTimeout(4000);
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  page.on('dialog', (dialog) => void dialog.accept());
  await page.goto(`${origin}/patch`);
  await page.locator('pc-ledger tbody tr').first().waitFor();
  const chance = new Chance(seed);
  let done = 0;
  for (let edit = 0; edit < count; edit++) {
    try {
      await editOnce(page, chance);
      done++;
    } catch {
      // What cannot be pressed now, such as a row that has just gone, is no edit.
      await page.keyboard.press('Escape');
    }
  }
  await saved(page);
  const shown = await everythingShown(page);
  const server = await documentAt(origin);
  await page.reload();
  await page.locator('pc-ledger tbody tr').first().waitFor();
  const again = await everythingShown(page);
  await saved(page);
  const differences =
    shown.filter((line, index) => line !== again[index]).length +
    (server === (await documentAt(origin)) ? 0 : 1);
  const apart = shown.findIndex((line, index) => line !== again[index]);
  if (apart >= 0) console.log(firstApart(shown[apart], again.at(apart) ?? ''), `(seed ${seed})`);
  await browser.close();
  const ended = once(child, 'exit');
  child.kill('SIGKILL');
  await ended;
  await rm(data, { recursive: true, force: true });
  return [
    {
      what,
      found: `${differences} after ${done.toLocaleString('en')} that could be carried out, ${problems.length} errors in the page`,
      promised: '0',
      holds: differences === 0 && problems.length === 0 && done > count / 2,
    },
  ];
}

async function editOnce(page: Page, chance: Chance): Promise<void> {
  const roll = chance.whole(0, 99);
  if (roll < 28) await typeNumber(page, chance);
  else if (roll < 40) await stepNumber(page, chance);
  else if (roll < 54) await dragEdge(page, chance);
  else if (roll < 64) await press(page, chance, /^(Mute|Solo) /);
  else if (roll < 78) await page.getByRole('button', { name: 'Undo', exact: true }).click();
  else if (roll < 84) await page.getByRole('button', { name: 'Redo', exact: true }).click();
  else if (roll < 88) await rename(page, chance);
  else if (roll < 93) await fromMenu(page, chance);
  else await (await one(page.locator(SONGS), chance)).click();
}

async function typeNumber(page: Page, chance: Chance): Promise<void> {
  const field = await one(page.locator('pc-ledger').getByRole('spinbutton'), chance);
  const label = (await field.getAttribute('aria-label')) ?? '';
  const text = label.startsWith('Level')
    ? String(-chance.whole(0, 240) / 4)
    : label.startsWith('Pan')
      ? `${chance.whole(0, 100)}${chance.of(['L', 'R'])}`
      : label.startsWith('Fade')
        ? String(chance.whole(0, 12))
        : String(chance.whole(1, 60));
  await field.fill(text);
  await field.press(chance.of(['Enter', 'Enter', 'Escape', 'Tab']));
}

async function stepNumber(page: Page, chance: Chance): Promise<void> {
  const field = await one(page.locator('pc-ledger').getByRole('spinbutton'), chance);
  await field.focus();
  for (let step = chance.whole(1, 4); step > 0; step--)
    await page.keyboard.press(chance.of(['ArrowUp', 'ArrowDown', 'Shift+ArrowUp']));
}

async function dragEdge(page: Page, chance: Chance): Promise<void> {
  await (await one(page.locator('pc-field .label'), chance)).click();
  const corner = await one(page.locator('pc-field circle.corner'), chance);
  const box = await corner.boundingBox();
  if (!box) return;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  for (let step = 0; step < 4; step++)
    await page.mouse.move(box.x + chance.whole(-160, 160), box.y + chance.whole(-120, 120));
  await page.mouse.up();
}

async function press(page: Page, chance: Chance, name: RegExp): Promise<void> {
  await (await one(page.locator('pc-ledger').getByRole('button', { name }), chance)).click();
}

async function rename(page: Page, chance: Chance): Promise<void> {
  const box = await one(page.getByRole('textbox', { name: /^Name of/ }), chance);
  await box.fill(chance.of(['Low', 'High', 'Über alles', 'L10', '🎹 piano', '  ']));
  await box.press(chance.of(['Enter', 'Escape', 'Tab']));
}

async function fromMenu(page: Page, chance: Chance): Promise<void> {
  await press(page, chance, /^More for /);
  const wanted = /^(Duplicate|Move up|Move down|Make its own|Remove)/;
  await (await one(page.getByRole('menuitem', { name: wanted, disabled: false }), chance)).click();
}

async function one(all: Locator, chance: Chance): Promise<Locator> {
  const count = await all.count();
  if (count === 0) throw new Error('there is none');
  return all.nth(chance.whole(0, count - 1));
}

async function saved(page: Page): Promise<void> {
  await page.waitForFunction(
    () => document.querySelector('[data-testid="saving"]')?.textContent === 'saved',
    undefined,
    { timeout: 30_000 },
  );
}

/** What the page shows of every song: names, numbers, what is pressed. */
async function everythingShown(page: Page): Promise<string[]> {
  const shown: string[] = [];
  for (const song of await page.locator(SONGS).allInnerTexts()) {
    await page.getByRole('button', { name: song, exact: true }).click();
    await page.locator(`ol [aria-current="true"]`, { hasText: song }).waitFor();
    shown.push(
      await page.evaluate(() => {
        const values = [...document.querySelectorAll<HTMLInputElement>('.title, pc-ledger input')];
        const muted = [...document.querySelectorAll('pc-ledger [aria-label^="Mute"]')];
        return [
          ...values.map((box) => `${box.getAttribute('aria-label')}: ${box.value}`),
          ...muted.map((button) => String(button.getAttribute('aria-pressed'))),
        ].join('\n');
      }),
    );
  }
  return shown;
}

/** The first line in which two pages differ, as each has it. */
function firstApart(shown: string, again: string): string {
  const lines = again.split('\n');
  const at = shown.split('\n').findIndex((line, index) => line !== lines[index]);
  return `${shown.split('\n').at(at)} | ${lines.at(at) ?? ''}`;
}

async function documentAt(origin: string): Promise<string> {
  return (await fetch(`${origin}/api/repertoire`)).text();
}
