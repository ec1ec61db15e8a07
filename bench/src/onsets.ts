import type { Page } from '@playwright/test';
import { quantile, type Result } from './table.js';

const STEPS = 110;
/** Steps a second: sixteenths at the tempo of the song, 87 beats a minute. */
const STEPS_A_SECOND = (87 * 4) / 60;
/** Clicks a second: eighths at 132 beats a minute. */
const CLICKS_A_SECOND = (132 * 2) / 60;
/** Seconds of a stroke that are compared, and how far off it is looked for. */
const STROKE = 0.012;
const FAR = 0.02;

/** Tries, since an audio clock that stands still tells nothing of when things are scheduled; and milliseconds it may stand. */
const ROUNDS = 3;
const MOST_STANDING = 10;

/** Milliseconds in which the main thread is busy at a time, and rests. */
interface Busy {
  least: number;
  most: number;
  rests: number;
}
const OFTEN: Busy = { least: 5, most: 25, rests: 4 };
export const HALF: Busy = { least: 8, most: 8, rests: 8 };

/** Runs on the audio thread: keeps what it hears, and gives it when asked. */
const RECORDER = `
registerProcessor('recorder', class extends AudioWorkletProcessor {
  heard = new Float32Array(sampleRate * 60);
  count = 0;
  constructor() {
    super();
    this.port.onmessage = () => this.port.postMessage(this.heard.slice(0, this.count));
  }
  process([input]) {
    if (input[0] && this.count + 128 <= this.heard.length) this.heard.set(input[0], this.count);
    this.count += 128;
    return true;
  }
});`;

interface Ears {
  audioClock: AudioContext;
  outgoing: AudioNode;
  recorder?: AudioWorkletNode;
  busy: boolean;
  /** Milliseconds by which the page’s clock was ahead of the audio clock when recording began. */
  apart: number;
}

/** Runs in the page before it starts: remembers what goes out to the loudspeakers. */
export function rememberOutput(): void {
  const connect = Reflect.get(AudioNode.prototype, 'connect') as (...all: unknown[]) => AudioNode;
  AudioNode.prototype.connect = function (this: AudioNode, ...all: unknown[]) {
    const [to] = all;
    const heard = to instanceof AudioDestinationNode && to.context instanceof AudioContext;
    if (heard && !('outgoing' in globalThis)) Object.assign(globalThis, { outgoing: this });
    return connect.apply(this, all);
  };
}

/**
 * How far from their time the strokes of an arpeggio begin in the sound itself, while the main thread is kept busy in pieces of up
 * to 25 ms.
 */
export async function measureOnsets(page: Page): Promise<Result[]> {
  await page.getByRole('button', { name: 'Solo Slack tine', exact: true }).click();
  await page.getByRole('button', { name: 'Open Slack tine', exact: true }).click();
  const drawer = page.locator('pc-layer-drawer');
  await drawer.getByRole('tab', { name: 'Treatments', exact: true }).click();
  await drawer.getByRole('combobox', { name: 'Rate of the arpeggio' }).click();
  await page.getByRole('option', { name: '1/16', exact: true }).click();
  const gate = drawer.getByRole('spinbutton', { name: 'Gate of the arpeggio, percent' });
  await gate.fill('25');
  await gate.press('Enter');
  const octaves = drawer.getByRole('spinbutton', { name: 'Octaves of the arpeggio' });
  await octaves.fill('1');
  await octaves.press('Enter');
  await drawer.getByRole('switch', { name: 'arpeggio on', exact: true }).click();
  // A small window: it is the main thread that is to be busy, not all that draws.
  await page.setViewportSize({ width: 320, height: 200 });
  return recorded(page, 'arpeggio', OFTEN, STEPS_A_SECOND, STEPS * 0.8, async () => {
    await strike(page, [0x90, 60, 100]);
    await page.waitForTimeout((STEPS / STEPS_A_SECOND) * 1000);
    await strike(page, [0x80, 60, 0]);
  });
}

/** The same of the click, in Showtime at Nine Bells: six eighths a bar at 132 beats a minute. */
export async function measureClicks(page: Page): Promise<Result[]> {
  await page.keyboard.press('5');
  await page.keyboard.press('Enter');
  await page.locator('p.song', { hasText: 'Nine Bells' }).waitFor();
  await page.setViewportSize({ width: 320, height: 200 });
  // The first of each bar is another sound, and is not compared.
  return recorded(page, 'click', HALF, CLICKS_A_SECOND, STEPS * 0.6, async () => {
    await page.keyboard.press('m');
    await page.waitForTimeout((STEPS / CLICKS_A_SECOND) * 1000);
    await page.keyboard.press('m');
  });
}

/** Has something played while the output is recorded and the main thread is busy, and compares its onsets with an even beat. */
export async function recorded(
  page: Page,
  what: string,
  busy: Busy,
  aSecond: number,
  fewest: number,
  play: () => Promise<void>,
): Promise<Result[]> {
  for (let round = 0; round < ROUNDS; round++) {
    await page.evaluate(startRecording, [RECORDER, busy] as const);
    await play();
    const { heard, sampleRate, stood } = await page.evaluate(stopRecording);
    if (stood > MOST_STANDING) continue;
    const errors = onsetErrors(heard, sampleRate, aSecond, fewest).sort((a, b) => a - b);
    return [
      {
        what: `${what} on a busy main thread, ${errors.length} strokes: error of onset, 99 of 100 within`,
        value: quantile(errors, 0.99),
        goal: 1,
        unit: 'ms',
      },
    ];
  }
  console.log(`this machine did not keep its audio going: onsets of the ${what} are left out`);
  return [];
}

/** Has a device send this. */
export async function strike(page: Page, bytes: number[]): Promise<void> {
  await page.evaluate((data) => {
    const cable = new BroadcastChannel('pentachord cable');
    for (const port of ['stand-in upper keys', 'stand-in lower keys'])
      cable.postMessage({ direction: 'in', port, bytes: data });
    cable.close();
  }, bytes);
}

/** Runs in the page. */
async function startRecording([recorder, busy]: readonly [string, Busy]): Promise<void> {
  const ears = globalThis as unknown as Ears;
  if (!ears.recorder) {
    const code = URL.createObjectURL(new Blob([recorder], { type: 'text/javascript' }));
    await ears.audioClock.audioWorklet.addModule(code);
  }
  const node = new AudioWorkletNode(ears.audioClock, 'recorder');
  ears.outgoing.connect(node).connect(ears.audioClock.destination);
  ears.recorder = node;
  ears.busy = true;
  ears.apart = performance.now() - 1000 * ears.audioClock.currentTime;
  const work = () => {
    const until = performance.now() + busy.least + (busy.most - busy.least) * Math.random();
    while (performance.now() < until) Math.sqrt(until);
    if (ears.busy) setTimeout(work, busy.rests);
  };
  work();
}

/** Runs in the page. */
async function stopRecording(): Promise<{
  heard: number[];
  sampleRate: number;
  stood: number;
}> {
  const ears = globalThis as unknown as Ears;
  ears.busy = false;
  const stood = performance.now() - 1000 * ears.audioClock.currentTime - ears.apart;
  const { recorder } = ears;
  if (!recorder) throw new Error('nothing was recorded');
  const heard = await new Promise<Float32Array>((resolve) => {
    recorder.port.onmessage = ({ data }: MessageEvent<Float32Array>) => resolve(data);
    recorder.port.postMessage(null);
  });
  ears.outgoing.disconnect(recorder);
  return { heard: [...heard], sampleRate: ears.audioClock.sampleRate, stood };
}

/** Milliseconds by which each stroke is away from an even beat; the first two, which follow the hand, are left out. */
function onsetErrors(
  heard: number[],
  sampleRate: number,
  aSecond: number,
  fewest: number,
): number[] {
  const samples = Float32Array.from(heard);
  const step = sampleRate / aSecond;
  const loudest = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
  const first = samples.findIndex((sample) => Math.abs(sample) > loudest / 50);
  if (loudest < 0.001 || first < 0) throw new Error('nothing was heard');
  const places: number[] = [];
  const count = Math.floor((samples.length - first) / step) - 2;
  // The stroke in the middle is what the others are compared with.
  const model = Math.round(first + Math.floor(count / 2) * step);
  const length = Math.round(STROKE * sampleRate);
  const far = Math.round(FAR * sampleRate);
  for (let n = 2; n < count; n++) {
    const about = Math.round(first + n * step);
    let best = -Infinity;
    let place = about;
    for (let at = about - far; at <= about + far; at++) {
      const likeness = correlation(samples, model, at, length);
      if (likeness > best) {
        best = likeness;
        place = at;
      }
    }
    if (best < 0.9) continue;
    places.push(place - n * step);
  }
  if (places.length < fewest) throw new Error(`only ${places.length} strokes were heard`);
  const middle = [...places].sort((a, b) => a - b)[Math.floor(places.length / 2)];
  return places.map((place) => (1000 * Math.abs(place - middle)) / sampleRate);
}

/** How alike two stretches are: 1 when one is the other, louder or softer. */
function correlation(samples: Float32Array, one: number, other: number, length: number): number {
  let [both, left, right] = [0, 1e-12, 1e-12];
  for (let i = 0; i < length; i++) {
    both += samples[one + i] * samples[other + i];
    left += samples[one + i] ** 2;
    right += samples[other + i] ** 2;
  }
  return both / Math.sqrt(left * right);
}
