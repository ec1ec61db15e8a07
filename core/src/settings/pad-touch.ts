import { median, WANTED } from '../touch/fitting.js';
import { USUAL_SENSITIVITY, velocitySent } from './stroke-curve.js';

/** Strokes of each pad that are asked for, as for something neither soft nor hard. */
export const PAD_STROKES = 5;
/** How easily a pad can be set to speak. */
const SENSITIVITIES = [1, 2, 3, 4, 5, 6, 7, 8] as const;

/**
 * How easily a pad has to speak (1–8) so that the middle of a player’s medium strokes comes nearest to what such a stroke is to
 * give; of two the one nearer to how it speaks now. `velocities` are what it sent while it was set to `present`. Null while
 * too few strokes have landed.
 */
export function fittedSensitivity(velocities: readonly number[], present: number): number | null {
  if (velocities.length < PAD_STROKES) return null;
  const sent = median(velocities);
  const stroke = strokeOf(sent, present);
  let found = present;
  let least = Infinity;
  for (const sensitivity of SENSITIVITIES) {
    const miss = Math.abs(velocitySent(stroke, 'even', sensitivity) - WANTED.medium);
    const further = Math.abs(sensitivity - present) / 100;
    if (miss + further >= least) continue;
    least = miss + further;
    found = sensitivity;
  }
  return found;
}

/** The stroke (1–127) that gives a velocity where a pad speaks as it does: the other way round of {@link velocitySent}. */
function strokeOf(velocity: number, sensitivity: number): number {
  return 127 * (velocity / 127) ** (1.25 ** (sensitivity - USUAL_SENSITIVITY));
}
