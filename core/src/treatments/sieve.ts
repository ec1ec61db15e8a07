import { NOW } from '../clock/show-clock.js';
import type { Treatment } from '../model/patch/treatment.js';
import { contains } from '../range/range.js';
import type { Beats } from '../units/times.js';
import { NotesUntil, NoteStage, type NoteSink, type StageSurroundings } from './note-stage.js';

type Settings = Extract<Treatment, { kind: 'sieve' }>;

/** A note within the keys and strengths. */
interface Counted {
  /** When it was struck. */
  from: Beats;
  isLet: boolean;
}

/** Lets through what lies within its keys and strengths, and of that every nth. */
export class SieveStage extends NoteStage {
  private readonly counted: NotesUntil<Counted>;
  private count = 0;

  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
    this.counted = new NotesUntil(around.clock);
  }

  /** Goes on with other settings. */
  set(settings: Settings): void {
    this.settings = settings;
  }

  override stop(): void {
    for (const [id, { isLet }] of this.counted.take()) if (isLet) this.sink.release(id, NOW);
    this.count = 0;
  }

  protected override get rests(): boolean {
    return this.counted.rest;
  }

  protected override take(
    id: number,
    key: number,
    velocity: number,
    gain: number,
    beat: Beats,
  ): void {
    const { keys, velocities, everyNth } = this.settings;
    if (!contains(keys, key) || !contains(velocities, velocity)) return;
    const isLet = this.count++ % everyNth === 0;
    this.counted.begin(id, { from: this.beatOf(beat), isLet });
    if (isLet) this.sink.press(id, key, velocity, gain, beat);
  }

  protected override give(id: number, beat: Beats): void {
    const note = this.counted.find(id);
    if (!note) return;
    // What does not come after all, as when the keys of an arpeggio change, has not been counted.
    const isToCome = note.from > this.beatOf(beat);
    if (isToCome) this.count--;
    this.counted.end(id, isToCome ? NOW : beat);
    if (note.isLet) this.sink.release(id, beat);
  }

  protected override leanOn(id: number, value: number): void {
    if (this.counted.find(id)?.isLet) this.sink.lean(id, value);
  }
}
