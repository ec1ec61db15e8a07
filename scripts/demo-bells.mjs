// npm run demo-bells: renders the bells of the demo, four notes in three strengths, as WAV files, and what is heard in them.
import { createHash } from 'node:crypto';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format } from 'prettier';
import { recordingOf, writeWav } from '../core/dist/exchange/index.js';
import { noteName } from '../core/dist/pitch/index.js';
import { frequencyOf, seededRandom } from '../core/dist/synthesis/index.js';
import { root } from './preparing.mjs';

const folder = join(root, 'server/demo-recordings');
const RATE = 32_000;
const SECONDS = 2.4;
const NOTES = [55, 64, 72, 81];
/** How loud each strength is, dB at its peak, and how bright. */
const STRENGTHS = [
  { name: 'soft', peak: -21, bright: 0.15 },
  { name: 'middle', peak: -11, bright: 0.5 },
  { name: 'hard', peak: -2, bright: 1 },
];
/** Partials of a small bronze bell: ratio, strength, how much of it comes with brightness, how quickly it dies away. */
const PARTIALS = [
  [1, 1, 0, 1],
  [2, 0.45, 0.1, 1.4],
  [3.002, 0.28, 0.3, 2],
  [4.01, 0.08, 0.5, 2.8],
  [5.43, 0.02, 0.6, 4],
  [6.79, 0, 0.5, 6],
  [8.2, 0, 0.35, 9],
];

function bell(key, { peak, bright }) {
  const samples = new Float32Array(RATE * SECONDS);
  const ring = 0.85 * 2 ** ((64 - key) / 24);
  for (const [ratio, strength, more, quick] of PARTIALS) {
    const step = (2 * Math.PI * frequencyOf(key) * ratio) / RATE;
    const size = strength + more * bright;
    if (step > Math.PI * 0.9) continue;
    for (let i = 0; i < samples.length; i++)
      samples[i] += size * Math.sin(step * i) * Math.exp((-i / RATE) * (quick / ring));
  }
  // The clapper, and the last moments that fade to nothing.
  const next = seededRandom(key);
  let clap = 0;
  for (let i = 0; i < samples.length; i++) {
    clap += 0.4 * (next() - 0.5 - clap);
    samples[i] += 0.5 * bright * clap * Math.exp(-i / RATE / 0.006);
    samples[i] *=
      Math.min(1, i / (0.0008 * RATE)) * Math.min(1, (samples.length - i) / (0.1 * RATE));
  }
  const highest = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
  return samples.map((sample) => (sample / highest) * 10 ** (peak / 20));
}

rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
const known = [];
for (const key of NOTES)
  for (const strength of STRENGTHS) {
    const bytes = writeWav({ channels: [bell(key, strength)], sampleRate: RATE, bits: 16 });
    const name = `night-bell-${noteName(key, 4)}-${strength.name}.wav`;
    writeFileSync(join(folder, name), bytes);
    const id = createHash('sha256').update(bytes).digest('hex');
    known.push((await recordingOf(bytes, name, id)).recording);
  }
writeFileSync(
  join(folder, 'known.json'),
  await format(JSON.stringify(known), { parser: 'json', printWidth: 100 }),
);
for (const { name, heard } of known)
  console.log(
    name,
    heard.pitch?.key,
    heard.pitch?.cents,
    heard.pitch?.confidence,
    heard.lufs,
    heard.loop,
  );
