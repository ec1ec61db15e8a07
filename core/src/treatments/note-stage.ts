import { NOW, type ShowClock } from '../clock/show-clock.js';
import type { Beats } from '../units/times.js';

/**
 * Takes notes: keys as the hand plays them, velocity 1–127, linear gain, and the beat at which each thing is due
 * ({@link NOW} for at once). Every press is followed by a release, not before it; a second one that is due earlier takes
 * its place, and one that is due before the press takes the press back.
 */
export interface NoteSink {
  press(id: number, key: number, velocity: number, gain: number, beat: Beats): void;
  release(id: number, beat: Beats): void;
  /** A finger leans on the key of a note, 0–127: what sounds of it obeys. */
  lean(id: number, value: number): void;
}

/** What the stages of a chain share. */
export interface StageSurroundings {
  clock: ShowClock;
  /** Makes the id of a note that a stage adds. */
  newId: () => number;
  /** 1 for each pitch class (0 = C) of the song's fingered key. */
  scale: () => Uint8Array;
}

/**
 * Notes that a stage has let through or begun, until the beat at which they end has gone by: up to then they can still be
 * ended earlier.
 */
export class NotesUntil<T> {
  private readonly notes = new Map<number, { note: T; until: Beats }>();

  constructor(private readonly clock: ShowClock) {}

  begin(id: number, note: T): void {
    this.notes.set(id, { note, until: Infinity });
  }

  /** The note, which goes on; undefined when it is none of these. */
  find(id: number): T | undefined {
    return this.notes.get(id)?.note;
  }

  /** The note, which ends at a beat now; undefined when it is none of these. */
  end(id: number, beat: Beats): T | undefined {
    const known = this.notes.get(id);
    if (!known) return undefined;
    if (beat === NOW) this.notes.delete(id);
    else known.until = beat;
    return known.note;
  }

  /** True when none of them is still to end. */
  get rest(): boolean {
    this.forgetEnded();
    return this.notes.size === 0;
  }

  /** Every note that is still to end; they are forgotten. */
  take(): [number, T][] {
    this.forgetEnded();
    const all = [...this.notes].map(([id, { note }]): [number, T] => [id, note]);
    this.notes.clear();
    return all;
  }

  private forgetEnded(): void {
    const { beats } = this.clock;
    for (const [id, { until }] of this.notes) if (until <= beats) this.notes.delete(id);
  }
}

/**
 * One treatment at work on one layer. Notes come in by `press` and `release` and go on to the sink. Whatever was begun
 * while it was on ends as it began; while it is off, notes pass.
 */
export abstract class NoteStage implements NoteSink {
  private readonly passed: NotesUntil<true>;
  private active = true;

  constructor(
    protected readonly sink: NoteSink,
    protected readonly around: StageSurroundings,
  ) {
    this.passed = new NotesUntil(around.clock);
  }

  /** Switching it off ends what it had begun. */
  set on(on: boolean) {
    this.active = on;
    if (!on) this.stop();
  }

  press(id: number, key: number, velocity: number, gain: number, beat: Beats): void {
    if (this.active) {
      this.take(id, key, velocity, gain, beat);
      return;
    }
    this.passed.begin(id, true);
    this.sink.press(id, key, velocity, gain, beat);
  }

  release(id: number, beat: Beats): void {
    if (this.passed.end(id, beat)) this.sink.release(id, beat);
    else this.give(id, beat);
  }

  lean(id: number, value: number): void {
    if (this.passed.find(id)) this.sink.lean(id, value);
    else this.leanOn(id, value);
  }

  /** Leans on what it has begun for a note; most hand the note itself on. */
  protected leanOn(id: number, value: number): void {
    this.sink.lean(id, value);
  }

  /** True when it holds nothing and nothing it began still sounds. */
  get idle(): boolean {
    return this.passed.rest && this.rests;
  }

  /** Does what becomes due on the clock up to a beat. */
  advance(_until: Beats): void {
    // Most treatments answer at once and have nothing to wait for.
  }

  /** Gives up what no key holds any more. */
  letGo(): void {
    // Only what can be held beyond the keys has something to give up.
  }

  /** From now on nothing is held beyond its keys: the patch it belongs to was left. */
  leave(): void {
    // Most never hold anything beyond them.
  }

  /** The beat at which something is due, by the clock for what is due at once. */
  protected beatOf(beat: Beats): Beats {
    return beat === NOW ? this.around.clock.beats : beat;
  }

  /** Ends everything it has begun, keys down or not. */
  abstract stop(): void;
  protected abstract readonly rests: boolean;
  protected abstract take(
    id: number,
    key: number,
    velocity: number,
    gain: number,
    beat: Beats,
  ): void;
  protected abstract give(id: number, beat: Beats): void;
}
