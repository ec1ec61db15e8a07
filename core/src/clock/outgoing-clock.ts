import { START_CLOCK, STOP_CLOCK, TIMING_CLOCK } from '../midi/messages.js';
import type { Beats, Seconds } from '../units/times.js';
import { TICKS_PER_BEAT } from './incoming-clock.js';
import { HANDED_OVER, type ShowClock } from './show-clock.js';

/** A port that ticks are sent to; the time is on the clock's own, 0 is now. */
export interface ClockPort {
  send(bytes: readonly number[], at: Seconds): void;
}

/** A pause whose ticks are sent after it: others would stay behind for good. */
const CAUGHT_UP: Seconds = 1;

const TICK = [TIMING_CLOCK];
const START = [START_CLOCK];
const STOP = [STOP_CLOCK];

/** MIDI clock for other devices: 24 ticks a beat, start and stop. */
export class OutgoingClock {
  private ports: readonly ClockPort[] = [];
  /** The last tick sent, counted from beat 0 of the show's clock. */
  private sent = -Infinity;
  /** The tick before which start is sent; NaN for none. */
  private startsAt = NaN;

  constructor(private readonly clock: ShowClock) {}

  /** True while there is anybody to be told, so that {@link advance} has to be called. */
  get needsClock(): boolean {
    return this.ports.length > 0;
  }

  /** Sends to these from now on. */
  set followers(ports: readonly ClockPort[]) {
    this.ports = ports;
    this.sent = -Infinity;
  }

  /** Has the others start with a beat that is still to come. */
  startAt(beat: Beats): void {
    this.startsAt = Math.round(beat * TICKS_PER_BEAT);
  }

  /** Has the others stop. */
  stop(): void {
    this.startsAt = NaN;
    this.send(STOP, 0);
  }

  /** Hands over the ticks that are due within the next moments. */
  advance(): void {
    if (this.ports.length === 0) return;
    const { clock } = this;
    const last = Math.floor(clock.beatsAt(clock.now + HANDED_OVER) * TICKS_PER_BEAT);
    const { now } = clock;
    const next = Math.ceil(clock.beats * TICKS_PER_BEAT - 1e-6);
    // What a machine that was busy has missed is caught up with; what lies behind when the clock has leapt is not.
    const missed = clock.timeAt((this.sent + 1) / TICKS_PER_BEAT) >= now - CAUGHT_UP;
    const first = missed ? this.sent + 1 : Math.max(this.sent + 1, next);
    for (let tick = first; tick <= last; tick++) {
      this.sent = tick;
      const due = clock.timeAt(tick / TICKS_PER_BEAT);
      const at = due > now ? due : 0;
      if (tick >= this.startsAt) {
        this.startsAt = NaN;
        this.send(START, at);
      }
      this.send(TICK, at);
    }
  }

  private send(bytes: readonly number[], at: Seconds): void {
    for (const port of this.ports) port.send(bytes, at);
  }
}
