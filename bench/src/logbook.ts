import { bytesOfTake } from '@pentachord/core/exchange';
import { KIND, newTake, Roll, TakeRecorder } from '@pentachord/core/logbook';
import {
  newShow,
  newSong,
  songEntry,
  type Patch,
  type Repertoire,
  type Saved,
} from '@pentachord/core/model';
import { LivePath } from '@pentachord/core/playing';
import { compileRig } from '@pentachord/core/routing';
import { COMMAND_RING_BYTES, CommandRing } from '@pentachord/core/sampler';
import { steps } from '@pentachord/core/setlist';
import type { Browser } from '@playwright/test';
import { keyboard, patchOf } from './core.js';
import { soundsReady, visitor } from './serving.js';
import { quantile, times, type Result } from './table.js';

/** Messages a second while two hands and two pedals do all they can. */
const MESSAGES_A_SECOND = 500;
/** Messages between two takings away, as the page has them four times a second. */
const TAKEN_AWAY = MESSAGES_A_SECOND / 4;
/** Seconds that are rendered, and layers that sound in them. */
const RENDERED = 60;
const LAYERS = 8;

/** What it costs to write down what is played: the share of a core beside the same playing without. */
export function measureRecording(): Result[] {
  const without = perMessage(false);
  const withIt = perMessage(true);
  return [
    {
      what: `writing down ${MESSAGES_A_SECOND} messages a second through 32 layers, share of a core`,
      value: Math.max(0, withIt - without) * MESSAGES_A_SECOND * 100,
      goal: 2,
      unit: '%',
    },
  ];
}

/** Seconds that a message takes, median of many stretches. */
function perMessage(isWritten: boolean): number {
  const song = newSong('song', 'Song');
  const patch = patchOf(32);
  const show = { ...newShow('show', 'Show', '2027-01-01', 'rig'), order: [songEntry('e', 'song')] };
  const songs = new Map([['song', song]]);
  let time = 1;
  const commands = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const port = { name: 'none', send: () => undefined };
  const path = new LivePath({
    commands,
    ...{ frameAt: (at) => at * 48_000, now: () => time, targetOf: () => null },
    playedBy: () => ({ slot: 1, ringsOn: false }),
    setEffects: () => undefined,
    ...{ outPort: () => port, clicks: { click: () => undefined, callOff: () => undefined } },
  });
  path.follow(
    {
      ...{ show, songs, devices: [keyboard], rig: compileRig([keyboard]), ties: [] },
      ...{ patches: { [patch.id]: patch }, cues: {}, sounds: new Map(), patterns: new Map() },
      steps: steps(show.order, songs, []),
    },
    {
      ...{ entryId: 'e', songId: 'song', cueId: null, patchId: patch.id },
      ...{ soloed: new Set<string>(), asCue: false, showtime: true },
    },
  );
  const recorder = new TakeRecorder(path, () => time);
  const about = { id: 'take', name: 'A take', where: 'desk' as const, began: 0 };
  if (isWritten) recorder.begin(newTake({ ...about, showId: null, show: '' }));
  const bytes = new Uint8Array(3);
  const found = times(
    2500,
    (run) => {
      for (let i = 0; i < TAKEN_AWAY; i++) {
        bytes[0] = i % 2 === 0 ? 0x90 : 0x80;
        bytes[1] = 21 + ((run * 7 + (i >> 1) * 5) % 88);
        bytes[2] = 1 + ((run + i * 31) % 127);
        path.host.receive('upper', bytes);
      }
      time += 0.25;
      recorder.takeAway();
    },
    () => commands.clear(),
  );
  return quantile(found, 0.5) / 1000 / TAKEN_AWAY;
}

/** How long it takes to render a take of eight layers, beside how long it sounds. */
export async function measureBounce(browser: Browser, origin: string): Promise<Result[]> {
  const page = await visitor(browser);
  const all = (await (await page.request.get(`${origin}/api/repertoire`)).json()) as Repertoire;
  const saved = all.patches.find(({ value }) => value.id === 'demo-copper-weather-under');
  if (!saved) throw new Error('the demo is not there');
  const layers = Array.from({ length: LAYERS }, (_, i) => ({
    ...saved.value.layers[i % saved.value.layers.length],
    ...{ id: `layer-${i}`, name: `Layer ${i}` },
    keys: { low: 0, high: 127, fadeIn: 0, fadeOut: 0, law: 'equalPower' as const },
    ...{ keyboards: [], muted: false },
  }));
  const patch: Saved<Patch> = {
    revision: 0,
    value: {
      ...saved.value,
      id: 'bench-eight',
      name: 'Eight',
      layers,
      treatments: [],
      choosers: [],
    },
  };
  const headers = { 'Pentachord-Database': all.database };
  await page.request.put(`${origin}/api/patches/bench-eight`, { headers, data: patch });
  const roll = new Roll(4000);
  roll.add(0, KIND.step, 0, 0, 0, 0, 0);
  for (let at = 0; at < RENDERED - 1; at += 0.5)
    for (const key of [48, 60, 64, 67]) {
      roll.add(at, KIND.message, 0x90, key, 90, 0, 0);
      roll.add(at + 0.45, KIND.message, 0x80, key, 64, 0, 0);
    }
  const device = all.devices.find(({ value }) => value.place === 'keys1')?.value;
  const about = { id: 'bench', name: 'Eight layers', where: 'desk' as const, began: 1.8e12 };
  const take = {
    ...newTake({ ...about, showId: null, show: '' }),
    ...{ seconds: RENDERED, senders: [{ port: device?.port ?? '', place: null, name: 'Upper' }] },
    steps: [
      {
        ...{ seconds: 0, byHand: true, entryId: null, songId: saved.value.songId, cueId: null },
        ...{ patchId: 'bench-eight', song: 'Copper Weather', cue: '', patch: 'Eight' },
      },
    ],
  };
  await page.request.put(`${origin}/api/takes/bench`, {
    headers: { ...headers, 'Content-Type': 'application/octet-stream' },
    data: Buffer.from(bytesOfTake({ take, roll: roll.take() })),
  });
  await page.goto(`${origin}/logbook`);
  await page.keyboard.press('Shift');
  await soundsReady(page);
  await page.getByRole('button', { name: /^Out as sound/ }).click();
  await page.getByRole('button', { name: 'Render and save' }).click();
  const told = page.getByText(/^Saved\. It was rendered \d+ times as fast/);
  await told.waitFor({ timeout: 120_000 });
  const ratio = Number(/\d+/.exec((await told.textContent()) ?? '')?.[0]);
  await page.context().close();
  return [
    {
      what: `rendering a take of ${LAYERS} layers, times as long as it sounds`,
      ...{ value: 1 / ratio, goal: 0.1, unit: '' },
    },
  ];
}
