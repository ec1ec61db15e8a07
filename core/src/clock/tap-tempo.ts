import type { BeatsPerMinute, Seconds } from '../units/times.js';

/** Intervals that are heard together. */
const MOST_INTERVALS = 8;
/** Seconds without a tap after which tapping begins anew. */
const PAUSE: Seconds = 2;
/** Share by which an interval may be off; what is further off was a slip. */
const SLIP = 1 / 3;
/** The shortest interval that is meant: a finger that bounces is quicker. */
const SHORTEST: Seconds = 0.12;

/**
 * The tempo that a player taps: the median of the last eight intervals. One that is off by more than a third is forgotten;
 * two of these in a row are the new tempo. Two seconds without a tap begin anew.
 */
export class TapTempo {
  private intervals: Seconds[] = [];
  private last: Seconds = -Infinity;
  /** The interval that was taken for a slip just before; 0 for none. */
  private slip: Seconds = 0;
  private taps = 0;

  /** How many taps were heard since it began anew. */
  get count(): number {
    return this.taps;
  }

  /** Hears a tap; gives the tempo so far, or null while there is none. */
  tap(time: Seconds): BeatsPerMinute | null {
    const interval = time - this.last;
    if (interval < SHORTEST) return this.tempo;
    this.last = time;
    this.taps++;
    if (interval > PAUSE) {
      this.intervals = [];
      this.slip = 0;
      this.taps = 1;
      return null;
    }
    const usual = median(this.intervals);
    if (this.intervals.length > 0 && Math.abs(interval - usual) > usual * SLIP) {
      const isMeant = this.slip > 0 && Math.abs(interval - this.slip) <= this.slip * SLIP;
      const before = this.slip;
      this.slip = isMeant ? 0 : interval;
      if (isMeant) this.intervals = [before, interval];
      return this.tempo;
    }
    this.slip = 0;
    this.intervals = [...this.intervals, interval].slice(-MOST_INTERVALS);
    return this.tempo;
  }

  /** The tempo so far; null while there is none. */
  get tempo(): BeatsPerMinute | null {
    return this.intervals.length === 0 ? null : 60 / median(this.intervals);
  }
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length / 2;
  return sorted.length % 2 === 1
    ? sorted[Math.floor(middle)]
    : (sorted[middle - 1] + sorted[middle]) / 2;
}
