import { isWhole } from '../model/patch/control-target.js';
import type { TravelCurve, Tie } from '../model/patch/tie.js';

/** The highest position of a control. */
export const FULL = 127;

/** Puts in the place of a position of 0–127 how much of its way (0–1) a control has gone there. */
function putShare(curve: TravelCurve, at: Float64Array): void {
  const x = Math.max(0, Math.min(1, at[0] / FULL));
  switch (curve) {
    case 'even':
      at[0] = x;
      break;
    case 'late':
      at[0] = x * x;
      break;
    case 'early':
      at[0] = 1 - (1 - x) ** 2;
      break;
    case 'gentle':
      at[0] = x * x * (3 - 2 * x);
  }
}

/** The position of 0–127 at which a control has gone so much of its way (0–1): the other way round of {@link putShare}. */
export function positionAt(curve: TravelCurve, share: number): number {
  const y = Math.max(0, Math.min(1, share));
  switch (curve) {
    case 'even':
      return FULL * y;
    case 'late':
      return FULL * Math.sqrt(y);
    case 'early':
      return FULL * (1 - Math.sqrt(1 - y));
    case 'gentle':
      // The cubic’s own inverse, as it is known for a smooth step.
      return FULL * (0.5 - Math.sin(Math.asin(1 - 2 * y) / 3));
  }
}

type Travel = Pick<Tie, 'from' | 'to' | 'curve' | 'target'>;

/**
 * Puts in the place of a position of 0–127 the value, in its target’s own unit, that a control gives there; octaves are whole.
 */
export function putValue({ from, to, curve, target }: Travel, at: Float64Array): void {
  putShare(curve, at);
  const value = from + (to - from) * at[0];
  at[0] = isWhole(target) ? Math.round(value) : value;
}

const kept = new Float64Array(1);

/** The value that a control gives at a position, as {@link putValue} has it. */
export function valueAt(travel: Travel, position: number): number {
  kept[0] = position;
  putValue(travel, kept);
  return kept[0];
}

/** Whether a value lies on a tie’s travel. */
export function isWithin({ from, to }: Travel, value: number): boolean {
  return value >= Math.min(from, to) && value <= Math.max(from, to);
}

/** The value on a tie’s travel that is nearest. */
export function nearest({ from, to }: Travel, value: number): number {
  return Math.max(Math.min(from, to), Math.min(Math.max(from, to), value));
}

/**
 * A value moved by so much, up to the end of a tie’s travel. One that lies beyond an end goes towards the travel by as much and
 * leaps nowhere; away from it it does not go.
 */
export function towards(travel: Travel, value: number, by: number): number {
  const next = value + by;
  if (isWithin(travel, value)) return nearest(travel, next);
  const end = nearest(travel, value);
  if ((end - value) * by <= 0) return value;
  return isWithin(travel, next) || (end - next) * by > 0 ? next : nearest(travel, next);
}

/** The position of 0–127 at which a control gives a value; the nearer end for one that it never gives. */
export function positionOfValue({ from, to, curve }: Travel, value: number): number {
  return from === to ? 0 : positionAt(curve, (value - from) / (to - from));
}
