import { NOW } from '../clock/show-clock.js';
import type { Beats } from '../units/times.js';
import { NoteStage, type NoteSink, type StageSurroundings } from './note-stage.js';

/** The part of a step by which a note may be late and still counts as on it. */
const LATE = 1 / 3;

/** Something that comes in later than now: a press, or (with velocity 0) a release. */
interface Coming {
  id: number;
  key: number;
  velocity: number;
  gain: number;
  beat: Beats;
}

/** A note handed on ahead of its time. */
interface Handed {
  id: number;
  /** The note that came in and that it was made of. */
  of: number;
  /** Counts the steps of the stage, so that they can be gone back by. */
  step: number;
  from: Beats;
  until: Beats;
  /** Whether what it was made of has been let go, at a beat that was ahead. */
  isOver: boolean;
}

/**
 * A treatment that strikes notes of its own on the clock. Its steps are worked out a little ahead and handed on with their
 * beat; what the hand does meanwhile takes back those that have not sounded yet. Notes that come in from a stage before it
 * ahead of their time wait here for their turn among the steps.
 */
export abstract class ClockedStage extends NoteStage {
  private readonly coming: Coming[] = [];
  private readonly handed: Handed[] = [];
  /** The beat from which its steps are counted: where bars began as it began to run, since steps need not divide a bar. */
  private origin: Beats = 0;

  constructor(sink: NoteSink, around: StageSurroundings) {
    super(sink, around);
  }

  override advance(until: Beats): void {
    for (;;) {
      const next = this.coming.at(0);
      if (!next || next.beat > until) break;
      this.stepTo(next.beat - 1e-9);
      this.coming.shift();
      if (next.velocity > 0) this.struck(next.id, next.key, next.velocity, next.gain, next.beat);
      else this.lifted(next.id, next.beat);
    }
    this.stepTo(until);
    this.forgetSounded();
  }

  protected override get rests(): boolean {
    this.forgetSounded();
    return this.handed.length === 0 && this.coming.length === 0 && this.holdsNothing;
  }

  protected override take(
    id: number,
    key: number,
    velocity: number,
    gain: number,
    beat: Beats,
  ): void {
    if (beat === NOW) {
      this.struck(id, key, velocity, gain, NOW);
      this.advance(this.around.clock.horizon);
    } else this.wait({ id, key, velocity, gain, beat });
  }

  protected override give(id: number, beat: Beats): void {
    const press = this.coming.findIndex((c) => c.id === id && c.velocity > 0);
    if (beat !== NOW && press >= 0 && beat <= this.coming[press].beat) {
      this.coming.splice(press, 1);
      return;
    }
    if (beat !== NOW) {
      this.wait({ id, key: 0, velocity: 0, gain: 0, beat });
      return;
    }
    for (let i = this.coming.length - 1; i >= 0; i--)
      if (this.coming[i].id === id) this.coming.splice(i, 1);
    this.lifted(id, NOW);
    // It may have been worked out to its end already: what was made of it ends now, or does not come.
    this.endAll(NOW, (note) => note.of === id && note.isOver);
    this.advance(this.around.clock.horizon);
  }

  protected override leanOn(id: number, value: number): void {
    const { beats } = this.around.clock;
    for (const note of this.handed)
      if (note.of === id && note.from <= beats && note.until > beats)
        this.sink.lean(note.id, value);
  }

  /** Hands a note on that begins and ends at beats; `from` may be {@link NOW}. */
  protected hand(
    of: number,
    step: number,
    key: number,
    velocity: number,
    gain: number,
    from: Beats,
    until: Beats,
  ): void {
    const id = this.around.newId();
    this.handed.push({ id, of, step, from, until, isOver: false });
    this.sink.press(id, key, velocity, gain, from);
    this.sink.release(id, until);
  }

  /** Takes back notes that have not sounded yet; gives the earliest of their steps, or Infinity when there was none. */
  protected takeBack(which: (note: Handed) => boolean = () => true): number {
    const { beats } = this.around.clock;
    let earliest = Infinity;
    for (let i = this.handed.length - 1; i >= 0; i--) {
      const note = this.handed[i];
      if (note.from <= beats || !which(note)) continue;
      earliest = Math.min(earliest, note.step);
      this.handed.splice(i, 1);
      this.sink.release(note.id, NOW);
    }
    return earliest;
  }

  /** Ends at a beat what would sound longer, and takes back what does not sound before it. */
  protected endAll(at: Beats, which: (note: Handed) => boolean = () => true): void {
    for (let i = this.handed.length - 1; i >= 0; i--) {
      const note = this.handed[i];
      if (!which(note)) continue;
      if (note.from < at) {
        note.isOver = true;
        if (note.until <= at) continue;
        note.until = at;
        this.sink.release(note.id, at);
      } else {
        this.handed.splice(i, 1);
        this.sink.release(note.id, NOW);
      }
    }
  }

  /** It begins to run on the clock. */
  protected join(): void {
    const { clock } = this.around;
    clock.join();
    this.origin = clock.firstBeat;
  }

  /** The beat of a step. */
  protected beatOfStep(step: number, length: Beats): Beats {
    return this.origin + step * length;
  }

  /** Where a beat lies, in steps of a length. */
  protected stepsAt(beat: Beats, length: Beats): number {
    return (beat - this.origin) / length;
  }

  /** The step on which something struck at a beat begins: the one just begun, or the next. */
  protected stepFor(beat: Beats, length: Beats): number {
    const steps = this.stepsAt(beat, length);
    const begun = Math.floor(steps + 1e-9);
    return steps - begun <= LATE ? begun : begun + 1;
  }

  /** Forgets what is still to come. */
  protected expectNothing(): void {
    this.coming.length = 0;
  }

  private wait(coming: Coming): void {
    let at = this.coming.length;
    while (at > 0 && this.coming[at - 1].beat > coming.beat) at--;
    this.coming.splice(at, 0, coming);
  }

  private forgetSounded(): void {
    const { beats } = this.around.clock;
    for (let i = this.handed.length - 1; i >= 0; i--)
      if (this.handed[i].until <= beats) this.handed.splice(i, 1);
  }

  /** True when no note that came in is held. */
  protected abstract readonly holdsNothing: boolean;
  /** Strikes what is due up to a beat. */
  protected abstract stepTo(until: Beats): void;
  /** A note came in and counts from a beat on. */
  protected abstract struck(
    id: number,
    key: number,
    velocity: number,
    gain: number,
    beat: Beats,
  ): void;
  /** A note that came in is let go at a beat. */
  protected abstract lifted(id: number, beat: Beats): void;
}
