import type { SampleZone } from '../model/library/sample-zone.js';
import type { Span } from '../range/range.js';

/** Whether two zones answer the same keys and velocities, so that only their turn tells them apart. */
export function takeTurns(a: SampleZone, b: SampleZone): boolean {
  const same = (one: Span, other: Span) => one.low === other.low && one.high === other.high;
  return a.turn > 0 && b.turn > 0 && same(a.keys, b.keys) && same(a.velocities, b.velocities);
}

/** A zone’s place among those that take turns with it, from 0, and how many they are; null for one that takes none. */
export function turnAmong(
  zone: SampleZone,
  zones: readonly SampleZone[],
): { place: number; of: number } | null {
  if (zone.turn === 0) return null;
  const group = zones
    .filter((other) => other === zone || takeTurns(zone, other))
    .sort((a, b) => a.turn - b.turn);
  return group.length > 1 ? { place: group.indexOf(zone), of: group.length } : null;
}
