import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import {
  chromium,
  expect,
  type BrowserContext,
  type LaunchOptions,
  type Page,
} from '@playwright/test';
import { giveEar } from './ear.js';
import { forgetPlayer, RUN } from './forgetting.js';

/** What a browser of its own is made of. */
export interface AloneParts {
  /** Where its profile lies: sounds once made are kept there for the next time. */
  profile: string;
  /** The address that is visited. */
  origin: string;
  launchOptions: LaunchOptions | undefined;
  viewport: { width: number; height: number } | null | undefined;
}

/**
 * A browser with its service worker, as a player has it: it keeps the program and the desk, and its pages can crash. What an
 * earlier test left there is forgotten, except for the sounds.
 */
export async function openAlone({
  profile,
  origin,
  launchOptions,
  viewport,
}: AloneParts): Promise<{ context: BrowserContext; page: Page }> {
  await mkdir(profile, { recursive: true });
  for (const lock of ['SingletonLock', 'SingletonSocket', 'SingletonCookie'])
    await rm(join(profile, lock), { force: true });
  const context = await chromium.launchPersistentContext(profile, { ...launchOptions, viewport });
  await context.addInitScript(giveEar);
  // What the player changed and moved is forgotten once, with the first page; sounds stay.
  await context.addInitScript(forgetPlayer, RUN);
  await context.addCookies([{ name: RUN, value: String(Date.now()), url: origin }]);
  const page = context.pages()[0] ?? (await context.newPage());
  const client = await context.newCDPSession(page);
  await client.send('Storage.clearDataForOrigin', {
    origin,
    storageTypes: 'service_workers,cache_storage,local_storage',
  });
  await client.detach();
  return { context, page };
}

/** Waits until the service worker keeps the whole program, and this page is one of its own. */
export async function programKept(page: Page): Promise<void> {
  // A function that is waited for must not be a promise: that one is there at once.
  await expect
    .poll(
      () =>
        page.evaluate(async () => {
          if (!navigator.serviceWorker.controller) return false;
          const asked = await fetch('/ngsw.json');
          if (!asked.ok) return false;
          const manifest = (await asked.json()) as { assetGroups: { urls: string[] }[] };
          const { urls } = manifest.assetGroups[0];
          const kept = await Promise.all(
            urls.map((url) => caches.match(url, { ignoreVary: true })),
          );
          return kept.every((response) => response !== undefined);
        }),
      { timeout: 60_000 },
    )
    .toBe(true);
}
