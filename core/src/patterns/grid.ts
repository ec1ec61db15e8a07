import type { Beats } from '../units/times.js';

/** A place in a round of so many beats, from 0 up to its length. What misses the end by a rounding is the beginning. */
export function inRound(beat: Beats, length: Beats): Beats {
  const at = ((beat % length) + length) % length;
  return length - at < 1e-9 ? 0 : at;
}

/**
 * The step that lies nearest to a place in a round, the later of two; steps are counted from where the round begins, so that the
 * last may be a short one, and the end of the round is its length.
 */
export function nearestStep(beat: Beats, step: Beats, length: Beats): Beats {
  const before = Math.floor(beat / step + 1e-9) * step;
  const after = Math.min(before + step, length);
  return beat - before < after - beat - 1e-9 ? before : after;
}
