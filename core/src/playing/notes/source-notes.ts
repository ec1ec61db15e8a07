import { NOW, type ShowClock } from '../../clock/show-clock.js';
import type { NoteSink } from '../../treatments/note-stage.js';
import type { CompiledPatch } from '../../routing/compile.js';
import type { Beats } from '../../units/times.js';

/** What plays notes on the clock beside the hands, such as a pattern. Its notes are known by the object itself. */
export interface NoteSource {
  /** The layers of the patch that it plays. */
  readonly layerIds: ReadonlySet<string>;
  /** The patch that they belong to; null for whichever is played. */
  readonly patch: CompiledPatch | null;
}

/** A note of a source, and where it went. */
interface SourceNote {
  id: number;
  sink: NoteSink;
  from: Beats;
  until: Beats;
}

/** The notes of sources that are still to end, so that a source can be ended before its time. */
export class SourceNotes {
  private readonly bySource = new Map<NoteSource, SourceNote[]>();

  constructor(private readonly clock: ShowClock) {}

  /** Enters a note that was handed on, with the beat at which it ends. */
  enter(source: NoteSource, note: SourceNote): void {
    const known = this.bySource.get(source);
    if (known) known.push(note);
    else this.bySource.set(source, [note]);
  }

  /** Ends what a source plays at a beat: what would begin later does not come. */
  end(source: NoteSource, at: Beats): void {
    const { beats } = this.clock;
    for (const note of this.bySource.get(source) ?? []) {
      if (note.until <= at) continue;
      note.until = Math.max(at, beats);
      note.sink.release(note.id, at);
    }
    this.forgetEnded();
  }

  /** Takes back what of a source has not begun. */
  takeBack(source: NoteSource): void {
    const { beats } = this.clock;
    const notes = this.bySource.get(source);
    if (!notes) return;
    for (let i = notes.length - 1; i >= 0; i--) {
      const note = notes[i];
      if (note.from <= beats) continue;
      notes.splice(i, 1);
      note.sink.release(note.id, NOW);
    }
    if (notes.length === 0) this.bySource.delete(source);
  }

  /** Ends everything at once. */
  endAll(at: Beats): void {
    for (const source of [...this.bySource.keys()]) this.end(source, at);
  }

  /** Forgets what has ended. */
  forgetEnded(): void {
    const { beats } = this.clock;
    for (const [source, notes] of this.bySource) {
      for (let i = notes.length - 1; i >= 0; i--) if (notes[i].until <= beats) notes.splice(i, 1);
      if (notes.length === 0) this.bySource.delete(source);
    }
  }
}
