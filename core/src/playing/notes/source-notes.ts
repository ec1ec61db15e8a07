import { NOW, type ShowClock } from '../../clock/show-clock.js';
import type { NoteSink } from '../../treatments/note-stage.js';
import type { CompiledLayer, CompiledPatch } from '../../routing/compile.js';
import type { Beats } from '../../units/times.js';

/** What plays notes on the clock beside the hands, such as a pattern. Its notes are known by the object itself. */
export interface NoteSource {
  /** The layers of the patch that it plays. */
  readonly layerIds: ReadonlySet<string>;
  /** Its notes are pieces of a kit, by their keys in General MIDI: a kit that says where it has them is played there. */
  readonly isKit: boolean;
  /** The patch that they belong to; null for whichever is played. */
  readonly patch: CompiledPatch | null;
}

/**
 * The key that hands would strike on a layer for what a source plays, which may lie beyond 0–127; null where the layer’s kit has no
 * such piece. A piece sounds where it lies, whatever its layer is moved by.
 */
export function fingeredBy(
  { isKit }: NoteSource,
  { kit, shift, source }: CompiledLayer,
  key: number,
): number | null {
  if (!isKit || !kit || key < 0 || key > 127) return key - (shift - source.transpose);
  return kit[key] < 0 ? null : kit[key] - shift;
}

/** A note of a source, and where it went. */
interface SourceNote {
  source: NoteSource;
  id: number;
  sink: NoteSink;
  from: Beats;
  until: Beats;
}

/** The notes of sources that are still to end, so that a source can be ended before its time. */
export class SourceNotes {
  private readonly notes: SourceNote[] = [];
  /** Notes that have ended, for those to come: a note allocates nothing. */
  private readonly spare: SourceNote[] = [];

  constructor(private readonly clock: ShowClock) {}

  /** Enters a note that was handed on, with the beats at which it begins and ends. */
  enter(source: NoteSource, id: number, sink: NoteSink, from: Beats, until: Beats): void {
    const note = this.spare.pop() ?? { source, id, sink, from: 0.5, until: 0.5 };
    note.source = source;
    note.id = id;
    note.sink = sink;
    note.from = from;
    note.until = until;
    this.notes.push(note);
  }

  /** Ends what a source plays at a beat: what would begin later does not come. */
  end(source: NoteSource, at: Beats): void {
    const { beats } = this.clock;
    for (let i = this.notes.length - 1; i >= 0; i--) {
      const note = this.notes[i];
      if (note.source === source) this.endNote(note, at, beats);
    }
    this.forgetEnded();
  }

  /** Takes back what of a source has not begun. */
  takeBack(source: NoteSource): void {
    const { beats } = this.clock;
    for (let i = this.notes.length - 1; i >= 0; i--) {
      const note = this.notes[i];
      if (note.source !== source || note.from <= beats) continue;
      this.forget(i);
      note.sink.release(note.id, NOW);
    }
  }

  /** Ends everything at once. */
  endAll(at: Beats): void {
    const { beats } = this.clock;
    for (let i = this.notes.length - 1; i >= 0; i--) this.endNote(this.notes[i], at, beats);
    this.forgetEnded();
  }

  /** Ends at once what belongs to no patch of its own; the others’ own is for whoever plays them to say. */
  endUnowned(): void {
    const { beats } = this.clock;
    for (let i = this.notes.length - 1; i >= 0; i--)
      if (this.notes[i].source.patch === null) this.endNote(this.notes[i], NOW, beats);
    this.forgetEnded();
  }

  /** Forgets what has ended. */
  forgetEnded(): void {
    const { beats } = this.clock;
    for (let i = this.notes.length - 1; i >= 0; i--)
      if (this.notes[i].until <= beats) this.forget(i);
  }

  private endNote(note: SourceNote, at: Beats, beats: Beats): void {
    if (note.until <= at) return;
    note.until = Math.max(at, beats);
    note.sink.release(note.id, at);
  }

  /** The last one takes its place: their order means nothing. */
  private forget(index: number): void {
    const last = this.notes.length - 1;
    this.spare.push(this.notes[index]);
    this.notes[index] = this.notes[last];
    this.notes.length = last;
  }
}
