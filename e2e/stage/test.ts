import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { test as base, chromium, type BrowserContext, type Page } from '@playwright/test';
import { openAlone } from './alone.js';
import { Desk } from './desk.js';
import { Ear, giveEar } from './ear.js';
import { forgetPlayer, RUN } from './forgetting.js';
import { fillTemplate, startInside } from './inner-server.js';
import { OuterServer } from './outer-server.js';
import { Rig } from './rig.js';
import { DATABASE, type ServerParts, type TestServer } from './server.js';

/** When this worker began: profiles outlive it, and a test that ended one run may begin the next. */
const STARTED = Date.now();
/** Ports of the workers, counted from here; sounds are remembered by address, so that each has always the same. */
const FIRST_PORT = 4410;
/** What browsers remember of one run is there for the next: sounds once made, which are known by what they are made from. */
const PROFILES = join(
  dirname(fileURLToPath(import.meta.url)),
  '../../node_modules/.cache/pentachord-e2e',
);

/** How far the ports of browsers of their own lie from the others. */
const OWN_PORTS = 20;

/** A browser of its own, and the servers that it visits at its one address; they are closed when the test is over. */
interface Alone {
  context: BrowserContext;
  page: Page;
  origin: string;
  /** A server that can be killed. */
  serve(): Promise<OuterServer>;
  /** A server inside the tests, which may answer otherwise. */
  serveInside(parts: Pick<ServerParts, 'answer'>): Promise<TestServer>;
}

/** Where all tests of a worker live, one after the other: a browser profile with its page, an address, a filled database. */
interface Home {
  context: BrowserContext;
  page: Page;
  port: number;
  /** A database with the demo, and one without. */
  templates: { demo: string; empty: string };
}

/** Tests against the real application: a server of their own, the desk, and the stand-in rig. */
export const test = base.extend<
  {
    /** What the database begins with: `test.use({ begins: 'empty' })`. */
    begins: 'demo' | 'empty';
    server: TestServer;
    outer: OuterServer;
    desk: Desk;
    rig: Rig;
    ear: Ear;
    problems: string[];
    /** A browser of its own, with its service worker, and an address that is only its own. */
    alone: Alone;
  },
  { home: Home }
>({
  home: [
    // Nothing is asked for, and Playwright reads that from an empty pattern.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use, { parallelIndex, project }) => {
      const profile = join(PROFILES, `browser-${parallelIndex}`);
      await mkdir(profile, { recursive: true });
      // A browser that was killed leaves a lock behind, which the next one would mind.
      for (const lock of ['SingletonLock', 'SingletonSocket', 'SingletonCookie'])
        await rm(join(profile, lock), { force: true });
      const { launchOptions, viewport } = project.use;
      const context = await chromium.launchPersistentContext(profile, {
        ...launchOptions,
        viewport,
        // What the build has made is tested, not what an earlier one left behind; tests that need it have a browser of their own.
        serviceWorkers: 'block',
      });
      await context.addInitScript(forgetPlayer, RUN);
      await context.addInitScript(giveEar);
      const folder = await mkdtemp(join(tmpdir(), 'pentachord-e2e-'));
      const templates = { demo: join(folder, DATABASE), empty: join(folder, `empty-${DATABASE}`) };
      await fillTemplate(templates.demo, true);
      await fillTemplate(templates.empty, false);
      const page = context.pages()[0] ?? (await context.newPage());
      // What is not saved at the end of a test is not missed.
      page.on('dialog', (dialog) => void dialog.accept());
      await use({ context, page, port: FIRST_PORT + parallelIndex, templates });
      await context.close();
      await rm(folder, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
  context: async ({ home }, use, { testId, retry }) => {
    const url = `http://127.0.0.1:${home.port}`;
    await home.context.addCookies([{ name: RUN, value: `${testId}-${retry}-${STARTED}`, url }]);
    await use(home.context);
    for (const page of home.context.pages()) if (page !== home.page) await page.close();
  },
  page: async ({ home, context }, use, { project }) => {
    // The context is asked for so that windows opened besides are closed.
    void context;
    const { page } = home;
    if (project.use.viewport) await page.setViewportSize(project.use.viewport);
    page.setDefaultTimeout(project.use.actionTimeout ?? 0);
    await use(page);
    await page.unrouteAll({ behavior: 'ignoreErrors' });
    // Leaves the desk, so that nothing of this test goes on into the next.
    await page.goto('about:blank');
  },
  begins: ['demo', { option: true }],
  server: async ({ home, begins }, use) => {
    const server = await startInside({ port: home.port, template: home.templates[begins] });
    await use(server);
    await server.close();
  },
  outer: async ({ home }, use) => {
    const server = await OuterServer.start({ port: home.port, template: home.templates.demo });
    await use(server);
    await server.close();
  },
  /** What went wrong in the page; a test that ends with any has failed. */
  problems: [
    async ({ page }, use) => {
      const problems: string[] = [];
      const note = (error: Error) => problems.push(error.message);
      page.on('pageerror', note);
      await use(problems);
      page.off('pageerror', note);
      if (problems.length > 0) throw new Error(`errors in the page: ${problems.join('; ')}`);
    },
    { auto: true },
  ],
  alone: async ({ home }, use, { parallelIndex, project }) => {
    const port = home.port + OWN_PORTS;
    const origin = `http://127.0.0.1:${port}`;
    const { launchOptions, viewport } = project.use;
    const profile = join(PROFILES, `alone-${parallelIndex}`);
    const opened = await openAlone({ profile, origin, launchOptions, viewport });
    opened.page.setDefaultTimeout(project.use.actionTimeout ?? 0);
    const parts = { port, template: home.templates.demo };
    const servers: TestServer[] = [];
    const kept = <S extends TestServer>(server: S) => {
      servers.push(server);
      return server;
    };
    await use({
      ...opened,
      origin,
      serve: async () => kept(await OuterServer.start(parts)),
      serveInside: async (more) => kept(await startInside({ ...parts, ...more })),
    });
    await opened.context.close();
    for (const server of servers) await server.close();
  },
  desk: async ({ page, server }, use) => {
    await use(await Desk.visit(page, server.origin));
  },
  rig: async ({ page }, use) => {
    await use(new Rig(page));
  },
  ear: async ({ page }, use) => {
    await use(new Ear(page));
  },
});
export { expect } from '@playwright/test';
