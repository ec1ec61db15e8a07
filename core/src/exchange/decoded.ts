import {
  LONGEST_RECORDING,
  NO_CLAIMS,
  type Claims,
  type RecordingFormat,
} from '../model/library/recording.js';
import { CannotRead } from './cannot-read.js';

/** An audio file, read. */
export interface DecodedAudio {
  format: RecordingFormat;
  /** One or two, of the same length, −1…1. */
  channels: Float32Array[];
  sampleRate: number;
  /** Bits of a sample; 32 for floating point and for what was compressed with loss. */
  bits: number;
  /** What the file says of itself, without its name. */
  claims: Claims;
}

const MOST_CHANNELS = 2;
const LOWEST_RATE = 1000;
const HIGHEST_RATE = 384_000;

/** Checks what a file says of its sound before any memory is taken for it. @throws CannotRead */
export function checkShape(channels: number, sampleRate: number, frames: number): void {
  if (channels < 1) throw new CannotRead('it is damaged: it has no channels');
  if (channels > MOST_CHANNELS)
    throw new CannotRead(`it has ${channels} channels; only mono and stereo can be put on keys`);
  if (!(sampleRate >= LOWEST_RATE && sampleRate <= HIGHEST_RATE))
    throw new CannotRead(`it is damaged: ${sampleRate} is no sample rate`);
  if (frames < 2)
    throw new CannotRead(frames < 1 ? 'it holds no sound' : 'it holds one sample only');
  if (frames / sampleRate > LONGEST_RECORDING)
    throw new CannotRead(
      `it is ${Math.round(frames / sampleRate / 60)} minutes long; ${LONGEST_RECORDING / 60} can be put on keys`,
    );
}

/** Claims with what is out of bounds left out: a file may say anything. */
export function plausible(claims: Partial<Claims>, seconds: number): Claims {
  const { root, keys, velocities, loop, cents, gain, cues } = { ...NO_CLAIMS, ...claims };
  const seven = (value: number, low = 0) => Number.isInteger(value) && value >= low && value <= 127;
  const isSpan = (span: { low: number; high: number } | null, low: number) =>
    span !== null && seven(span.low, low) && seven(span.high, low) && span.low <= span.high;
  return {
    ...NO_CLAIMS,
    root: root !== null && seven(root) ? root : null,
    cents: cents !== null && Math.abs(cents) <= 100 ? cents : null,
    keys: isSpan(keys, 0) ? keys : null,
    velocities: isSpan(velocities, 1) ? velocities : null,
    gain: gain !== null && Math.abs(gain) <= 127 ? gain : null,
    loop: loop && loop.start >= 0 && loop.start < loop.end && loop.end <= seconds ? loop : null,
    cues: cues.filter((at) => at >= 0 && at <= seconds).slice(0, 256),
  };
}
