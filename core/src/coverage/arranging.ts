import type { Layer } from '../model/patch/layer.js';
import { crossfaded, meeting, overlapOf, splitEvenly, upToNeighbour } from '../range/splits.js';
import { withRangePart, type Axis, type Range, type Span } from '../range/range.js';
import type { RangeChanges } from './moving-split.js';

/** Layers from low to high; those that begin together stay in their order. */
function fromLow(layers: readonly Layer[], axis: Axis): Layer[] {
  return [...layers].sort((a, b) => a[axis].low - b[axis].low || a[axis].high - b[axis].high);
}

function setting(axis: Axis, pairs: Iterable<[Layer, Range]>): RangeChanges {
  const changes: RangeChanges = {};
  for (const [layer, range] of pairs)
    if (JSON.stringify(layer[axis]) !== JSON.stringify(range))
      changes[layer.id] = { [axis]: range };
  return changes;
}

/** Shares a span out evenly among layers, from low to high: an N-way split of keys, or N layers by strength. */
export function sharedOut(layers: readonly Layer[], axis: Axis, over: Span): RangeChanges {
  const ordered = fromLow(layers, axis);
  const law = ordered.at(0)?.[axis].law ?? 'equalPower';
  const parts = splitEvenly({ ...over, fadeIn: 0, fadeOut: 0, law }, ordered.length);
  return setting(
    axis,
    ordered.flatMap((layer, i): [Layer, Range][] => (parts[i] ? [[layer, parts[i]]] : [])),
  );
}

/** Makes neighbours meet: gaps between them close, overlaps go. Layers that lie one over the other are left alone. */
export function madeToMeet(layers: readonly Layer[], axis: Axis): RangeChanges {
  return alongNeighbours(layers, axis, (lower, upper) => meeting([lower, upper]));
}

/** Turns every overlap of neighbours into a crossfade of its length. */
export function overlapsCrossfaded(layers: readonly Layer[], axis: Axis): RangeChanges {
  return alongNeighbours(layers, axis, (lower, upper) =>
    overlapOf(lower, upper) > 0 ? crossfaded([lower, upper]) : [lower, upper],
  );
}

function alongNeighbours(
  layers: readonly Layer[],
  axis: Axis,
  change: (lower: Range, upper: Range) => [Range, Range],
): RangeChanges {
  const ordered = fromLow(layers, axis);
  const ranges = ordered.map((layer) => layer[axis]);
  for (let i = 0; i + 1 < ranges.length; i++) {
    const sideBySide = ranges[i].low < ranges[i + 1].low && ranges[i].high < ranges[i + 1].high;
    if (sideBySide) [ranges[i], ranges[i + 1]] = change(ranges[i], ranges[i + 1]);
  }
  return setting(
    axis,
    ordered.map((layer, i): [Layer, Range] => [layer, ranges[i]]),
  );
}

/** Puts one end of a layer's keys at the key beside its nearest neighbour; nothing where there is none. */
export function besideNeighbour(
  layer: Layer,
  side: 'low' | 'high',
  others: readonly Layer[],
): RangeChanges {
  const keys = upToNeighbour(
    layer.keys,
    side,
    others.filter((other) => other.id !== layer.id).map((other) => other.keys),
  );
  return keys ? setting('keys', [[layer, keys]]) : {};
}

/** Puts one end of a layer's keys at a key. */
export function endingAt(layer: Layer, side: 'low' | 'high', key: number): RangeChanges {
  return setting('keys', [[layer, withRangePart(layer.keys, side, key)]]);
}
