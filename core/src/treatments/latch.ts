import { NOW } from '../clock/show-clock.js';
import type { Beats } from '../units/times.js';
import { NotesUntil, NoteStage, type NoteSink, type StageSurroundings } from './note-stage.js';

interface Latched {
  from: Beats;
  /** When its key is let go; never, as long as nobody knows. */
  until: Beats;
}

/** Holds what was struck until the next note comes after all keys were let go, or until it is switched off. */
export class LatchStage extends NoteStage {
  private readonly latched = new Map<number, Latched>();
  private readonly sounding: NotesUntil<true>;
  private left = false;

  constructor(sink: NoteSink, around: StageSurroundings) {
    super(sink, around);
    this.sounding = new NotesUntil(around.clock);
  }

  /** There is nothing to set. */
  set(): void {
    // What is latched stays.
  }

  override letGo(): void {
    for (const [id, { until }] of this.latched)
      if (until <= this.around.clock.beats) this.end(id, NOW);
  }

  override leave(): void {
    this.left = true;
    this.letGo();
    for (const [id, { until }] of this.latched) if (until < Infinity) this.end(id, until);
  }

  override stop(): void {
    this.latched.clear();
    for (const [id] of this.sounding.take()) this.sink.release(id, NOW);
  }

  protected override get rests(): boolean {
    return this.sounding.rest;
  }

  protected override take(
    id: number,
    key: number,
    velocity: number,
    gain: number,
    beat: Beats,
  ): void {
    const from = this.beatOf(beat);
    const isNext = [...this.latched.values()].every(({ until }) => until <= from);
    if (isNext) for (const before of [...this.latched.keys()]) this.end(before, beat);
    this.latched.set(id, { from, until: Infinity });
    this.sounding.begin(id, true);
    this.sink.press(id, key, velocity, gain, beat);
  }

  protected override give(id: number, beat: Beats): void {
    const note = this.latched.get(id);
    if (!note) {
      // It was to end with a note that does not come any more, or it has ended.
      if (this.sounding.end(id, beat)) this.sink.release(id, beat);
      return;
    }
    // What has not sounded yet does not come.
    if (note.from > this.beatOf(beat)) this.end(id, NOW);
    else if (this.left) this.end(id, beat);
    else note.until = this.beatOf(beat);
  }

  private end(id: number, beat: Beats): void {
    this.latched.delete(id);
    if (this.sounding.end(id, beat)) this.sink.release(id, beat);
  }
}
