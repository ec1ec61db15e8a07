import * as z from 'zod';
import { PLAIN_TIMBRE } from '../model/patch/timbre.js';
import { BLOCK, blockOutput } from '../sampler/block.js';
import { COMMAND, COMMAND_RING_BYTES, CommandRing } from '../sampler/command-ring.js';
import { METERS } from '../sampler/meters.js';
import { attackSeconds } from '../sampler/timbre.js';
import { VoiceEngine } from '../sampler/voice-engine.js';
import type { LoadedSound } from '../sampler/zone-table.js';
import type { Colour } from '../model/patch/colour.js';
import { momentaryMaximum, powerOf, type Lufs } from './bs1770.js';

/** How loud a sound is by how hard it is struck: loudness in LUFS of its reference note at a few velocities, ascending. */
export const responseSchema = z.array(
  z.strictObject({ velocity: z.number().int().min(1).max(127), loudness: z.number() }),
);
export type Response = z.infer<typeof responseSchema>;

/** Velocities at which a response is measured. */
export const MEASURED_VELOCITIES = [1, 16, 40, 64, 80, 96, 127];
const SAMPLE_RATE = 48_000;
/** Long enough for a note that has risen to be as loud as it gets. */
const SECONDS = 1.2;

/** Loudness of one note of a sound, in LUFS, as the voice engine plays it at 0 dB; in some colour, if wished. */
export function measureNote(
  sound: LoadedSound,
  note: number,
  velocity: number,
  colour?: Colour,
): Lufs {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const engine = new VoiceEngine(SAMPLE_RATE, ring, new Float32Array(METERS));
  engine.load(0, sound);
  ring.write(COMMAND.level, 0, 0, 0, 0);
  if (colour) {
    const { brightness, attack, release, vibrato } = colour.timbre;
    ring.write(COMMAND.tone, 0, 0, colour.tone.low, colour.tone.high);
    ring.write(COMMAND.timbre, 0, 0, brightness, attack, release, vibrato);
  }
  ring.write(COMMAND.start, 0, 1, 0, 0, 1, 0, note, velocity, 1);
  const rising = attackSeconds(sound.voicing, (colour?.timbre ?? PLAIN_TIMBRE).attack);
  const frames = Math.ceil(((SECONDS + rising) * SAMPLE_RATE) / BLOCK) * BLOCK;
  const left = new Float32Array(frames);
  const right = new Float32Array(frames);
  const output = blockOutput();
  for (let at = 0; at < frames; at += BLOCK) {
    engine.render(output);
    left.set(output.mix.left, at);
    right.set(output.mix.right, at);
  }
  return momentaryMaximum({ left, right, sampleRate: SAMPLE_RATE });
}

/** Measures a sound's response at its reference note; in some colour, if wished. */
export function measureResponse(
  sound: LoadedSound,
  referenceNote: number,
  colour?: Colour,
): Response {
  return MEASURED_VELOCITIES.map((velocity) => ({
    velocity,
    loudness: Math.max(-90, measureNote(sound, referenceNote, velocity, colour)),
  }));
}

/** Loudness at a velocity, interpolated in dB between measured ones and held at the ends. −∞ for an empty response. */
export function loudnessAt(response: Response, velocity: number): Lufs {
  if (response.length === 0) return -Infinity;
  let below = response[0];
  for (const point of response) {
    if (point.velocity >= velocity) {
      if (point.velocity === below.velocity) return point.loudness;
      const share = (velocity - below.velocity) / (point.velocity - below.velocity);
      return below.loudness + (point.loudness - below.loudness) * Math.max(0, share);
    }
    below = point;
  }
  return below.loudness;
}

const tables = new WeakMap<Response, Float64Array>();

/** Power by velocity of a response, index 0–127; 0 where it is silent. Made once for each response. */
export function powerTable(response: Response): Float64Array {
  let table = tables.get(response);
  if (!table) {
    table = Float64Array.from({ length: 128 }, (_, velocity) =>
      velocity === 0 ? 0 : powerOf(loudnessAt(response, velocity)),
    );
    tables.set(response, table);
  }
  return table;
}
