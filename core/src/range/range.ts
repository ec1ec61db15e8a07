import * as z from 'zod';

/** The most steps that a fade can have. */
export const LONGEST_FADE = 127;

/** How a fade climbs: `equalPower` keeps the power of two crossing fades constant, `linear` their sum. */
export const fadeLawSchema = z.enum(['equalPower', 'linear']);
export type FadeLaw = z.infer<typeof fadeLawSchema>;

function rangeSchema(lowest: number, what: string) {
  return z
    .strictObject({
      low: z.number().int().min(lowest).max(127),
      high: z.number().int().min(lowest).max(127),
      fadeIn: z.number().int().min(0).max(LONGEST_FADE).default(0),
      fadeOut: z.number().int().min(0).max(LONGEST_FADE).default(0),
      law: fadeLawSchema.default('equalPower'),
    })
    .superRefine((range, context) => {
      if (range.low > range.high)
        context.addIssue({
          code: 'custom',
          path: ['low'],
          message: `the lowest ${what} ${range.low} is above the highest, ${range.high}`,
        });
      else if (range.fadeIn + range.fadeOut > widthOf(range))
        context.addIssue({
          code: 'custom',
          path: ['fadeIn'],
          message: `the fades (${range.fadeIn} and ${range.fadeOut}) are longer than the range of ${widthOf(range)}`,
        });
    });
}

/** Keys a layer answers, MIDI 0–127, inclusive; fades count keys inside the range. */
export const keyRangeSchema = rangeSchema(0, 'key');
/** Velocities a layer answers, 1–127, inclusive; fades count steps inside the range. */
export const velocityRangeSchema = rangeSchema(1, 'velocity');
export type Range = z.infer<typeof keyRangeSchema>;

/** The two ranges of a layer. */
export type Axis = 'keys' | 'velocities';

/** A range without its fades. */
export interface Span {
  low: number;
  high: number;
}

/** How many keys or velocities a range holds. */
export function widthOf(span: Span): number {
  return span.high - span.low + 1;
}

/** True when the value lies in the range, limits included. */
export function contains(span: Span, value: number): boolean {
  return value >= span.low && value <= span.high;
}

/** What two spans share, or null when they do not touch. */
export function intersection(a: Span, b: Span): Span | null {
  const low = Math.max(a.low, b.low);
  const high = Math.min(a.high, b.high);
  return low <= high ? { low, high } : null;
}

/**
 * Linear gain (0–1) of a range at a value; 0 outside it.
 * Position i = x − low within the fade-in has t = (i + 1) / (fadeIn + 1), likewise from the top, so that an edge step
 * is never fully silent and two ranges overlapping by n with fades of n sum to constant power.
 */
export function rangeGain(range: Range, value: number): number {
  if (!contains(range, value)) return 0;
  let gain = 1;
  const fromLow = value - range.low;
  if (fromLow < range.fadeIn) gain *= fadeLaw((fromLow + 1) / (range.fadeIn + 1), range.law);
  const fromHigh = range.high - value;
  if (fromHigh < range.fadeOut) gain *= fadeLaw((fromHigh + 1) / (range.fadeOut + 1), range.law);
  return gain;
}

/** The fade's gain at t ∈ [0, 1]. */
export function fadeLaw(t: number, law: FadeLaw): number {
  return law === 'linear' ? t : Math.sin((Math.PI * t) / 2);
}

/** The t ∈ [0, 1] at which the fade has a gain (0–1): the inverse of {@link fadeLaw}. */
export function fadeLawAt(gain: number, law: FadeLaw): number {
  return law === 'linear' ? gain : (2 / Math.PI) * Math.asin(gain);
}

/** Which part of a range is being moved. */
export type RangePart = 'low' | 'high' | 'fadeIn' | 'fadeOut';

/**
 * Moves one part of a range to a value and keeps the rest valid: limits that cross are swapped, fades that no longer
 * fit are shortened. For `low` and `high` the value is a key or velocity, for the fades a count of steps.
 */
export function withRangePart(
  range: Range,
  part: RangePart,
  value: number,
  lowest: 0 | 1 = 0,
): Range {
  const next = { ...range };
  if (part === 'low' || part === 'high') {
    next[part] = clamp(Math.round(value), lowest, 127);
    if (next.low > next.high) {
      [next.low, next.high] = [next.high, next.low];
      [next.fadeIn, next.fadeOut] = [next.fadeOut, next.fadeIn];
    }
    const width = widthOf(next);
    next.fadeIn = Math.min(next.fadeIn, width, LONGEST_FADE);
    next.fadeOut = Math.min(next.fadeOut, width - next.fadeIn);
    return next;
  }
  const other = part === 'fadeIn' ? next.fadeOut : next.fadeIn;
  next[part] = clamp(Math.round(value), 0, Math.min(LONGEST_FADE, widthOf(next) - other));
  return next;
}

function clamp(value: number, low: number, high: number): number {
  return Math.min(high, Math.max(low, value));
}
