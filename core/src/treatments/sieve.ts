import { NOW } from '../clock/show-clock.js';
import type { Treatment } from '../model/patch/treatment.js';
import { contains } from '../range/range.js';
import type { Beats } from '../units/times.js';
import { NotesUntil, NoteStage, type NoteSink, type StageSurroundings } from './note-stage.js';

type Settings = Extract<Treatment, { kind: 'sieve' }>;

/** Lets through what lies within its keys and strengths, and of that every nth. */
export class SieveStage extends NoteStage {
  private readonly let: NotesUntil<true>;
  private count = 0;

  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
    this.let = new NotesUntil(around.clock);
  }

  /** Goes on with other settings. */
  set(settings: Settings): void {
    this.settings = settings;
  }

  override stop(): void {
    for (const [id] of this.let.take()) this.sink.release(id, NOW);
    this.count = 0;
  }

  protected override get rests(): boolean {
    return this.let.rest;
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
    if (this.count++ % everyNth !== 0) return;
    this.let.begin(id, true);
    this.sink.press(id, key, velocity, gain, beat);
  }

  protected override give(id: number, beat: Beats): void {
    if (this.let.end(id, beat)) this.sink.release(id, beat);
  }
}
