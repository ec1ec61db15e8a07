import { LEAST_TRIM_DB, MOST_TRIM_DB } from '../../model/show/trim-limits.js';

/** The middle of a controller's travel, where nothing is trimmed. */
const MIDDLE = 64;
/** How near a knob has to come to where a trim stands, dB: a step of its travel. */
const NEAR = 0.4;

/** dB that a position of a knob (0–127) trims by: 0 in the middle. */
export function trimAt(position: number): number {
  return position < MIDDLE
    ? (LEAST_TRIM_DB * (MIDDLE - position)) / MIDDLE
    : (MOST_TRIM_DB * (position - MIDDLE)) / (127 - MIDDLE);
}

/** Knobs that trim: each takes a trim over only where it stands, so that no level leaps when a knob is touched. */
export class TrimKnobs {
  /** Where each knob stood last, by its place. */
  private readonly positions = new Map<number, number>();
  /** Knobs that have come by where the trim of what is played stands. */
  private readonly held = new Set<number>();

  /** Another patch is played: its trims stand elsewhere. */
  letGo(): void {
    this.held.clear();
  }

  /** A knob was moved; gives the trim it asks for, dB, or null while it has not come by the present one. */
  move(knob: number, position: number, present: number): number | null {
    const asked = trimAt(position);
    const before = trimAt(this.positions.get(knob) ?? position);
    this.positions.set(knob, position);
    const passed = (before - present) * (asked - present) <= 0;
    if (!this.held.has(knob) && Math.abs(asked - present) > NEAR && !passed) return null;
    this.held.add(knob);
    return Math.round(asked * 10) / 10;
  }
}
