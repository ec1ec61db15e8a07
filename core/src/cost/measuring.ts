import { BLOCK, blockOutput } from '../sampler/block.js';
import { COMMAND, COMMAND_RING_BYTES, CommandRing } from '../sampler/command-ring.js';
import { METERS } from '../sampler/meters.js';
import { VoiceEngine } from '../sampler/voice-engine.js';
import type { LoadedSound } from '../sampler/zone-table.js';
import type { CoreShare } from './cost.js';

const SAMPLE_RATE = 48_000;
const VOICES = 16;
const SECONDS = 0.4;
/** Share of a core that sound may use on a machine that computes perfectly evenly. */
const SAFE_SHARE = 0.7;

/** Milliseconds from anywhere; `performance.now` fits. */
export type Stopwatch = () => number;

/** What one voice of a sound costs on this machine: sixteen are played for a moment, and an engine at rest taken off. */
export function measureVoiceCost(sound: LoadedSound, note: number, watch: Stopwatch): CoreShare {
  const busy = Math.min(...[0, 1, 2].map(() => timeToRender(sound, note, VOICES, watch)));
  const resting = Math.min(...[0, 1, 2].map(() => timeToRender(sound, note, 0, watch)));
  return Math.max(0, busy - resting) / 1000 / SECONDS / VOICES;
}

function timeToRender(sound: LoadedSound, note: number, voices: number, watch: Stopwatch): number {
  const engine = playing(sound, note, voices);
  const output = blockOutput();
  const blocks = Math.round((SECONDS * SAMPLE_RATE) / BLOCK);
  const start = watch();
  for (let i = 0; i < blocks; i++) engine.render(output);
  return watch() - start;
}

function playing(sound: LoadedSound, note: number, voices: number): VoiceEngine {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const engine = new VoiceEngine(SAMPLE_RATE, ring, new Float32Array(METERS));
  engine.load(0, sound);
  ring.write(COMMAND.level, 0, 0, -24, 0);
  for (let voice = 1; voice <= voices; voice++)
    ring.write(COMMAND.start, 0, voice, 0, 0, 1, 0, note, 90, 0.1);
  return engine;
}

/** Rounds of measuring, of which the calmest counts: what else the machine did meanwhile is not its nature. */
const ROUNDS = 5;
const BATCHES = 100;
/** Blocks timed together: a single one is shorter than what a stopwatch in a browser can tell. */
const BATCH = 8;
const LEAST_SHARE = 0.2;

/**
 * What share of a core sound may use on this machine before it stutters: less the more unevenly it computes. The time of
 * the slowest of every twenty batches of blocks is set against the usual one.
 */
export function measureBudget(sound: LoadedSound, note: number, watch: Stopwatch): CoreShare {
  const engine = playing(sound, note, VOICES);
  const output = blockOutput();
  const rounds = Array.from({ length: ROUNDS }, () => {
    const times = Array.from({ length: BATCHES }, () => {
      const start = watch();
      for (let block = 0; block < BATCH; block++) engine.render(output);
      return watch() - start;
    }).sort((a, b) => a - b);
    const usual = times[BATCHES / 2];
    const slow = times[BATCHES * 0.95];
    return usual > 0 ? (SAFE_SHARE * 2 * usual) / (usual + slow) : 0;
  });
  return Math.max(LEAST_SHARE, ...rounds);
}
