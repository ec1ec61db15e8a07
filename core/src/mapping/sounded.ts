import type { SampleZone } from '../model/library/sample-zone.js';
import type { MidiNote } from '../pitch/note-names.js';
import { rangeGain } from '../range/range.js';
import { takeTurns } from './loudness-steps.js';

/** A zone that a note began. */
export interface SoundedZone {
  zone: SampleZone;
  /** Cents by which its recording was played higher or lower than it is. */
  cents: number;
  /** dB that the fades of its ranges take off. */
  fade: number;
}

/**
 * The zones that a note begins.
 * @param turn notes that this key has begun before, by which zones take turns
 */
export function soundedBy(
  zones: readonly SampleZone[],
  key: MidiNote,
  velocity: number,
  turn: number,
): SoundedZone[] {
  return zones.flatMap((zone) => {
    const gain = rangeGain(zone.keys, key) * rangeGain(zone.velocities, velocity);
    if (gain === 0 || !isTurnOf(zone, zones, turn)) return [];
    const cents = (key - zone.root) * zone.tracking + zone.cents;
    return { zone, cents, fade: 20 * Math.log10(gain) };
  });
}

function isTurnOf(zone: SampleZone, zones: readonly SampleZone[], turn: number): boolean {
  if (zone.turn === 0) return true;
  const group = zones
    .filter((other) => other === zone || takeTurns(zone, other))
    .sort((a, b) => a.turn - b.turn);
  return group[turn % group.length] === zone;
}
