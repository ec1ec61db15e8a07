import type { Browser, CDPSession, Page } from '@playwright/test';
import { visitor } from './serving.js';
import { quantile, type Result } from './table.js';

/** Messages of the steady stream, and of the flood, a second. */
const STEADY = 1000;
const FLOOD = 5000;
const SECONDS = 6;
/** Lines that the monitor keeps. */
const KEPT = 200_000;
/**
 * Stand-ins’ bytes come over a channel of the browser, which hands each message from process to process; so is every picture where
 * there is no graphics card. On two cores they wait for one another, however little the page does: its own main thread is idle for
 * two thirds of the time, and the row from the port’s own event is what the path itself takes. Real MIDI does not come that way.
 */
const BETWEEN_PROCESSES =
  'the browser hands stand-ins’ messages over between its processes, which share the cores with what paints; the path’s own part is the row from the port’s own event';
/** Milliseconds of a frame at 50 Hz. */
const FRAME = 20;

/** The Monitor while much comes in: what it costs the path, frames, and memory. */
export async function measureMonitor(browser: Browser, origin: string): Promise<Result[]> {
  const floor = await inABarePage(browser, origin);
  const page = await visitor(browser);
  await page.addInitScript(timeThePath);
  await page.goto(`${origin}/monitor`);
  await page.locator('pc-monitor-view').waitFor();
  await page.keyboard.press('Shift');
  await page.locator('[data-testid="voices"][data-ready="true"]').waitFor({ timeout: 120_000 });
  // Until every sound of the show is made and listened to, that takes all cores of a small machine: it is measured by itself.
  await page.getByText(/^making/).waitFor({ state: 'detached', timeout: 120_000 });
  await stream(page, STEADY, SECONDS);
  const { took, alone } = await stream(page, STEADY, SECONDS);
  const { frames } = await stream(page, FLOOD, SECONDS);
  const client = await page.context().newCDPSession(page);
  await stream(page, FLOOD * 4, KEPT / (FLOOD * 4) + 1);
  const full = await heapOf(page, client);
  await stream(page, FLOOD * 4, KEPT / (FLOOD * 4) / 2);
  const later = await heapOf(page, client);
  await page.context().close();
  return [
    {
      what: `bytes at the port to the command, Monitor open, ${STEADY} messages a second, 99th percentile`,
      value: quantile(took, 0.99),
      goal: 2,
      unit: 'ms',
      limit: BETWEEN_PROCESSES,
    },
    {
      what: 'the same in a page that does nothing but listen, 99th percentile',
      value: quantile(floor, 0.99),
      goal: 2,
      unit: 'ms',
      limit: BETWEEN_PROCESSES,
    },
    {
      what: 'the same from the port’s own event, 99th percentile',
      value: quantile(alone, 0.99),
      goal: 2,
      unit: 'ms',
    },
    {
      what: `a frame of the Monitor at ${FLOOD} messages a second, mean`,
      value: frames,
      goal: FRAME,
      unit: 'ms',
    },
    {
      what: `memory of the page after ${(KEPT * 1.5).toLocaleString('en')} messages against ${KEPT.toLocaleString('en')}, ratio`,
      value: later / full,
      goal: 1.05,
      unit: '',
    },
  ];
}

/** The same stream into a page of the same origin that does nothing with it: what is taken before any of our work begins. */
async function inABarePage(browser: Browser, origin: string): Promise<number[]> {
  const page = await visitor(browser);
  await page.addInitScript(timeThePath);
  await page.route('**/bare', (route) => route.fulfill({ contentType: 'text/html', body: 'bare' }));
  await page.goto(`${origin}/bare`);
  await page.evaluate(() =>
    new BroadcastChannel('pentachord cable').addEventListener('message', () => undefined),
  );
  await stream(page, STEADY, 1);
  const { took } = await stream(page, STEADY, SECONDS);
  await page.context().close();
  return took;
}

/** What the page tells of a stream. */
interface Streamed {
  /** Milliseconds from a message coming in until it was carried out, sorted. */
  took: number[];
  /** Milliseconds from its listener being called, sorted. */
  alone: number[];
  /** Milliseconds of a frame, mean. */
  frames: number;
}

declare global {
  /** Ends of the path, by the number of the message, milliseconds of the day; filled by {@link timeThePath}. */
  var pathEnds: number[];
  /** How long each took from its listener being called, milliseconds. */
  var pathTook: number[];
}

/** Remembers, before the page starts, when each message of the cable was carried out: the path waits for nothing. */
function timeThePath(): void {
  globalThis.pathEnds = [];
  globalThis.pathTook = [];
  const numbers = new WeakMap<Event, number>();
  globalThis.BroadcastChannel = class extends BroadcastChannel {
    override addEventListener(type: string, listener: EventListenerOrEventListenerObject): void {
      super.addEventListener(type, (event: Event) => {
        const from = performance.now();
        if (typeof listener === 'function') listener.call(this, event);
        const number = numbers.get(event) ?? pathEnds.length;
        pathTook[number] ??= performance.now() - from;
        numbers.set(event, number);
        pathEnds[number] = performance.timeOrigin + performance.now();
      });
    }
  };
}

/** Sends so many messages a second, from a worker whose clock is the page’s, and looks at the frames meanwhile. */
async function stream(page: Page, perSecond: number, seconds: number): Promise<Streamed> {
  return page.evaluate(
    async ({ perSecond, seconds }) => {
      const sender = `onmessage = () => {
        const channel = new BroadcastChannel('pentachord cable');
        const sent = [];
        const begun = performance.now();
        const all = ${perSecond * seconds};
        const go = () => {
          const due = Math.min(all, (performance.now() - begun) * ${perSecond / 1000});
          while (sent.length < due) {
            const i = sent.length;
            // As hands do it: notes now and then, a wheel and a pedal all the while.
            const key = 60 + Math.floor(i / 20) % 12;
            const bytes =
              i % 20 === 0 ? [0x90, key, 80] : i % 20 === 10 ? [0x80, key, 0] : [0xb0, i % 2 ? 1 : 11, i % 128];
            sent.push(performance.timeOrigin + performance.now());
            channel.postMessage({ direction: 'in', port: 'stand-in upper keys', bytes });
          }
          if (sent.length < all) setTimeout(go, 1);
          else postMessage(sent);
        };
        go();
      }`;
      globalThis.pathEnds = [];
      globalThis.pathTook = [];
      const worker = new Worker(URL.createObjectURL(new Blob([sender])));
      let frames = 0;
      let running = true;
      const from = performance.now();
      const count = () => {
        frames++;
        if (running) requestAnimationFrame(count);
      };
      requestAnimationFrame(count);
      const sent = await new Promise<number[]>((resolve) => {
        worker.onmessage = ({ data }: MessageEvent<number[]>) => resolve(data);
        worker.postMessage('go');
      });
      while (pathEnds.length < sent.length) await new Promise((then) => setTimeout(then, 5));
      running = false;
      worker.terminate();
      return {
        took: sent.map((at, i) => pathEnds[i] - at).sort((a, b) => a - b),
        alone: [...pathTook].sort((a, b) => a - b),
        frames: (performance.now() - from) / frames,
      };
    },
    { perSecond, seconds },
  );
}

/** Bytes of the page’s heap once what nobody needs is thrown away. */
async function heapOf(page: Page, client: CDPSession): Promise<number> {
  await client.send('HeapProfiler.collectGarbage');
  return page.evaluate(
    () => (performance as unknown as { memory: { usedJSHeapSize: number } }).memory.usedJSHeapSize,
  );
}
