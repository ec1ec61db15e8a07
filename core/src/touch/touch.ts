import * as z from 'zod';

const velocity = z.number().int().min(1).max(127);

/**
 * How a layer, or a keyboard, turns the velocity that comes in into the one that goes out.
 * `bend` runs from −1 (harder to get loud) through 0 (straight) to 1 (loud at once); `below` says what happens to
 * velocities under `inLow`: no note, or held at `outLow`.
 */
export const touchSchema = z
  .strictObject({
    inLow: velocity,
    inHigh: velocity,
    outLow: velocity,
    outHigh: velocity,
    bend: z.number().min(-1).max(1),
    below: z.enum(['silent', 'hold']),
  })
  .refine((touch) => touch.inLow <= touch.inHigh, {
    path: ['inLow'],
    message: 'the lowest velocity in is above the highest',
  });
export type Touch = z.infer<typeof touchSchema>;

/** Out is what came in. */
export const EVEN_TOUCH: Touch = {
  inLow: 1,
  inHigh: 127,
  outLow: 1,
  outHigh: 127,
  bend: 0,
  below: 'hold',
};

/** The velocity out (1–127) for a velocity in (1–127), or 0 when the touch silences the note. */
export function touchOut(touch: Touch, velocityIn: number): number {
  if (velocityIn < touch.inLow) return touch.below === 'silent' ? 0 : touch.outLow;
  if (velocityIn >= touch.inHigh) return touch.outHigh;
  const t = (velocityIn - touch.inLow) / (touch.inHigh - touch.inLow);
  const out = touch.outLow + (touch.outHigh - touch.outLow) * t ** (4 ** -touch.bend);
  return Math.max(1, Math.round(out));
}

/** The lowest velocity in that sounds at all. */
export function lowestSounding(touch: Touch): number {
  return touch.below === 'silent' ? touch.inLow : 1;
}

/** The touch in a musician's words, short enough for a table cell. */
export function touchInWords(touch: Touch): string {
  const silentBelow = touch.below === 'silent' && touch.inLow > 1;
  if (silentBelow) return `joins from ${touch.inLow}`;
  if (touch.outLow === touch.outHigh) return `always ${touch.outLow}`;
  const bend = touch.bend > 0.05 ? 'softer' : touch.bend < -0.05 ? 'harder' : '';
  if (touch.outLow > 1 && touch.outHigh === 127)
    return bend ? `${bend}, from ${touch.outLow}` : `from ${touch.outLow} up`;
  if (touch.outHigh < 127) return `${touch.outLow}–${touch.outHigh}`;
  if (touch.inLow > 1 || touch.inHigh < 127) return `in ${touch.inLow}–${touch.inHigh}`;
  return bend || 'even';
}

/** The touch while its floor is lifted: out never below `floor`, what is silent stays silent. */
export function lifted(touch: Touch, floor: number): Touch {
  return {
    ...touch,
    outLow: Math.max(touch.outLow, floor),
    outHigh: Math.max(touch.outHigh, floor),
  };
}

/** A ready shape of touch, by what a musician would call it. */
export interface TouchShape {
  name: string;
  touch: Touch;
}

/** Shapes to start from. */
export const TOUCH_SHAPES: readonly TouchShape[] = [
  { name: 'even', touch: EVEN_TOUCH },
  { name: 'softer', touch: { ...EVEN_TOUCH, bend: 0.5 } },
  { name: 'harder', touch: { ...EVEN_TOUCH, bend: -0.5 } },
  { name: 'never too soft', touch: { ...EVEN_TOUCH, outLow: 55 } },
  { name: 'never too loud', touch: { ...EVEN_TOUCH, outHigh: 90 } },
  { name: 'joins when you dig in', touch: { ...EVEN_TOUCH, inLow: 77, below: 'silent' } },
  { name: 'organ-like', touch: { ...EVEN_TOUCH, outLow: 100, outHigh: 100 } },
  { name: 'backwards', touch: { ...EVEN_TOUCH, outLow: 127, outHigh: 1 } },
];
