import type { Beats, Seconds } from '../units/times.js';
import { countInBar } from './bar.js';
import type { ShowClock } from './show-clock.js';

/** What makes a click heard. */
export interface ClickSink {
  /** A click at a time; the first of a bar is told apart. */
  click(at: Seconds, isFirst: boolean): void;
  /** Calls off every click that has not sounded yet. */
  callOff(): void;
}

/** A click whose time has moved by less stays as it was handed over. */
const SAME_TIME: Seconds = 0.0003;

/** A click on every count of the bar, handed over ahead with its time. */
export class Metronome {
  private on = false;
  /** The beat up to which everything is handed over; bars may be counted from elsewhere since. */
  private handed: Beats = -Infinity;
  /** The last click handed over, which may still be to come: its beat, and when it was to be heard. */
  private lastBeat: Beats = -Infinity;
  private lastAt: Seconds = -Infinity;
  /** Clicks until this beat even while it is off: a count-in. */
  private until: Beats = -Infinity;

  constructor(
    private readonly clock: ShowClock,
    private readonly sink: ClickSink,
  ) {
    clock.onTempo(() => this.retime());
    clock.onBars(() => {
      if (this.needsClock) this.begin();
    });
  }

  /** Whether it clicks. */
  get isOn(): boolean {
    return this.on;
  }

  set isOn(on: boolean) {
    if (on === this.on) return;
    this.on = on;
    this.begin();
  }

  /** True while it has to be asked to {@link advance}. */
  get needsClock(): boolean {
    return this.on || this.clock.beats < this.until;
  }

  /** Clicks until a beat in any case, to count in. */
  clickUntil(beat: Beats): void {
    this.until = beat;
    this.begin();
  }

  /** Clicks on only if it is on: a count-in is called off. */
  stop(): void {
    this.until = -Infinity;
    this.begin();
  }

  /** Hands over the clicks that are due within the next moments. */
  advance(): void {
    const { clock } = this;
    const { metre } = clock;
    const step = 4 / metre.unit;
    const last = Math.floor(this.countsAt(clock.horizon));
    // After a pause, or when the clock has leapt, what was left out stays so.
    const first = Math.max(
      Math.floor(this.countsAt(this.handed) + 1e-6) + 1,
      Math.ceil(this.countsAt(clock.beats) - 1e-6),
    );
    for (let count = first; count <= last; count++) {
      const beat = clock.firstBeat + count * step;
      this.handed = beat;
      if (!this.on && beat >= this.until - 1e-6) continue;
      this.lastBeat = beat;
      this.lastAt = clock.timeAt(beat);
      this.sink.click(this.lastAt, countInBar(count * step, metre) === 0);
    }
  }

  private countsAt(beat: Beats): number {
    return ((beat - this.clock.firstBeat) * this.clock.metre.unit) / 4;
  }

  /** Counts from where the clock is now; what was handed over and has not sounded is called off. */
  private begin(): void {
    this.sink.callOff();
    this.handed = -Infinity;
    this.lastAt = -Infinity;
    if (this.needsClock) this.advance();
  }

  /** The tempo has changed: a click that is still to come comes at another time. */
  private retime(): void {
    const { clock } = this;
    if (this.lastAt <= clock.now) return;
    if (Math.abs(clock.timeAt(this.lastBeat) - this.lastAt) > SAME_TIME) this.begin();
  }
}
