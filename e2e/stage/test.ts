import { test as base } from '@playwright/test';
import { Desk } from './desk.js';
import { Rig } from './rig.js';
import { RunningServer } from './server.js';

/** Tests against the real application: a server of their own, the desk, and the stand-in rig. */
export const test = base.extend<{
  server: RunningServer;
  desk: Desk;
  rig: Rig;
  problems: string[];
}>({
  // eslint-disable-next-line no-empty-pattern -- Playwright reads what a fixture needs from this pattern.
  server: async ({}, use) => {
    const server = await RunningServer.start();
    await use(server);
    await server.close();
  },
  /** What went wrong in the page; a test that ends with any has failed. */
  problems: [
    async ({ page }, use) => {
      const problems: string[] = [];
      page.on('pageerror', (error) => problems.push(error.message));
      await use(problems);
      if (problems.length > 0) throw new Error(`errors in the page: ${problems.join('; ')}`);
    },
    { auto: true },
  ],
  desk: async ({ page, server }, use) => {
    await page.goto(`${server.origin}/patch`);
    await use(new Desk(page));
  },
  rig: async ({ page }, use) => {
    await use(new Rig(page));
  },
});
export { expect } from '@playwright/test';
