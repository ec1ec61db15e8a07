import type { ShowClock } from '../../clock/show-clock.js';
import type { Beats } from '../../units/times.js';
import type { Run } from './run.js';

/** How what runs stands still while those who lead have stopped the clock, and goes on with them where it stood. */
export class Standing {
  /** The beat at which the clock was stopped; NaN while it goes. */
  private stoodAt: Beats = NaN;
  /** The beat from which bars were counted then. */
  private stoodFrom: Beats = NaN;
  /** Since it goes on: the beat from which they would have to be counted for patterns to be where the leader is. */
  private expected: Beats = NaN;

  constructor(private readonly clock: ShowClock) {}

  /** True while the clock is stopped. */
  get isOn(): boolean {
    return !Number.isNaN(this.stoodAt);
  }

  /** This beat; while the clock is stopped the one at which it stands. */
  get now(): Beats {
    return this.isOn ? this.stoodAt : this.clock.beats;
  }

  begin(runs: readonly Run[]): void {
    this.stoodAt = this.clock.beats;
    this.stoodFrom = this.clock.firstBeat;
    for (const { pattern } of runs) pattern.pause();
  }

  /** What stood is given up. */
  giveUp(): void {
    this.stoodAt = NaN;
    this.expected = NaN;
  }

  /**
   * The clock goes on with what stands; gives whether anything did, which has joined the clock then. Where the leader is in its beat
   * is known with its next ticks only: see {@link align}.
   */
  end(runs: readonly Run[], fromTheBeginning: boolean): boolean {
    const { clock, stoodAt, stoodFrom } = this;
    const isThere = runs.length > 0 && clock.joinAt(fromTheBeginning ? 0 : stoodAt - stoodFrom);
    // Not before: while it stands, bars that are counted from elsewhere move nothing.
    this.stoodAt = NaN;
    if (runs.length === 0) return false;
    const now = clock.beats;
    const by = isThere ? clock.firstBeat - stoodFrom : Math.round(now - stoodAt);
    const first = isThere ? clock.firstBeat : now;
    this.expected = fromTheBeginning ? first : stoodFrom + by;
    for (const run of runs) {
      if (!fromTheBeginning) run.pattern.shift(by, stoodAt);
      else {
        run.waitsFor = 'now';
        run.replaces.length = 0;
        run.pattern.beginAnew(first);
      }
    }
    return true;
  }

  /** Bars are counted as those who lead count them: what went on with them comes to where they are. */
  align(runs: readonly Run[]): void {
    const by = this.clock.firstBeat - this.expected;
    this.expected = NaN;
    if (Number.isNaN(by) || by === 0) return;
    for (const { pattern, waitsFor } of runs)
      if (waitsFor !== 'bar' && waitsFor !== 'fourBars') pattern.realign(by);
  }
}
