import type { SampleZone } from '../model/library/sample-zone.js';
import type { Span } from '../range/range.js';

/** A part of the field. */
export interface ZoneGround {
  keys: Span;
  velocities: Span;
}

const VELOCITIES: Span = { low: 1, high: 127 };

/**
 * What no zone answers, as few rectangles as rows of equal gaps make, within some keys and all velocities. Cut at the edges of zones;
 * zones are counted in and out along the edges, so that it costs as much as there are edges and not as there are keys.
 */
export function silentGround(zones: readonly SampleZone[], keys: Span): ZoneGround[] {
  const keyCuts = cuts(
    zones.map((zone) => zone.keys),
    keys,
  );
  const velocityCuts = cuts(
    zones.map((zone) => zone.velocities),
    VELOCITIES,
  );
  const [wide, high] = [keyCuts.length, velocityCuts.length];
  const counts = new Int32Array(wide * high);
  const atKey = new Map(keyCuts.map((cut, i) => [cut, i]));
  const atVelocity = new Map(velocityCuts.map((cut, i) => [cut, i]));
  for (const zone of zones) {
    const [x1, x2] = edges(zone.keys, keys, atKey);
    const [y1, y2] = edges(zone.velocities, VELOCITIES, atVelocity);
    if (x1 >= x2 || y1 >= y2) continue;
    counts[y1 * wide + x1]++;
    counts[y1 * wide + x2]--;
    counts[y2 * wide + x1]--;
    counts[y2 * wide + x2]++;
  }
  sumUp(counts, wide, high);
  return rectangles(counts, keyCuts, velocityCuts);
}

/** Where something begins or has ended, and both ends of the whole, ascending. */
function cuts(spans: readonly Span[], { low, high }: Span): number[] {
  const all = spans.flatMap((span) => [span.low, span.high + 1]);
  const inside = all.filter((cut) => cut > low && cut <= high);
  return [...new Set([low, ...inside, high + 1])].sort((a, b) => a - b);
}

function edges(span: Span, whole: Span, at: ReadonlyMap<number, number>): [number, number] {
  const low = Math.max(span.low, whole.low);
  const high = Math.min(span.high, whole.high) + 1;
  return [at.get(low) ?? 0, high > low ? (at.get(high) ?? 0) : -1];
}

function sumUp(counts: Int32Array, wide: number, high: number): void {
  for (let y = 0; y < high; y++)
    for (let x = 0; x < wide; x++) {
      const at = y * wide + x;
      if (x > 0) counts[at] += counts[at - 1];
      if (y > 0) counts[at] += counts[at - wide];
      if (x > 0 && y > 0) counts[at] -= counts[at - wide - 1];
    }
}

/** Empty cells, joined along the keys first and then upwards where they are equally wide. */
function rectangles(
  counts: Int32Array,
  keyCuts: readonly number[],
  velocityCuts: readonly number[],
): ZoneGround[] {
  const wide = keyCuts.length;
  const found: ZoneGround[] = [];
  let below = new Map<string, ZoneGround>();
  for (let y = 0; y < velocityCuts.length - 1; y++) {
    const here = new Map<string, ZoneGround>();
    const velocities = { low: velocityCuts[y], high: velocityCuts[y + 1] - 1 };
    for (let x = 0; x < wide - 1; x++) {
      if (counts[y * wide + x] > 0) continue;
      const from = x;
      while (x + 1 < wide - 1 && counts[y * wide + x + 1] <= 0) x++;
      const key = `${from}-${x}`;
      const ground = below.get(key) ?? {
        keys: { low: keyCuts[from], high: keyCuts[x + 1] - 1 },
        velocities: { ...velocities },
      };
      if (!below.has(key)) found.push(ground);
      ground.velocities.high = velocities.high;
      here.set(key, ground);
    }
    below = here;
  }
  return found;
}
