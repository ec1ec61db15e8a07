import type { SampleZone } from '../model/library/sample-zone.js';
import { withRangePart, type Range } from '../range/range.js';
import type { ZoneChanges } from './zone-remarks.js';

/** What of zones is moved: all of it, the root, or one or two edges. */
export type ZonePart =
  | 'whole'
  | 'root'
  | {
      keys?: 'low' | 'high' | 'fadeIn' | 'fadeOut';
      velocities?: 'low' | 'high' | 'fadeIn' | 'fadeOut';
    };

/** How far, in keys and velocities. */
export interface ZoneMove {
  keys: number;
  velocities: number;
}

/**
 * Moves zones, all by as much, as far as all of them can go. Roots stay where they are while a zone is carried to other keys, so that
 * every key sounds as it did; those whose pitch no key moves go along.
 */
export function moveZones(zones: readonly SampleZone[], part: ZonePart, by: ZoneMove): ZoneChanges {
  if (part === 'root')
    return changesOf(zones, ({ root }) => ({ root: held(root + by.keys, 0, 127) }));
  if (part !== 'whole')
    return changesOf(zones, (zone) => ({
      ...(part.keys ? { keys: edge(zone.keys, part.keys, by.keys, 0) } : {}),
      ...(part.velocities
        ? { velocities: edge(zone.velocities, part.velocities, by.velocities, 1) }
        : {}),
    }));
  const keys = within(
    by.keys,
    zones.map((zone) => zone.keys),
    0,
  );
  const velocities = within(
    by.velocities,
    zones.map((zone) => zone.velocities),
    1,
  );
  return changesOf(zones, (zone) => ({
    keys: shifted(zone.keys, keys),
    velocities: shifted(zone.velocities, velocities),
    ...(zone.tracking === 0 ? { root: held(zone.root + keys, 0, 127) } : {}),
  }));
}

function changesOf(
  zones: readonly SampleZone[],
  change: (zone: SampleZone) => Partial<Omit<SampleZone, 'id'>>,
): ZoneChanges {
  return Object.fromEntries(zones.map((zone) => [zone.id, change(zone)]));
}

function edge(
  range: Range,
  part: 'low' | 'high' | 'fadeIn' | 'fadeOut',
  by: number,
  lowest: 0 | 1,
): Range {
  return withRangePart(range, part, range[part] + (part === 'fadeOut' ? -by : by), lowest);
}

function shifted(range: Range, by: number): Range {
  return { ...range, low: range.low + by, high: range.high + by };
}

/** As far as every range can go. */
function within(by: number, ranges: readonly Range[], lowest: number): number {
  const down = Math.min(...ranges.map(({ low }) => low)) - lowest;
  const up = 127 - Math.max(...ranges.map(({ high }) => high));
  return held(by, -down, up);
}

function held(value: number, low: number, high: number): number {
  return Math.min(high, Math.max(low, value));
}
