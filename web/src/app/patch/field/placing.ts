import type { Box } from '../../ui/field/field-geometry';

/** Something with words on the field: the ground it belongs to, and how much room it takes. */
export interface Wish {
  /** Where it should lie; it is kept within. */
  within: Box;
  width: number;
  height: number;
  /** The least width it can be cut to; its whole width if left out. */
  least?: number;
  /** Where it may lie when it has no room there. */
  otherwise?: Box;
  /** Where in its ground it lies best. */
  best: 'corner' | 'middle';
}

/** Pixels between two of them. */
const APART = 2;
const MARGIN = 6;
const COLUMNS = 12;

/**
 * Finds a place for each, so that none covers another; those that come first choose first. Null for one that has no room
 * left. Of the free places it takes the one that fewest grounds of others reach.
 */
export function placed(wishes: readonly Wish[], grounds: readonly Box[]): (Box | null)[] {
  const taken: Box[] = [];
  return wishes.map((wish) => {
    const { otherwise } = wish;
    const spot =
      placeOne(wish, taken, grounds) ??
      (otherwise ? placeOne({ ...wish, within: otherwise }, taken, grounds) : null);
    if (spot) taken.push(spot);
    return spot;
  });
}

function placeOne(wish: Wish, taken: readonly Box[], grounds: readonly Box[]): Box | null {
  const { within, height } = wish;
  const room = within.width - 2 * MARGIN;
  for (const width of new Set([Math.min(wish.width, room), wish.least ?? wish.width])) {
    if (width > within.width || height > within.height || width <= 0) continue;
    let best: Box | null = null;
    let bestCost = Infinity;
    const across = Math.max(0, within.width - width - 2 * MARGIN);
    const down = Math.max(0, within.height - height - 2 * MARGIN);
    const rows = Math.max(1, Math.floor(down / (height + APART)));
    for (let row = 0; row <= rows; row++)
      for (let column = 0; column <= COLUMNS; column++) {
        const left = Math.min(MARGIN, (within.width - width) / 2);
        const top = Math.min(MARGIN, (within.height - height) / 2);
        const box = {
          x: within.x + left + (across * column) / COLUMNS,
          y: within.y + top + (down * row) / rows,
          width,
          height,
        };
        if (taken.some((other) => touch(other, box))) continue;
        const others = grounds.filter((ground) => touch(ground, box)).length;
        const from =
          wish.best === 'corner'
            ? column * 0.15 + Math.abs(row - rows / 2) * 0.1
            : Math.abs(column - COLUMNS / 2) * 0.3 + Math.abs(row - rows / 2) * 0.3;
        const cost = others * 3 + from;
        if (cost < bestCost) {
          best = box;
          bestCost = cost;
        }
      }
    if (best) return best;
  }
  return null;
}

function touch(a: Box, b: Box): boolean {
  return (
    a.x < b.x + b.width + APART &&
    b.x < a.x + a.width + APART &&
    a.y < b.y + b.height + APART &&
    b.y < a.y + a.height + APART
  );
}
