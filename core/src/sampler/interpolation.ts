import type { Samples } from '../synthesis/zone.js';

/** Four-point, third-order Hermite interpolation between y0 and y1, at t ∈ [0, 1). */
export function hermite(before: number, y0: number, y1: number, after: number, t: number): number {
  const c1 = 0.5 * (y1 - before);
  const c2 = before - 2.5 * y0 + 2 * y1 - 0.5 * after;
  const c3 = 0.5 * (after - before) + 1.5 * (y0 - y1);
  return ((c3 * t + c2) * t + c1) * t + y0;
}

/** Samples before and behind a place that {@link hermite} looks at. */
export const LOOK_BACK = 1;
export const LOOK_AHEAD = 2;

/**
 * The sample at a place (≥ 0) whose neighbours lie across the loop's seam or the end of the recording. `loopStart` is −1 for
 * a recording that plays once.
 */
export function sampleAtSeam(
  samples: Samples,
  position: number,
  loopStart: number,
  end: number,
): number {
  const at = Math.floor(position);
  // Before the first sample is the last one, where the loop begins with it.
  const first = loopStart === 0 ? end - 1 : 0;
  return hermite(
    samples[at > 0 ? at - 1 : first],
    samples[at],
    samples[beyond(at + 1, loopStart, end)],
    samples[beyond(at + 2, loopStart, end)],
    position - at,
  );
}

function beyond(at: number, loopStart: number, end: number): number {
  if (at < end) return at;
  return loopStart < 0 ? end - 1 : at - (end - loopStart);
}
