import type { Browser, Page } from '@playwright/test';

/** Milliseconds of the work in a frame that a drag may make. */
export const WORK = 8;

/** What a browser’s trace tells, as far as it is read: times in microseconds, `tdur` those in which the thread was at work. */
interface TraceEvent {
  name: string;
  ph: string;
  pid: number;
  tid: number;
  ts: number;
  dur?: number;
  tdur?: number;
}

/** Milliseconds that the page’s main thread was at work from each frame to the next, whatever else the machine did; sorted. */
function workOfFrames(traceEvents: TraceEvent[]): number[] {
  const inOrder = traceEvents.sort((a, b) => a.ts - b.ts);
  const frames = inOrder.filter(({ name }) => name === FRAME_BEGINS);
  const tasks = tasksOf(inOrder, frames[0]);
  if (tasks.length === 0 || frames.length < 100) throw new Error('the trace tells no frames');
  const work = new Array<number>(frames.length).fill(0);
  let frame = -1;
  for (const { ts, dur = 0, tdur = 0 } of tasks) {
    while (frame + 1 < frames.length && frames[frame + 1].ts <= ts + dur) frame++;
    if (frame >= 0) work[frame] += tdur / 1000;
  }
  // What comes after the last frame is none of the hand's.
  work.pop();
  return work.sort((a, b) => a - b);
}

/** Milliseconds that the thread was at work in each task in which a mark of this name was set, whatever else the machine did; sorted. */
export async function workOfMarkedTasks(
  browser: Browser,
  page: Page,
  mark: string,
  marking: () => Promise<void>,
): Promise<number[]> {
  await browser.startTracing(page, { categories: ['toplevel', 'blink.user_timing'] });
  await marking();
  const { traceEvents } = JSON.parse((await browser.stopTracing()).toString()) as {
    traceEvents: TraceEvent[];
  };
  const marks = traceEvents.filter(({ name }) => name === mark);
  const tasks = tasksOf(traceEvents, marks[0]);
  let at = 0;
  const work = marks
    .sort((a, b) => a.ts - b.ts)
    .flatMap(({ ts }) => {
      while (at < tasks.length && tasks[at].ts + (tasks[at].dur ?? 0) < ts) at++;
      return at < tasks.length && tasks[at].ts <= ts ? [(tasks[at].tdur ?? 0) / 1000] : [];
    });
  if (work.length < marks.length * 0.9 || work.length === 0)
    throw new Error('the trace tells no tasks');
  return work.sort((a, b) => a - b);
}

/** Milliseconds that the page’s main thread was at work in its longest task meanwhile, whatever else the machine did. */
export async function workOfLongestTask(
  browser: Browser,
  page: Page,
  doing: () => Promise<void>,
): Promise<number> {
  await browser.startTracing(page, { categories: ['toplevel', 'blink.user_timing'] });
  await page.evaluate(() => performance.mark('here'));
  await doing();
  const { traceEvents } = JSON.parse((await browser.stopTracing()).toString()) as {
    traceEvents: TraceEvent[];
  };
  const here = traceEvents.find(({ name }) => name === 'here');
  if (!here) throw new Error('the trace tells no tasks');
  // The task of the mark itself also sets the tracing up.
  return tasksOf(traceEvents, here)
    .filter(({ ts }) => ts > here.ts)
    .reduce((most, { tdur = 0 }) => Math.max(most, tdur / 1000), 0);
}

/** The tasks of a mark’s thread, in the order in which they began. */
function tasksOf(traceEvents: readonly TraceEvent[], mark: TraceEvent | undefined): TraceEvent[] {
  return traceEvents
    .filter(
      ({ name, ph, pid, tid }) =>
        name === 'ThreadControllerImpl::RunTask' &&
        ph === 'X' &&
        pid === mark?.pid &&
        tid === mark.tid,
    )
    .sort((a, b) => a.ts - b.ts);
}

/** The name under which a browser's trace tells that a frame of a drag begins. */
const FRAME_BEGINS = 'a frame of the drag begins';

/** A stroke of the hand, from a place in pixels. */
interface Drag {
  x: number;
  y: number;
  frames: number;
  mark: string;
  /** What hears the hand: an element, or null for the whole page. */
  on: string | null;
  event: 'pointermove' | 'mousemove';
  /** How far it goes to the left and up, in pixels. */
  wide: number;
  high: number;
}

/**
 * Runs in the page: moves the pointer by a little in every frame, and takes the time from there to when the frame has been
 * laid out and painted.
 */
async function dragFrames({ x, y, frames, mark, on, event, wide, high }: Drag) {
  const target = on === null ? document : document.querySelector(on);
  const channel = new MessageChannel();
  const painted = () =>
    new Promise<void>((resolve) => {
      channel.port1.onmessage = () => resolve();
      channel.port2.postMessage(null);
    });
  const frame = () => new Promise<number>((resolve) => requestAnimationFrame(resolve));
  const work: number[] = [];
  const every: number[] = [];
  let before = await frame();
  for (let i = 0; i < frames; i++) {
    const now = await frame();
    if (i > 0) every.push(now - before);
    before = now;
    performance.mark(mark);
    const begun = performance.now();
    const away = (1 - Math.cos(i / 20)) / 2;
    const at = { clientX: x - wide * away, clientY: y - high * away, buttons: 1, bubbles: true };
    target?.dispatchEvent(
      event === 'mousemove'
        ? new MouseEvent(event, at)
        : new PointerEvent(event, { ...at, pointerId: 1 }),
    );
    await painted();
    work.push(performance.now() - begun);
  }
  return { work, every };
}

/** A stroke of the hand with the mouse down, and another while the browser traces: work a frame, and times to paint; sorted. */
export async function tracedDrag(
  browser: Browser,
  page: Page,
  drag: Omit<Drag, 'mark'>,
): Promise<{ work: number[]; painted: number[]; every: number[] }> {
  const stroke: Drag = { ...drag, mark: FRAME_BEGINS };
  // A first stroke of the hand, in which the browser gets used to it.
  await page.evaluate(dragFrames, { ...stroke, frames: 126 });
  const frames = await page.evaluate(dragFrames, stroke);
  await browser.startTracing(page, { categories: ['toplevel', 'blink.user_timing'] });
  await page.evaluate(dragFrames, stroke);
  const trace = JSON.parse((await browser.stopTracing()).toString()) as {
    traceEvents: TraceEvent[];
  };
  const sorted = (all: number[]) => all.sort((a, b) => a - b);
  return {
    work: workOfFrames(trace.traceEvents),
    painted: sorted(frames.work),
    every: sorted(frames.every),
  };
}
