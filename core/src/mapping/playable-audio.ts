import { areSame } from '../listening/same-sides.js';
import type { Samples } from '../synthesis/zone.js';

/** Sound of a recording as it is held in memory: 16-bit recordings as whole numbers, all others as floating point. */
export interface PlayableAudio {
  sampleRate: number;
  left: Samples;
  /** The same as `left` where both sides are the same. */
  right: Samples;
}

/** Makes room for samples; memory that threads share, where that is wanted. */
export type MakeRoom = (bytes: number) => ArrayBufferLike;

const PLAIN_ROOM: MakeRoom = (bytes) => new ArrayBuffer(bytes);

/** Holds decoded sound so that it takes no more room than it needs. */
export function playableAudio(
  {
    channels,
    sampleRate,
    bits,
  }: { channels: readonly Float32Array[]; sampleRate: number; bits: number },
  room: MakeRoom = PLAIN_ROOM,
): PlayableAudio {
  const left = held(channels[0], bits, room);
  const isMono = channels.length === 1 || areSame(channels[0], channels[1]);
  return { sampleRate, left, right: isMono ? left : held(channels[1], bits, room) };
}

function held(samples: Float32Array, bits: number, room: MakeRoom): Samples {
  if (bits > 16) {
    const copy = new Float32Array(room(samples.length * 4));
    copy.set(samples);
    return copy;
  }
  const whole = new Int16Array(room(samples.length * 2));
  for (let i = 0; i < samples.length; i++)
    whole[i] = Math.max(-32_768, Math.min(32_767, Math.round(samples[i] * 32_768)));
  return whole;
}

/** Room for as many samples of the same kind. */
export function likeSamples(
  samples: Samples,
  length: number,
  room: MakeRoom = PLAIN_ROOM,
): Samples {
  return samples instanceof Int16Array
    ? new Int16Array(room(length * 2))
    : new Float32Array(room(length * 4));
}

/** Puts a value into samples, rounded and held where they are whole numbers. */
export function putSample(samples: Samples, at: number, value: number): void {
  samples[at] =
    samples instanceof Int16Array ? Math.max(-32_768, Math.min(32_767, Math.round(value))) : value;
}
