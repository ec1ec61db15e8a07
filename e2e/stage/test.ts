import { test as base, type BrowserContext } from '@playwright/test';
import { Desk } from './desk.js';
import { Rig } from './rig.js';
import { RunningServer } from './server.js';

/** Where all tests of a worker live: one browser profile and one address, so that sounds once made are remembered. */
interface Home {
  context: BrowserContext;
  /** Port of every server, one after the other; 0 before the first. */
  port: string;
}

/** What a page remembers of the player; what it has measured of the machine may stay. */
function forgetPlayer(): void {
  for (const key of Object.keys(localStorage))
    if (key !== 'pentachord machine') localStorage.removeItem(key);
}

/** Tests against the real application: a server of their own, the desk, and the stand-in rig. */
export const test = base.extend<
  { server: RunningServer; desk: Desk; rig: Rig; problems: string[] },
  { home: Home }
>({
  home: [
    async ({ browser }, use) => {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      await use({ context, port: '0' });
      await context.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ home }, use) => {
    await use(home.context);
    for (const page of home.context.pages()) await page.close();
  },
  server: async ({ home }, use) => {
    const server = await RunningServer.start(home.port);
    home.port = new URL(server.origin).port;
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
    await page.goto(`${server.origin}/api/health`);
    await page.evaluate(forgetPlayer);
    await page.goto(`${server.origin}/patch`);
    await use(new Desk(page));
  },
  rig: async ({ page }, use) => {
    await use(new Rig(page));
  },
});
export { expect } from '@playwright/test';
