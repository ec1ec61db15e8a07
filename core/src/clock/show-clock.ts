import {
  beatsOfSeconds,
  secondsOfBeats,
  type Beats,
  type BeatsPerMinute,
  type Seconds,
} from '../units/times.js';

/** How far ahead of its time everything that runs on the clock is worked out and handed over. */
export const AHEAD: Seconds = 0.05;
/** “Now” as a place on the show’s clock: before everything that is still to come. */
export const NOW: Beats = -Infinity;

/** Beats that are a whole number of every step there is. */
const COMMON_STEP: Beats = 24;
/** Beats that a leap goes at least, beyond the end of every note that was handed over ahead. */
const BEHIND: Beats = 8;

/**
 * The show’s clock: it turns seconds into beats and back.
 *
 *     beats  ──┐        ┌── a change of tempo bends the line where it is reached
 *              └────────┘
 *     seconds ─────────────►
 */
export class ShowClock {
  private beatsThen: Beats = 0;
  private origin: Beats = 0;
  private then: Seconds = 0;
  private beatsPerMinute: BeatsPerMinute = 120;
  private users = 0;
  private readonly listeners = new Set<() => void>();

  /** @param time the present time in seconds; it never runs backwards */
  constructor(private readonly time: () => Seconds) {}

  /** The present time. */
  get now(): Seconds {
    return this.time();
  }

  /** Beats per minute. A change of tempo goes on from the beat that has been reached. */
  get tempo(): BeatsPerMinute {
    return this.beatsPerMinute;
  }

  set tempo(tempo: BeatsPerMinute) {
    if (tempo === this.beatsPerMinute) return;
    const now = this.time();
    this.beatsThen = this.beatsAt(now);
    this.then = now;
    this.beatsPerMinute = tempo;
    for (const listener of this.listeners) listener();
  }

  /** Calls back after every change of tempo until the returned function is called. */
  onTempo(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Beats since the clock began. */
  get beats(): Beats {
    return this.beatsAt(this.time());
  }

  /** The beat up to which everything is worked out now. */
  get horizon(): Beats {
    return this.beatsAt(this.time() + AHEAD);
  }

  /** The beat at a time. */
  beatsAt(time: Seconds): Beats {
    return this.beatsThen + beatsOfSeconds(time - this.then, this.beatsPerMinute);
  }

  /** The time of a beat, at the present tempo. */
  timeAt(beat: Beats): Seconds {
    return this.then + secondsOfBeats(beat - this.beatsThen, this.beatsPerMinute);
  }

  /** True while something runs on the clock. */
  get isRunning(): boolean {
    return this.users > 0;
  }

  /** Beats since it began to count anew, which is where bars are counted from. */
  get beatsInBars(): Beats {
    return this.beats - this.origin;
  }

  /**
   * Begins to count anew, unless something runs on the clock: that goes on in its beat. Beats never run backwards, or what is
   * past would lie ahead again; they leap to where every step begins.
   */
  restart(): void {
    if (this.isRunning) return;
    const now = this.time();
    this.origin = Math.ceil((this.beatsAt(now) + BEHIND) / COMMON_STEP) * COMMON_STEP;
    this.beatsThen = this.origin;
    this.then = now;
  }

  /** Something begins to run. The first one starts the clock anew, so that it need not wait for a beat. */
  join(): void {
    this.restart();
    this.users++;
  }

  /** Something has stopped running. */
  leave(): void {
    this.users--;
  }
}

/** The part of a step by which a note may be late and still counts as on it. */
const LATE = 1 / 3;

/** The step on which something struck now begins: the one just begun, or the next; counted in steps from beat 0. */
export function firstStep(beats: Beats, stepBeats: Beats): number {
  const steps = beats / stepBeats;
  const begun = Math.floor(steps + 1e-9);
  return steps - begun <= LATE ? begun : begun + 1;
}
