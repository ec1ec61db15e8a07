import {
  BLOCK,
  blockOutput,
  BUS,
  COMMAND,
  COMMAND_RING_BYTES,
  CommandRing,
  METERS,
  VoiceEngine,
} from '@pentachord/core/sampler';
import type { Result } from './table.js';

const SAMPLE_RATE = 48_000;

/** A stretch of a glide: from when on, to which level, over how many seconds. */
interface Leg {
  at: number;
  to: number;
  seconds: number;
}

/** Down, turned round on its way, up, and a quick one: what a night of cues asks for. */
const LEGS: readonly Leg[] = [
  { at: 0.5, to: -40, seconds: 2 },
  { at: 1.5, to: -3, seconds: 0.8 },
  { at: 3, to: -24, seconds: 0.25 },
  { at: 3.5, to: 0, seconds: 1 },
];
const SECONDS = 5;
/** Where the glides begin, dB. */
const FROM = -6;

/** Levels and sends as they are rendered, against what cues are meant to do. */
export function measureGlides(): Result[] {
  const found = (['level', 'send'] as const).map(rendered);
  return [
    {
      what: 'glides in rendered sound, levels and sends: off the law at most',
      value: Math.max(...found.map(({ off }) => off)),
      goal: 1,
      unit: 'dB',
    },
    {
      what: 'glides in rendered sound: largest step between samples beyond the law, of full scale',
      value: Math.max(...found.map(({ step }) => step)),
      goal: 10 ** (-80 / 20),
      unit: '',
    },
  ];
}

function rendered(what: 'level' | 'send'): { off: number; step: number } {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const engine = new VoiceEngine(SAMPLE_RATE, ring, new Float32Array(METERS));
  // A recording that stands still, so that what comes out is the gain itself.
  const left = new Float32Array(SAMPLE_RATE).fill(0.5);
  engine.load(0, {
    voicing: { attack: 0.001, release: 0.1, dynamics: 0, brightness: 22_000, darkening: 0 },
    zones: [
      {
        ...{ rootKey: 60, keys: { low: 0, high: 127 }, velocities: { low: 1, high: 127 } },
        ...{ sampleRate: SAMPLE_RATE, left, right: left },
        ...{ loopStart: 0, loopEnd: left.length, loopDecay: 0 },
      },
    ],
  });
  const put = (level: number, seconds: number, at: number) => {
    const frame = Math.round(at * SAMPLE_RATE);
    if (what === 'level') ring.write(COMMAND.level, frame, 0, level, seconds);
    else ring.write(COMMAND.send, frame, 0, BUS.reverb, level, seconds);
  };
  ring.write(COMMAND.level, 0, 0, 0, 0);
  put(FROM, 0, 0);
  ring.write(COMMAND.start, 0, 1, 0, 0, 1, 0, 60, 127, 1);
  for (const { at, to, seconds } of LEGS) put(to, seconds, at);
  const output = blockOutput();
  const frames = SECONDS * SAMPLE_RATE;
  const all = new Float32Array(Math.ceil(frames / BLOCK) * BLOCK);
  for (let at = 0; at < all.length; at += BLOCK) {
    engine.render(output);
    all.set(what === 'level' ? output.mix.left : output.buses[BUS.reverb].left, at);
  }
  const settled = Math.round(0.4 * SAMPLE_RATE);
  const still = all[settled];
  let off = 0;
  let step = 0;
  let before = { sample: all[settled], ideal: still };
  for (let i = settled + 1; i < frames; i++) {
    const ideal = still * 10 ** ((lawAt(i / SAMPLE_RATE) - FROM) / 20);
    const sample = all[i];
    off = Math.max(off, Math.abs(20 * Math.log10(Math.abs(sample / ideal))));
    step = Math.max(step, Math.abs(sample - before.sample - (ideal - before.ideal)));
    before = { sample, ideal };
  }
  return { off, step };
}

/** The level that the law asks for at a time: linear in dB from wherever it has come to. */
function lawAt(time: number): number {
  let level = FROM;
  LEGS.forEach(({ at, to, seconds }, i) => {
    if (time < at) return;
    const until = Math.min(time, LEGS.at(i + 1)?.at ?? Infinity);
    const gone = Math.min(1, (until - at) / seconds);
    level += (to - level) * gone;
  });
  return level;
}
