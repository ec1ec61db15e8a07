import type { Layer } from '../model/patch/layer.js';
import type { Patch } from '../model/patch/patch.js';
import { intersection, type Axis, type Range, type Span } from '../range/range.js';
import { movedSplit, overlapOf } from '../range/splits.js';

/** New keys or velocities by layer id. */
export type RangeChanges = Record<string, { keys?: Range; velocities?: Range }>;

/** Which side of a layer a split is looked for on. */
export type SplitSide = 'low' | 'high';

/**
 * Moves the split on one side of a layer by some steps, together with every layer that begins or ends there. Without a side
 * it is the upper one, or the lower where there is none. Null when the layer has no neighbour there.
 */
export function movingSplit(
  patch: Patch,
  layerId: string,
  by: number,
  { side, axis = 'keys' }: { side?: SplitSide; axis?: Axis } = {},
): RangeChanges | null {
  const layer = patch.layers.find((l) => l.id === layerId);
  if (!layer) return null;
  const others = patch.layers.filter(
    (l) =>
      shareKeyboard(l, layer) && (axis === 'keys' || intersection(l.keys, layer.keys) !== null),
  );
  const above = others.filter((other) => isSplit(layer[axis], other[axis]));
  if (above.length > 0 && side !== 'low') return movedTogether([layer], above, by, axis);
  const below = others.filter((other) => isSplit(other[axis], layer[axis]));
  return below.length > 0 && side !== 'high' ? movedTogether(below, [layer], by, axis) : null;
}

/** All sides of a split move by the same number of steps: as many as the tightest of them allows. */
function movedTogether(lower: Layer[], upper: Layer[], by: number, axis: Axis): RangeChanges {
  let step = by;
  for (const l of lower)
    for (const u of upper) step = movedSplit([l[axis], u[axis]], step)[0].high - l[axis].high;
  const changes: RangeChanges = {};
  for (const l of lower)
    for (const u of upper) {
      const [below, above] = movedSplit([l[axis], u[axis]], step);
      changes[l.id] = { [axis]: below };
      changes[u.id] = { [axis]: above };
    }
  return changes;
}

/** Side by side: meeting, overlapping in part, or with a small gap between them. */
function isSplit(lower: Span, upper: Span): boolean {
  const widestGap = 3;
  return lower.low < upper.low && lower.high < upper.high && overlapOf(lower, upper) >= -widestGap;
}

/** True when two layers listen to a keyboard in common. */
export function shareKeyboard(a: Layer, b: Layer): boolean {
  const { keyboards } = b;
  if (a.keyboards === 'any' || keyboards === 'any') return true;
  return a.keyboards.some((place) => keyboards.includes(place));
}
