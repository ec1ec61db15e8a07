import type { StrokeCurve } from '../model/rig/device-settings.js';

const EXPONENTS: Record<StrokeCurve, number> = { softer: 0.6, even: 1, harder: 1.6 };
/** How easily pads speak that nobody has changed. */
export const USUAL_SENSITIVITY = 4;

/** Velocity 1–127 that a device sends for a stroke of 1–127, by its curve and by how easily a pad speaks (1–8). */
export function velocitySent(
  stroke: number,
  curve: StrokeCurve,
  sensitivity = USUAL_SENSITIVITY,
): number {
  const exponent = EXPONENTS[curve] * 1.25 ** (USUAL_SENSITIVITY - sensitivity);
  return Math.max(1, Math.min(127, Math.round(127 * (stroke / 127) ** exponent)));
}
