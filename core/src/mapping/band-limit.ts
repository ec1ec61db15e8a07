import type { Samples } from '../synthesis/zone.js';
import { likeSamples, putSample, type MakeRoom } from './playable-audio.js';

/** Half the taps of the filter for each place that a frame goes on by. */
const HALF_TAPS = 24;

/**
 * What of a recording may sound when it is played faster: without what would lie above half the sample rate then. A sinc in a Blackman
 * window, linear in phase.
 * @param step places that it goes on by with every frame, above 1
 */
export function bandLimited(samples: Samples, step: number, room?: MakeRoom): Samples {
  const half = Math.ceil(HALF_TAPS * step);
  const taps = lowPass(half, 0.46 / step);
  const filtered = likeSamples(samples, samples.length, room);
  for (let i = 0; i < samples.length; i++) {
    const from = Math.max(0, i - half);
    const to = Math.min(samples.length - 1, i + half);
    let sum = 0;
    for (let at = from; at <= to; at++) sum += samples[at] * taps[at - i + half];
    putSample(filtered, i, sum);
  }
  return filtered;
}

/** Taps of a low-pass, `cutoff` in cycles a sample; their sum is 1. */
function lowPass(half: number, cutoff: number): Float64Array {
  const taps = Float64Array.from({ length: 2 * half + 1 }, (_, i) => {
    const at = i - half;
    const sinc = at === 0 ? 2 * cutoff : Math.sin(2 * Math.PI * cutoff * at) / (Math.PI * at);
    const turned = (Math.PI * (at + half + 1)) / (half + 1);
    return sinc * (0.42 - 0.5 * Math.cos(turned) + 0.08 * Math.cos(2 * turned));
  });
  const sum = taps.reduce((all, tap) => all + tap, 0);
  return taps.map((tap) => tap / sum);
}
