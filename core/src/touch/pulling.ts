import { touchOut, type Touch } from './touch.js';

/** One of the three points by which a curve is held. */
export type TouchPoint = 'low' | 'bend' | 'high';
export const TOUCH_POINTS: readonly TouchPoint[] = ['low', 'bend', 'high'];

/** Where a point of the curve stands: velocity in and out, 1–127. The bend is held half-way between the ends. */
export function pointOf(touch: Touch, point: TouchPoint): { in: number; out: number } {
  if (point === 'low') return { in: touch.inLow, out: touch.outLow };
  if (point === 'high') return { in: touch.inHigh, out: touch.outHigh };
  const middle = Math.round((touch.inLow + touch.inHigh) / 2);
  return { in: middle, out: touchOut(touch, middle) };
}

/** The touch with one of its points pulled to a place; ends do not pass each other, the bend follows upwards only. */
export function pulled(touch: Touch, point: TouchPoint, velocityIn: number, out: number): Touch {
  if (point === 'low')
    return { ...touch, inLow: whole(velocityIn, 1, touch.inHigh), outLow: whole(out, 1, 127) };
  if (point === 'high')
    return { ...touch, inHigh: whole(velocityIn, touch.inLow, 127), outHigh: whole(out, 1, 127) };
  // Half-way in, the curve stands at ½^(4^−bend) of the way up; solved for the bend.
  const share = (out - touch.outLow) / (touch.outHigh - touch.outLow || 1);
  const inside = Math.min(0.99, Math.max(0.01, share));
  return bent(touch, -Math.log(Math.log(inside) / Math.log(0.5)) / Math.log(4));
}

/** The touch with another bend, held within −1…1 and rounded to a hundredth. */
export function bent(touch: Touch, bend: number): Touch {
  return { ...touch, bend: Math.round(Math.min(1, Math.max(-1, bend)) * 100) / 100 };
}

function whole(value: number, min: number, max: number): number {
  return Math.min(max, Math.max(min, Math.round(value)));
}
