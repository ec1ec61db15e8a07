import { FOUR_FOUR, type Metre } from '../model/show/song.js';
import {
  beatsOfSeconds,
  secondsOfBeats,
  type Beats,
  type BeatsPerMinute,
  type Seconds,
} from '../units/times.js';
import { barBeats } from './bar.js';

/** How far ahead of its time everything that runs on the clock is worked out and handed over. */
export const AHEAD: Seconds = 0.05;
/** How long before its time a message is handed to a port: short, since it cannot be called back then. */
export const HANDED_OVER: Seconds = 0.012;
/** “Now” as a place on the show’s clock: before everything that is still to come. */
export const NOW: Beats = -Infinity;

/** A leap goes to a whole number of these beats, so that whatever is counted in beats goes on evenly. */
const LEAP: Beats = 24;
/** Seconds in which it comes up with a clock that it follows. */
const MEETING: Seconds = 0.5;
/** Share of the tempo by which it hurries or lingers at most meanwhile. */
const MOST_HURRY = 0.2;

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
  /** Beats a minute at which it goes: the tempo, and a little more or less while it comes up with another clock. */
  private pace: BeatsPerMinute = 120;
  private users = 0;
  private kept = false;
  private counted = FOUR_FOUR;
  private readonly listeners = new Set<() => void>();
  private readonly barListeners = new Set<() => void>();

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
    this.goAt(tempo, tempo);
  }

  /**
   * Comes up with a line that another clock goes along: its beat at a time, and its tempo. It goes faster or slower until it
   * has, so that beats never run backwards and nothing is struck twice.
   */
  meet(beat: Beats, at: Seconds, tempo: BeatsPerMinute): void {
    const apart = beat + beatsOfSeconds(this.time() - at, tempo) - this.beats;
    const faster = Math.max(-MOST_HURRY, Math.min(MOST_HURRY, (apart * 60) / tempo / MEETING));
    this.goAt(tempo, tempo * (1 + faster));
  }

  /** Comes up with another clock no longer: it goes on at its tempo. */
  settle(): void {
    this.goAt(this.beatsPerMinute, this.beatsPerMinute);
  }

  /**
   * Stands at once at a beat of another clock, if nothing runs on this one; gives the beat that the other's beat 0 is here,
   * from which bars are counted then. NaN when something runs, which has to be come up with instead.
   */
  leapTo(beat: Beats, at: Seconds): Beats {
    if (this.isRunning) return NaN;
    const now = this.time();
    this.origin = this.beyond(now);
    this.beatsThen = this.origin + beat + beatsOfSeconds(now - at, this.pace);
    this.then = now;
    this.tellBars();
    return this.origin;
  }

  /** A beat beyond everything that was handed over. */
  private beyond(now: Seconds): Beats {
    return Math.ceil((this.beatsAt(now) + BEHIND) / LEAP) * LEAP;
  }

  private goAt(tempo: BeatsPerMinute, pace: BeatsPerMinute): void {
    if (tempo === this.beatsPerMinute && pace === this.pace) return;
    const now = this.time();
    this.beatsThen = this.beatsAt(now);
    this.then = now;
    this.beatsPerMinute = tempo;
    this.pace = pace;
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
    return this.beatsThen + beatsOfSeconds(time - this.then, this.pace);
  }

  /** The time of a beat, at the present pace. */
  timeAt(beat: Beats): Seconds {
    return this.then + secondsOfBeats(beat - this.beatsThen, this.pace);
  }

  /** True while something runs on the clock. */
  get isRunning(): boolean {
    return this.users > 0;
  }

  /** Beats since it began to count anew, which is where bars are counted from; below 0 while it counts in. */
  get beatsInBars(): Beats {
    return this.beats - this.origin;
  }

  /** The beat from which bars are counted. */
  get firstBeat(): Beats {
    return this.origin;
  }

  /** The metre in which bars are counted. */
  get metre(): Metre {
    return this.counted;
  }

  set metre(metre: Metre) {
    if (metre.beats === this.counted.beats && metre.unit === this.counted.unit) return;
    this.counted = metre;
    this.tellBars();
  }

  /** Calls back after bars were begun to be counted from elsewhere, or in another metre, until the returned function is called. */
  onBars(listener: () => void): () => void {
    this.barListeners.add(listener);
    return () => this.barListeners.delete(listener);
  }

  private tellBars(): void {
    for (const listener of this.barListeners) listener();
  }

  /**
   * The beat at which the next bar begins, at this beat or after it; with more bars than one the next of which so many have
   * gone since the first. While it counts in that is the first.
   */
  barFrom(beat: Beats, bars = 1): Beats {
    const length = bars * barBeats(this.counted);
    const bar = Math.ceil((beat - this.origin) / length - 1e-9);
    return this.origin + Math.max(0, bar) * length;
  }

  /** Others keep to this clock, or it keeps to another: then it goes on in its beat, whatever begins to run on it. */
  set isKept(kept: boolean) {
    this.kept = kept;
  }

  /** Counts bars from another beat on. */
  countFrom(beat: Beats): void {
    if (beat === this.origin) return;
    this.origin = beat;
    this.tellBars();
  }

  /**
   * Counts so many beats in before bars begin. At once, unless something keeps to the clock already: then from the next
   * beat on.
   */
  countIn(beats: Beats): void {
    if (this.isRunning || this.kept)
      this.countFrom(Math.ceil(this.beats - this.origin - 1e-6) + this.origin + beats);
    else this.countAnew(beats);
  }

  /**
   * Begins to count anew, unless something runs on the clock: that goes on in its beat. Beats never run backwards, or what is
   * past would lie ahead again; they leap.
   */
  restart(): void {
    if (!this.isRunning && !this.kept) this.countAnew(0);
  }

  /** Leaps, and counts bars from so many beats later on. */
  private countAnew(beatsBefore: Beats): void {
    const now = this.time();
    this.beatsThen = this.beyond(now);
    this.then = now;
    this.countFrom(this.beatsThen + beatsBefore);
  }

  /** Something begins to run. The first one starts the clock anew, so that it need not wait for a beat. */
  join(): void {
    this.restart();
    this.users++;
  }

  /**
   * Something is to begin at the bar to come: gives its beat, which is now when nothing ran. From now on the clock runs for it,
   * so that whatever joins meanwhile does not begin it anew. Who waits hears by {@link onBars} when the bar lies elsewhere.
   */
  joinAtBar(bars = 1): Beats {
    const ran = this.isRunning || this.kept;
    this.join();
    // Time goes on meanwhile: the bar that has just begun with it is the one.
    return ran ? this.barFrom(this.beats, bars) : this.origin;
  }

  /**
   * Something goes on that stood at a beat of the bars: so does the clock, from there. False when something runs on it, which
   * goes on in its beat.
   */
  joinAt(beat: Beats): boolean {
    const leapt = !Number.isNaN(this.leapTo(beat, this.time()));
    this.users++;
    return leapt;
  }

  /** Something has stopped running. */
  leave(): void {
    this.users--;
  }
}
