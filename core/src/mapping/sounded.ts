import type { SampleZone } from '../model/library/sample-zone.js';
import type { MidiNote } from '../pitch/note-names.js';
import { rangeGain } from '../range/range.js';
import { turnAmong } from './turns.js';

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
  const among = turnAmong(zone, zones);
  return !among || turn % among.of === among.place;
}

/** Where in its recording a zone is, seconds, when so many seconds of it have been played; null when it has ended. */
export function placeAfter(zone: SampleZone, played: number, length: number): number | null {
  const { start, end, loop, reverse, oneShot } = zone;
  const last = end ?? length;
  const turned =
    loop && reverse ? { start: start + last - loop.end, end: start + last - loop.start } : loop;
  let at = start + played;
  if (turned && !oneShot && at >= turned.end)
    at = turned.start + ((at - turned.start) % (turned.end - turned.start));
  if (at > last) return null;
  return reverse ? last - (at - start) : at;
}
