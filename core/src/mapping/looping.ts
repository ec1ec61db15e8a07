import type { Samples } from '../synthesis/zone.js';
import { likeSamples, putSample, type MakeRoom } from './playable-audio.js';

/**
 * A recording up to the end of its loop, whose last samples go over into those before the loop’s start, so that the seam is where the
 * recording itself goes on. The level stays, however alike the two sides are.
 * @param start first sample of the loop, and the first behind it
 * @param fade samples of the crossfade; as many as there are before the start and in the loop, at most
 */
export function crossfadedLoop(
  samples: Samples,
  start: number,
  end: number,
  fade: number,
  room?: MakeRoom,
): Samples {
  const looped = likeSamples(samples, end, room);
  looped.set(samples.subarray(0, end));
  const steps = Math.min(fade, start, end - start);
  const alike = correlation(samples, start - steps, end - steps, steps);
  for (let i = 0; i < steps; i++) {
    const share = (i + 1) / (steps + 1);
    const size = Math.sqrt((1 - share) ** 2 + share ** 2 + 2 * alike * share * (1 - share));
    const value =
      ((1 - share) * samples[end - steps + i] + share * samples[start - steps + i]) / size;
    putSample(looped, end - steps + i, value);
  }
  return looped;
}

/** How alike two stretches are, 0 not at all … 1. */
function correlation(samples: Samples, one: number, other: number, length: number): number {
  let [both, first, second] = [0, 1e-12, 1e-12];
  for (let i = 0; i < length; i++) {
    const a = samples[one + i];
    const b = samples[other + i];
    both += a * b;
    first += a * a;
    second += b * b;
  }
  return Math.max(0, both / Math.sqrt(first * second));
}
