import { seededRandom } from './partials.js';

/**
 * A room as a stereo impulse response: early reflections and a tail that falls by 60 dB in `seconds`, its highs faster than
 * its lows. Made once; a convolver plays it.
 */
export function renderRoom(
  sampleRate: number,
  seconds: number,
  seed: number,
): [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] {
  const length = Math.ceil(seconds * sampleRate);
  return [
    channel(sampleRate, length, seconds, seed),
    channel(sampleRate, length, seconds, seed + 1),
  ];
}

function channel(
  sampleRate: number,
  length: number,
  seconds: number,
  seed: number,
): Float32Array<ArrayBuffer> {
  const random = seededRandom(seed);
  const response = new Float32Array(length);
  const before = Math.round(0.012 * sampleRate);
  const fall = Math.exp(-Math.log(1000) / (seconds * sampleRate));
  let strength = 1;
  let smooth = 0;
  for (let i = before; i < length; i++) {
    // The air swallows highs on the way: the low-pass closes as the tail goes on.
    const opening = 0.75 * Math.exp((-3 * i) / length) + 0.06;
    smooth += opening * ((random() * 2 - 1) * strength - smooth);
    response[i] = smooth * Math.min(1, (i - before) / (0.02 * sampleRate));
    strength *= fall;
  }
  for (let reflection = 0; reflection < 7; reflection++) {
    const at = Math.round((0.007 + 0.038 * random()) * sampleRate);
    if (at < length)
      response[at] += (random() < 0.5 ? -1 : 1) * 0.35 * (1 - at / (0.06 * sampleRate));
  }
  let power = 0;
  for (let i = 0; i < length; i++) power += response[i] * response[i];
  const gain = 1 / Math.sqrt(power);
  for (let i = 0; i < length; i++) response[i] *= gain;
  return response;
}
