import { COMMAND, COMMAND_RING_BYTES, CommandRing } from '../sampler/command-ring.js';
import {
  BLOCK,
  blockOutput,
  METERS,
  VoiceEngine,
  type LoadedSound,
} from '../sampler/voice-engine.js';
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
  ring.write(COMMAND.level, 0, -24, 0);
  for (let voice = 1; voice <= voices; voice++)
    ring.write(COMMAND.start, voice, 0, 0, 1, 0, note, 90, 0.1);
  return engine;
}

/**
 * What share of a core sound may use on this machine before it stutters: less the more unevenly it computes. The time of
 * the slowest of every hundred blocks is set against the usual one.
 */
export function measureBudget(sound: LoadedSound, note: number, watch: Stopwatch): CoreShare {
  const engine = playing(sound, note, VOICES);
  const output = blockOutput();
  const times: number[] = [];
  // Ten blocks at a time: a single one is shorter than what a stopwatch in a browser can tell.
  for (let i = 0; i < 300; i++) {
    const start = watch();
    for (let block = 0; block < 10; block++) engine.render(output);
    times.push(watch() - start);
  }
  times.sort((a, b) => a - b);
  const usual = times[150];
  const slow = times[297];
  if (usual <= 0) return SAFE_SHARE / 2;
  return Math.min(SAFE_SHARE, Math.max(0.1, (SAFE_SHARE * usual * 2) / (usual + slow)));
}
