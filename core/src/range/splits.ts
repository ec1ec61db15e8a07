import { widthOf, type Range, type Span } from './range.js';

/** Two ranges side by side, the lower one first. */
export type Pair = [lower: Range, upper: Range];

/**
 * Cuts a range at a value, which becomes the lowest of the upper part. The outer fades stay with their ends; the cut is
 * hard. Null when the value leaves nothing on one side.
 */
export function splitAt(range: Range, at: number): Pair | null {
  if (at <= range.low || at > range.high) return null;
  return [fitted({ ...range, high: at - 1, fadeOut: 0 }), fitted({ ...range, low: at, fadeIn: 0 })];
}

/**
 * Shares a range out into `parts` ranges as equal as whole steps allow, the wider ones first. Fewer come back when the
 * range has fewer steps.
 */
export function splitEvenly(range: Range, parts: number): Range[] {
  const count = Math.max(1, Math.min(Math.floor(parts), widthOf(range)));
  const each = Math.floor(widthOf(range) / count);
  const wider = widthOf(range) - each * count;
  const found: Range[] = [];
  let low = range.low;
  for (let part = 0; part < count; part++) {
    const high = low + each - 1 + (part < wider ? 1 : 0);
    found.push(
      fitted({
        ...range,
        low,
        high,
        fadeIn: part === 0 ? range.fadeIn : 0,
        fadeOut: part === count - 1 ? range.fadeOut : 0,
      }),
    );
    low = high + 1;
  }
  return found;
}

/** Steps that two ranges share: positive for an overlap, 0 when they meet, negative for a gap between them. */
export function overlapOf(lower: Span, upper: Span): number {
  return lower.high - upper.low + 1;
}

/**
 * Puts the boundary between two ranges at a value, which becomes the lowest of the upper one: gaps close, overlaps go.
 * The value is held so that both keep at least one step.
 */
export function withBoundary([lower, upper]: Pair, at: number): Pair {
  const boundary = Math.min(upper.high, Math.max(lower.low + 1, Math.round(at)));
  return [fitted({ ...lower, high: boundary - 1 }), fitted({ ...upper, low: boundary })];
}

/** Makes two ranges meet in the middle of the gap or overlap between them; hard edges there. */
export function meeting([lower, upper]: Pair): Pair {
  const middle = Math.floor((lower.high + 1 + upper.low) / 2);
  return withBoundary(
    [
      { ...lower, fadeOut: 0 },
      { ...upper, fadeIn: 0 },
    ],
    middle,
  );
}

/** Turns the overlap of two ranges into a crossfade of its length; unchanged when they do not overlap. */
export function crossfaded([lower, upper]: Pair): Pair {
  const length = overlapOf(lower, upper);
  if (length <= 0) return [lower, upper];
  return [fitted({ ...lower, fadeOut: length }), fitted({ ...upper, fadeIn: length })];
}

/** Moves both sides of a split by a number of steps, keeping their overlap or gap. */
export function movedSplit([lower, upper]: Pair, by: number): Pair {
  const least = Math.max(lower.low - lower.high, -upper.low);
  const most = Math.min(upper.high - upper.low, 127 - lower.high);
  const step = Math.min(most, Math.max(least, by));
  return [
    fitted({ ...lower, high: lower.high + step }),
    fitted({ ...upper, low: upper.low + step }),
  ];
}

/**
 * Stretches or shrinks one side of a range to where the nearest neighbour stops: one above its highest, or one below its
 * lowest. Null when there is no neighbour on that side.
 */
export function upToNeighbour(
  range: Range,
  side: 'low' | 'high',
  neighbours: readonly Span[],
): Range | null {
  if (side === 'low') {
    const below = neighbours.filter((n) => n.high < range.high && n.low < range.low);
    if (below.length === 0) return null;
    return fitted({ ...range, low: Math.max(...below.map((n) => n.high)) + 1 });
  }
  const above = neighbours.filter((n) => n.low > range.low && n.high > range.high);
  if (above.length === 0) return null;
  return fitted({ ...range, high: Math.min(...above.map((n) => n.low)) - 1 });
}

/** The same range with fades that no longer fit shortened, the inner one last. */
function fitted(range: Range): Range {
  const width = widthOf(range);
  const fadeIn = Math.min(range.fadeIn, width);
  return { ...range, fadeIn, fadeOut: Math.min(range.fadeOut, width - fadeIn) };
}
