import type { Treatment } from '../model/treatment.js';
import { contains } from '../range/range.js';
import { Stage, type NoteSink, type StageSurroundings } from './stage.js';

type Settings = Extract<Treatment, { kind: 'filter' }>;

/** Lets through what lies within its keys and strengths, and of that every nth. */
export class NoteFilterStage extends Stage {
  private readonly let: number[] = [];
  private count = 0;

  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
  }

  /** Goes on with other settings. */
  set(settings: Settings): void {
    this.settings = settings;
  }

  override stop(): void {
    for (const id of this.let) this.sink.release(id);
    this.let.length = 0;
    this.count = 0;
  }

  protected override get rests(): boolean {
    return this.let.length === 0;
  }

  protected override take(id: number, key: number, velocity: number, gain: number): void {
    const { keys, velocities, everyNth } = this.settings;
    if (!contains(keys, key) || !contains(velocities, velocity)) return;
    if (this.count++ % everyNth !== 0) return;
    this.let.push(id);
    this.sink.press(id, key, velocity, gain);
  }

  protected override give(id: number): void {
    const at = this.let.indexOf(id);
    if (at < 0) return;
    this.let.splice(at, 1);
    this.sink.release(id);
  }
}
