import { createHash } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readFileSync } from 'node:fs';
import { listenTo } from '@pentachord/core/listening';
import { crossfadedLoop, loadedSound, playableAudio } from '@pentachord/core/mapping';
import { PLAIN_ZONE } from '@pentachord/core/model';
import {
  BLOCK,
  blockOutput,
  COMMAND,
  COMMAND_RING_BYTES,
  CommandRing,
  METERS,
  VoiceEngine,
  type LoadedSound,
} from '@pentachord/core/sampler';
import {
  HOUSE_SOUNDS,
  isKit,
  planZones,
  renderZone,
  seededRandom,
} from '@pentachord/core/synthesis';
import { note } from './notes.js';
import { serve } from './serving.js';
import type { Result } from './table.js';

const RATE = 48_000;
const VOICES = 64;
const MEGABYTE = 1024 * 1024;

/** What listening finds of generated notes, what recordings cost in the engine, and what uploading takes of the server. */
export async function measureRecordings(): Promise<Result[]> {
  return [...pitches(), ...loops(), againstHouse(), await uploading()];
}

/** Of a hundred generated notes those that are heard more than five cents off, and of unpitched sounds those that are given a pitch. */
function pitches(): Result[] {
  const random = seededRandom(27);
  const any = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const count = 300;
  let off = 0;
  for (let i = 0; i < count; i++) {
    const key = 21 + (i % 88);
    const cents = Math.round(random() * 90 - 45);
    const rate = any([44_100, 48_000]);
    const samples = note({
      ...{
        key,
        cents,
        rate,
        seconds: any([0.6, 1.2, 2.5]),
        partials: 3 + Math.floor(random() * 28),
      },
      ...{ tilt: 0.3 + random() * 1.7, isMissing: random() < 0.3, noise: any([-40, -60]), random },
      ...{
        stretch: any([0, 1e-4, 4e-4, 1e-3]),
        vibrato: any([0, 0, 10, 20]),
        decay: any([0, 1, 3]),
      },
    });
    const { pitch } = listenTo([samples], rate);
    const heard = pitch ? pitch.key * 100 + pitch.cents : 0;
    if (Math.abs(heard - key * 100 - cents) > 5) off++;
  }
  let pitched = 0;
  const unpitched = 60;
  for (let i = 0; i < unpitched; i++)
    if (listenTo([withoutPitch(i % 3, random)], RATE).pitch) pitched++;
  return [
    {
      what: 'notes heard more than 5 cents off, of a hundred',
      value: (100 * off) / count,
      goal: 1,
      unit: '',
    },
    {
      what: 'noise, clicks and clusters that are given a pitch, of a hundred',
      value: (100 * pitched) / unpitched,
      goal: 1,
      unit: '',
    },
  ];
}

function withoutPitch(kind: number, random: () => number): Float32Array {
  const samples = new Float32Array(RATE);
  if (kind === 2)
    for (let k = 0; k < 24; k++) {
      const turned = (2 * Math.PI * 300 * 40 ** random()) / RATE;
      const phase = random() * 6;
      for (let i = 0; i < RATE; i++) samples[i] += Math.sin(turned * i + phase) / 48;
    }
  else for (let i = 0; i < (kind === 0 ? RATE : 60); i++) samples[i] = random() - 0.5;
  return samples;
}

/** The step at the seams of loops that are found, and how far the level strays through five turns; the worst of many. */
function loops(): Result[] {
  const random = seededRandom(28);
  let step = 0;
  let stray = 0;
  let found = 0;
  for (let i = 0; i < 40; i++) {
    const samples = note({
      ...{ key: 30 + Math.round(random() * 60), cents: random() * 80 - 40, rate: RATE, seconds: 3 },
      ...{
        partials: 4 + Math.floor(random() * 12),
        tilt: 1,
        noise: -60,
        decay: i % 4 === 0 ? 0.4 : 0,
      },
      ...{ random, isMissing: false, stretch: 0, vibrato: 0 },
    });
    const { loop } = listenTo([samples], RATE);
    if (!loop) continue;
    found++;
    const [start, end, fade] = [loop.start, loop.end, loop.crossfade].map((at) =>
      Math.round(at * RATE),
    );
    const looped = crossfadedLoop(samples, start, end, fade);
    const level = (at: number, length: number) => {
      let sum = 0;
      for (let k = 0; k < length; k++) sum += looped[start + ((at + k) % (end - start))] ** 2;
      return Math.sqrt(sum / length);
    };
    const here = level(0, Math.min(4800, end - start));
    // The last sample before the seam stands for the one before the start: what it is off by is a step.
    step = Math.max(step, Math.abs(looped[end - 1] - samples[start - 1]) / here);
    const window = Math.round(RATE * 0.06);
    for (let at = 0; at < 5 * (end - start); at += window) {
      const db = 20 * Math.log10(level(at, window) / level(0, end - start));
      stray = Math.max(stray, Math.abs(db));
    }
  }
  return [
    {
      what: `step at the seams of ${found} loops against the sound there (1 ‰ is −60 dB)`,
      value: step * 1000,
      goal: 1,
      unit: '‰',
    },
    {
      what: 'how far the level strays through five turns of a loop',
      value: stray,
      goal: 1,
      unit: 'dB',
    },
  ];
}

/** Sixty-four voices of stereo recordings against as many of a stereo house sound, by turns, median ratio. */
function againstHouse(): Result {
  const recipe = HOUSE_SOUNDS.find((one) => !isKit(one) && one.stereo);
  if (!recipe) throw new Error('there is no stereo house sound');
  const house = { voicing: recipe.voicing, zones: planZones(recipe).map(renderZone) };
  const random = seededRandom(3);
  const sides = [0, 1].map(() => Float32Array.from({ length: RATE * 8 }, () => random() - 0.5));
  const audio = playableAudio({ channels: sides, sampleRate: RATE, bits: 16 });
  const full = { high: 127, fadeIn: 0, fadeOut: 0, law: 'equalPower' as const };
  const zones = [40, 52, 64, 76, 88].map((root, i) => ({
    ...PLAIN_ZONE,
    ...{ id: `z${i}`, recordingId: 'a', root, keys: { ...full, low: root - 6, high: root + 5 } },
    ...{ velocities: { ...full, low: 1 }, loop: { start: 2, end: 7, crossfade: 0.1 } },
  }));
  const recorded = loadedSound({ kind: 'recordings', dynamics: 20, zones }, () => audio);
  const ratios: number[] = [];
  for (let run = 0; run < 7; run++) ratios.push(timeOf(recorded) / timeOf(house));
  ratios.sort((a, b) => a - b);
  return {
    what: `${VOICES} voices of stereo recordings against as many of a house sound, median ratio`,
    value: ratios[3],
    goal: 1.3,
    unit: '',
  };
}

function timeOf(sound: LoadedSound): number {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const engine = new VoiceEngine(RATE, ring, new Float32Array(METERS));
  engine.load(0, sound);
  for (let voice = 0; voice < VOICES; voice++)
    ring.write(COMMAND.start, 0, voice + 1, voice % 16, 0, 1, 0, 36 + (voice % 52), 100, 0.2);
  const output = blockOutput();
  const begun = performance.now();
  for (let i = 0; i < (3 * RATE) / BLOCK; i++) engine.render(output);
  return performance.now() - begun;
}

/** How much the server’s memory grows while 500 MB are uploaded. */
async function uploading(): Promise<Result> {
  const data = await mkdtemp(join(tmpdir(), 'pentachord-bench-'));
  const { server, origin } = await serve(data);
  const resident = () => {
    const status = readFileSync(`/proc/${server.pid ?? 0}/status`, 'utf8');
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024;
  };
  try {
    const part = Buffer.alloc(MEGABYTE, 7);
    const hash = createHash('sha256');
    for (let i = 0; i < 500; i++) hash.update(part);
    const before = resident();
    let most = before;
    await new Promise<void>((resolve, reject) => {
      const asked = request(
        `${origin}/api/recordings/${hash.digest('hex')}/bytes`,
        { method: 'PUT' },
        (answer) => {
          answer.resume();
          if (answer.statusCode === 204) resolve();
          else reject(new Error(`the upload was answered with ${answer.statusCode ?? 0}`));
        },
      );
      asked.on('error', reject);
      let sent = 0;
      const send = (): void => {
        most = Math.max(most, resident());
        while (sent < 500) {
          sent++;
          if (!asked.write(part)) {
            asked.once('drain', send);
            return;
          }
        }
        asked.end();
      };
      send();
    });
    return {
      what: 'uploading 500 MB: the server’s memory grows by',
      value: most - before,
      goal: 64,
      unit: 'MB',
    };
  } finally {
    server.kill();
    await rm(data, { recursive: true, force: true });
  }
}
