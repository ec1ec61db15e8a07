import type { ReadyPattern } from '../../patterns/ready-pattern.js';
import type { Beats } from '../../units/times.js';
import type { Run } from './run.js';

/** What an accompanist plays, and what comes next. The object is reused. */
export interface BandLook {
  /** The placed pattern that plays; null for none. */
  playing: ReadyPattern | null;
  /** How far it is in its round, 0 … 1. */
  place: number;
  /** The one that waits; null for none. */
  next: ReadyPattern | null;
  /** Beats until it begins. */
  beatsToNext: Beats;
  /** True when it stops at a beat that is to come and nothing follows. */
  isEnding: boolean;
}

export const AT_REST: Readonly<BandLook> = {
  ...{ playing: null, place: 0, next: null, beatsToNext: 0, isEnding: false },
};

/** Looks at those of some runs that are meant. */
export function lookAt(
  looked: BandLook,
  runs: readonly Run[],
  now: Beats,
  isMeant: (run: Run) => boolean,
): void {
  Object.assign(looked, AT_REST);
  for (const run of runs) {
    if (!isMeant(run)) continue;
    const { pattern } = run;
    if (pattern.hasBegun(now)) {
      looked.playing = pattern.ready;
      looked.place = pattern.placeAt(now);
      looked.isEnding = pattern.until < Infinity;
    } else {
      looked.next = pattern.ready;
      looked.beatsToNext = pattern.origin - now;
    }
  }
  if (looked.next) looked.isEnding = false;
}
