import { expect, test } from '../stage/test.js';

test('the first load brings at most 380 kB of compressed script, and nothing from outside', async ({
  browser,
  server,
}) => {
  // A browser that has never been here: nothing is remembered, so that everything is counted.
  const fresh = await browser.newContext();
  const page = await fresh.newPage();
  const outside: string[] = [];
  const client = await fresh.newCDPSession(page);
  await client.send('Network.enable');
  const scripts = new Map<string, { url: string; bytes: number }>();
  client.on('Network.responseReceived', ({ requestId, type, response: { url } }) => {
    if (!url.startsWith(server.origin)) outside.push(url);
    if (type === 'Script') scripts.set(requestId, { url, bytes: 0 });
  });
  client.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const script = scripts.get(requestId);
    if (script) script.bytes = encodedDataLength;
  });
  // What is asked for once the first row stands is fetched beside the player, and not before.
  await page.addInitScript(() => {
    const watch = new MutationObserver(() => {
      if (!document.querySelector('pc-ledger tbody tr')) return;
      performance.mark('desk is there');
      watch.disconnect();
    });
    watch.observe(document, { childList: true, subtree: true });
  });
  await page.goto(`${server.origin}/patch`);
  await expect(page.locator('pc-ledger tbody tr').first()).toBeVisible();
  const before = await page.evaluate(() => {
    const [{ startTime: there }] = performance.getEntriesByName('desk is there');
    const fetched = performance.getEntriesByType('resource');
    return fetched.filter(({ startTime }) => startTime <= there).map(({ name }) => name);
  });
  const first = [...scripts.values()].filter(({ url }) => before.includes(url));
  const bytes = first.reduce((sum, script) => sum + script.bytes, 0);
  expect(first.length).toBeGreaterThan(2);
  expect(bytes).toBeGreaterThan(50_000);
  expect(bytes).toBeLessThanOrEqual(380_000);
  expect(outside).toEqual([]);
  await fresh.close();
});

test('pages keep to their own policy: no style, script or worker has to be let in besides', async ({
  desk,
  page,
  server,
}) => {
  const refused: string[] = [];
  page.on('console', (message) => {
    if (/Content Security Policy/i.test(message.text())) refused.push(message.text());
  });
  await page.goto(`${server.origin}/patch`);
  await desk.soundsReady();
  const drawer = await desk.open('Felt piano', 'Touch');
  await expect(drawer.locator('.apexcharts-svg')).toBeVisible();
  await page.getByRole('button', { name: 'Balance' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  for (const path of ['sounds', 'backups', 'showtime', 'stand-ins']) {
    await page.goto(`${server.origin}/${path}`);
    await expect(page.getByRole('button').first()).toBeVisible();
  }
  const policy = (await page.request.get(`${server.origin}/patch`)).headers();
  expect(policy['content-security-policy']).not.toContain("'unsafe-inline'");
  expect(policy['content-security-policy']).toMatch(/style-src-elem 'self' 'nonce-/);
  expect(refused).toEqual([]);
});

test('the running order shows songs as wide as they are long, and the total against the slot', async ({
  desk,
  page,
}) => {
  await expect(page.getByTestId('total')).toHaveText('46:40 of 55:00');
  const width = async (name: string) =>
    (await page.locator('pc-ribbon li', { hasText: name }).boundingBox())?.width ?? 0;
  const share = (await width('Ferry to Nowhere')) / (await width('Paper Lighthouse'));
  expect(share).toBeGreaterThan((520 / 310) * 0.93);
  expect(share).toBeLessThan((520 / 310) * 1.07);
  await desk.openSong('Copper Weather');
  await page.getByRole('button', { name: 'lift', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the patch' })).toHaveValue(
    'Bells over bass, all in',
  );
});

test('a server that does not answer is told in plain words, and can be tried again', async ({
  page,
  server,
}) => {
  await page.route('**/api/repertoire', (route) => route.abort());
  await page.goto(`${server.origin}/patch`);
  await expect(page.getByRole('alert')).toContainText('The show could not be opened');
  await page.unroute('**/api/repertoire');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.locator('pc-ledger tbody tr').first()).toBeVisible();
});
