import { NOW } from '../clock/show-clock.js';
import type { Beats } from '../units/times.js';
import { NotesUntil, NoteStage, type NoteSink, type StageSurroundings } from './note-stage.js';

/** A note that is struck for another one. */
export interface AddedNote {
  key: number;
  /** Linear, on top of the gain of the note that came in. */
  gain: number;
}

/** A treatment that strikes one note or several for each that comes in, and ends them with it. */
export abstract class AddingStage extends NoteStage {
  private readonly begun: NotesUntil<number[]>;

  constructor(sink: NoteSink, around: StageSurroundings) {
    super(sink, around);
    this.begun = new NotesUntil(around.clock);
  }

  override stop(): void {
    for (const [, ids] of this.begun.take()) for (const id of ids) this.sink.release(id, NOW);
  }

  protected override get rests(): boolean {
    return this.begun.rest;
  }

  protected override take(
    id: number,
    key: number,
    velocity: number,
    gain: number,
    beat: Beats,
  ): void {
    const ids: number[] = [];
    for (const note of this.notesFor(key)) {
      const added = this.around.newId();
      ids.push(added);
      this.sink.press(added, note.key, velocity, gain * note.gain, beat);
    }
    this.begun.begin(id, ids);
  }

  protected override give(id: number, beat: Beats): void {
    for (const added of this.begun.end(id, beat) ?? []) this.sink.release(added, beat);
  }

  protected override leanOn(id: number, value: number): void {
    for (const added of this.begun.find(id) ?? []) this.sink.lean(added, value);
  }

  /** What is struck for a key. */
  protected abstract notesFor(key: number): readonly AddedNote[];
}
