import type { BeatsPerMinute, Seconds } from '../units/times.js';
import { TICKS_PER_BEAT } from './incoming-clock.js';

/** Ticks over which it listens once it has settled. */
const MEMORY = 6 * TICKS_PER_BEAT;
/** Ticks over which it listens after the tempo was found to drift. */
const QUICK_MEMORY = 16;
/** A tick that is off by more than this is no jitter. */
const JUMP: Seconds = 0.012;
/** How far off the latest ticks may be on average; more is a tempo that drifts. */
const DRIFT: Seconds = 0.002;
/** Ticks of that average. */
const AVERAGED = 12;

/**
 * Another clock, heard through jitter: a second-order loop (an α-β filter) over its ticks. Its gains are those of the best
 * line through all ticks so far, α = 2(2n − 1) / n(n + 1) and β = 6 / n(n + 1), until n is six beats; then they stay.
 */
export class FollowedClock {
  /** Ticks heard since it began anew, up to the memory. */
  private heard = 0;
  /** When the last tick came, without its jitter. */
  private place: Seconds = 0;
  /** Seconds between ticks, without jitter. */
  private period: Seconds = 0;
  /** How far off the latest ticks were on average. */
  private average: Seconds = 0;
  /** When the last tick came, and whether it was off by far. */
  private last: Seconds = -Infinity;
  private wasOff: Seconds = 0;

  /** True once a whole beat was heard: before, the tempo is a guess. */
  get isKnown(): boolean {
    return this.heard > TICKS_PER_BEAT;
  }

  /** Beats per minute; 0 before the second tick. */
  get tempo(): BeatsPerMinute {
    return this.period > 0 ? 60 / (this.period * TICKS_PER_BEAT) : 0;
  }

  /** When the last tick came, without its jitter. */
  get lastTickAt(): Seconds {
    return this.place;
  }

  /** Begins anew with the next tick. */
  forget(): void {
    this.heard = 0;
    this.period = 0;
    this.last = -Infinity;
  }

  /** Hears a tick. */
  tick(time: Seconds): void {
    const interval = time - this.last;
    this.last = time;
    if (this.heard < 2 || interval <= 0) {
      this.begin(time, interval);
      return;
    }
    const expected = this.place + this.period;
    const off = time - expected;
    if (Math.abs(off) > JUMP && this.heard > QUICK_MEMORY) {
      this.jump(time, interval, off);
      return;
    }
    this.wasOff = 0;
    this.heard = Math.min(MEMORY, this.heard + 1);
    this.average += (off - this.average) / AVERAGED;
    if (Math.abs(this.average) > DRIFT && this.heard > QUICK_MEMORY) {
      this.heard = QUICK_MEMORY;
      this.average = 0;
    }
    const n = this.heard;
    this.place = expected + (off * 2 * (2 * n - 1)) / (n * (n + 1));
    this.period += (off * 6) / (n * (n + 1));
  }

  /** The first two ticks. A second one that comes at once is none. */
  private begin(time: Seconds, interval: Seconds): void {
    if (this.heard === 1 && interval <= 0) return;
    if (this.heard === 1) this.period = interval;
    this.heard = Math.min(2, this.heard + 1);
    this.place = time;
    this.average = 0;
    this.wasOff = 0;
  }

  /**
   * One tick far off is passed over, and the line goes on. Two in a row are meant: at the old distance the clock has leapt,
   * at another one it has a new tempo.
   */
  private jump(time: Seconds, interval: Seconds, off: Seconds): void {
    const isMeant = this.wasOff !== 0 && Math.sign(off) === Math.sign(this.wasOff);
    this.wasOff = off;
    this.place += this.period;
    if (!isMeant) return;
    const sameTempo = Math.abs(interval - this.period) < JUMP / 2;
    this.place = time;
    if (!sameTempo) this.period = interval;
    this.heard = sameTempo ? QUICK_MEMORY : 2;
    this.average = 0;
    this.wasOff = 0;
  }
}
