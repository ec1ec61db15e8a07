import type { TooltipPosition } from '@angular/material/tooltip';

/** A box on the page, pixels. */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Material’s sizes: the widest a tooltip is, what its letters and lines take, what is around them, and how far it stands off. */
const WIDEST = 200;
const LETTER = 6.4;
const LINE = 17;
const AROUND = 16;
const OFF = 8;

/** The sides in the order in which they are tried. */
const SIDES: readonly TooltipPosition[] = ['below', 'above', 'after', 'before'];

/** About how large a tooltip of these words is. */
export function sizeOf(words: string): { width: number; height: number } {
  const whole = words.length * LETTER;
  const width = Math.min(WIDEST, whole + AROUND);
  return { width, height: Math.ceil(whole / (WIDEST - AROUND)) * LINE + AROUND / 2 };
}

/**
 * The side of a control on which a tooltip covers nothing that can be used, within the window; null where there is none: then
 * it had better not be shown.
 */
export function freeSide(
  control: Box,
  words: string,
  others: readonly Box[],
  window: { width: number; height: number },
): TooltipPosition | null {
  const { width, height } = sizeOf(words);
  const middle = { x: (control.left + control.right) / 2, y: (control.top + control.bottom) / 2 };
  const at = (left: number, top: number): Box => ({
    ...{ left, top },
    ...{ right: left + width, bottom: top + height },
  });
  // Beside the edge of the window it is pushed in.
  const inside = (left: number) => Math.max(0, Math.min(left, window.width - width));
  const boxes: Record<string, Box> = {
    below: at(inside(middle.x - width / 2), control.bottom + OFF),
    above: at(inside(middle.x - width / 2), control.top - OFF - height),
    after: at(control.right + OFF, middle.y - height / 2),
    before: at(control.left - OFF - width, middle.y - height / 2),
  };
  return (
    SIDES.find((side) => {
      const box = boxes[side];
      const isSeen =
        box.left >= 0 && box.top >= 0 && box.right <= window.width && box.bottom <= window.height;
      return isSeen && !others.some((other) => meet(box, other));
    }) ?? null
  );
}

function meet(a: Box, b: Box): boolean {
  return a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
}
