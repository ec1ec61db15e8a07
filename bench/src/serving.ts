import { spawn, type ChildProcess } from 'node:child_process';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Browser, Page } from '@playwright/test';
import { rememberOutput } from './onsets.js';

const MAIN = join(dirname(fileURLToPath(import.meta.url)), '../../server/dist/main.js');

/** The application over a folder of its own, on any port that is free. */
export async function serve(data: string): Promise<{ server: ChildProcess; origin: string }> {
  const server = spawn(process.execPath, [MAIN], {
    env: { ...process.env, PENTACHORD_PORT: '0', PENTACHORD_DATA: data },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const origin = await new Promise<string>((resolve) =>
    server.stdout.on('data', (text: Buffer) => {
      const address = /http:\/\/127\.0\.0\.1:\d+/.exec(text.toString());
      if (address) resolve(address[0]);
    }),
  );
  return { server, origin };
}

/** A page of a browser that was never here before. */
export async function visitor(
  browser: Browser,
  headers: Record<string, string> = {},
): Promise<Page> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    extraHTTPHeaders: headers,
    // What listens to the sound is no part of the application.
    bypassCSP: true,
  });
  const page = await context.newPage();
  // The runner of this file names functions by a helper that pages do not know.
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.addInitScript(exposeClock);
  await page.addInitScript(rememberOutput);
  return page;
}

/** Makes the audio clock readable from outside, before the page starts. */
function exposeClock(): void {
  const Original = AudioContext;
  class Watched extends Original {
    constructor(options?: AudioContextOptions) {
      super(options);
      Object.assign(globalThis, { audioClock: this });
    }
  }
  globalThis.AudioContext = Watched;
}

/** Opens a song and waits until it can be played. */
export async function openSong(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name, exact: true }).click();
  await page.keyboard.press('Shift');
  await soundsReady(page);
}

/** Waits until the sounds of the patch being played can be heard. */
export async function soundsReady(page: Page): Promise<void> {
  await page.locator('[data-testid="voices"][data-ready="true"]').waitFor({ timeout: 120_000 });
}
