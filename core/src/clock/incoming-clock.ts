import {
  CONTINUE_CLOCK,
  SONG_POSITION,
  START_CLOCK,
  STOP_CLOCK,
  TIMING_CLOCK,
} from '../midi/messages.js';
import type { Beats, Seconds } from '../units/times.js';

/** Timing clocks in a quarter note (MIDI 1.0). */
export const TICKS_PER_BEAT = 24;
/** Timing clocks in the sixteenth note that a song position counts. */
const TICKS_PER_POSITION = 6;
/** Without a tick for this long a clock counts as stopped. */
const PATIENCE: Seconds = 0.5;

/** What a device that leads says of its clock: ticks, start, stop, continue, song position. Nothing is allocated. */
export class IncomingClock {
  private ticksHeard = 0;
  private started = false;
  private lastTick: Seconds = -Infinity;
  private position = 0;

  /** Ticks since the page was opened. */
  get ticks(): number {
    return this.ticksHeard;
  }

  /** Where the leading device stands, in quarter notes from its start or its song position. */
  get beats(): Beats {
    return this.position / TICKS_PER_BEAT;
  }

  /** True between start or continue and stop. */
  get isStarted(): boolean {
    return this.started;
  }

  /** True while ticks arrive, started or not. */
  isTicking(now: Seconds): boolean {
    return now - this.lastTick < PATIENCE;
  }

  /** Takes a message and when it came; false for one that has nothing to do with the clock. */
  take(status: number, data1: number, data2: number, time: Seconds): boolean {
    switch (status) {
      case TIMING_CLOCK:
        this.ticksHeard++;
        this.lastTick = time;
        if (this.started) this.position++;
        return true;
      case START_CLOCK:
        this.started = true;
        this.position = 0;
        return true;
      case CONTINUE_CLOCK:
        this.started = true;
        return true;
      case STOP_CLOCK:
        this.started = false;
        return true;
      case SONG_POSITION:
        this.position = (data1 + data2 * 128) * TICKS_PER_POSITION;
        return true;
      default:
        return false;
    }
  }
}
