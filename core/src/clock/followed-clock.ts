import type { BeatsPerMinute, Seconds } from '../units/times.js';
import { TICKS_PER_BEAT } from './incoming-clock.js';

/** Looks over which it listens once it has settled. */
const MEMORY = 6 * TICKS_PER_BEAT;
/** Looks over which it listens after the tempo was found to drift. */
const QUICK_MEMORY = 16;
/** A tick that is off by more than this is no jitter. */
const JUMP: Seconds = 0.012;
/** How far off the latest ticks may be on average; more is a tempo that drifts. */
const DRIFT: Seconds = 0.002;
/** Ticks of that average. */
const AVERAGED = 12;
/** Ticks that follow one another this closely have been held up together: only the last of them says when it was sent. */
const TOGETHER: Seconds = 0.002;
/** Looks until a clock that came in bursts counts as even again. */
const CALM = 24;

/**
 * Another clock, heard through jitter: a second-order loop (an α-β filter) over its ticks. Its gains are those of the best
 * line through all ticks so far, α = 2(2n − 1) / n(n + 1) and β = 6 / n(n + 1), until n is six beats; then they stay. Of ticks
 * that come in one burst the last is looked at, as so many ticks further on.
 */
export class FollowedClock {
  /** Ticks heard since it began anew, up to the memory; and looks at the clock, which are fewer when ticks come in bursts. */
  private heard = 0;
  private looks = 0;
  /** When the last tick came, without its jitter. */
  private place: Seconds = 0;
  /** Seconds between ticks, without jitter. */
  private period: Seconds = 0;
  /** How far off the latest ticks were on average. */
  private average: Seconds = 0;
  /** When the last tick came, and how far it was off if that was far. */
  private last: Seconds = -Infinity;
  private wasOff: Seconds = 0;
  /** How all that was before the ticks that came together, and how many these are. */
  private readonly before = {
    looks: 0,
    place: 0.5,
    period: 0.5,
    average: 0.5,
    wasOff: 0.5,
    last: 0.5,
  };
  private steps = 1;
  /** Looks since ticks came in a burst. */
  private calm = CALM;

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
    this.looks = 0;
    this.period = 0;
    this.last = -Infinity;
    this.calm = CALM;
  }

  /** Hears a tick. */
  tick(time: Seconds): void {
    const interval = time - this.last;
    if (this.looks < 2 || interval < 0) {
      this.last = time;
      this.begin(time, interval);
      return;
    }
    this.heard = Math.min(MEMORY, this.heard + 1);
    if (interval < Math.min(TOGETHER, this.period / 4)) {
      this.steps++;
      if (this.steps > 2) this.calm = 0;
      this.goBack();
    } else {
      this.steps = 1;
      this.calm = Math.min(CALM, this.calm + 1);
      this.remember();
    }
    this.look(time, time - this.before.last);
    this.last = time;
  }

  private look(time: Seconds, interval: Seconds): void {
    const { steps } = this;
    const expected = this.place + this.period * steps;
    const off = time - expected;
    // In bursts the last tick may have been held up for as long as the next was not there.
    const most = this.calm < CALM ? JUMP + this.period : JUMP;
    if (Math.abs(off) > most && this.looks > QUICK_MEMORY) {
      this.jump(time, interval / steps, off, expected);
      return;
    }
    this.wasOff = 0;
    this.looks = Math.min(MEMORY, this.looks + 1);
    this.average += (off - this.average) / AVERAGED;
    if (Math.abs(this.average) > DRIFT && this.looks > QUICK_MEMORY) {
      this.looks = QUICK_MEMORY;
      this.average = 0;
    }
    const n = this.looks;
    this.place = expected + (off * 2 * (2 * n - 1)) / (n * (n + 1));
    this.period += (off * 6) / (n * (n + 1)) / steps;
  }

  private remember(): void {
    const { before } = this;
    before.looks = this.looks;
    before.place = this.place;
    before.period = this.period;
    before.average = this.average;
    before.wasOff = this.wasOff;
    before.last = this.last;
  }

  private goBack(): void {
    const { before } = this;
    this.looks = before.looks;
    this.place = before.place;
    this.period = before.period;
    this.average = before.average;
    this.wasOff = before.wasOff;
  }

  /** The first two ticks. A second one that comes at once is none. */
  private begin(time: Seconds, interval: Seconds): void {
    if (this.looks === 1 && interval < TOGETHER) return;
    if (this.looks === 1) this.period = interval;
    this.looks = Math.min(2, this.looks + 1);
    this.heard = Math.max(this.heard, this.looks);
    this.place = time;
    this.average = 0;
    this.wasOff = 0;
    this.steps = 1;
    this.remember();
  }

  /**
   * One tick far off is passed over, and the line goes on. Two in a row are meant: at the old distance the clock has leapt,
   * at another one it has a new tempo.
   */
  private jump(time: Seconds, interval: Seconds, off: Seconds, expected: Seconds): void {
    const isMeant = this.wasOff !== 0 && Math.sign(off) === Math.sign(this.wasOff);
    this.wasOff = off;
    this.place = expected;
    if (!isMeant) return;
    const sameTempo = Math.abs(interval - this.period) < JUMP / 2;
    this.place = time;
    if (!sameTempo) this.period = interval;
    this.looks = sameTempo ? QUICK_MEMORY : 2;
    this.heard = this.looks;
    this.average = 0;
    this.wasOff = 0;
  }
}
