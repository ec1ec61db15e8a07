import { NOW } from '../clock/show-clock.js';
import type { Treatment } from '../model/patch/treatment.js';
import type { Beats } from '../units/times.js';
import { NotesUntil, NoteStage, type NoteSink, type StageSurroundings } from './note-stage.js';

type Settings = Extract<Treatment, { kind: 'chord' }>;

/** Adds notes to each key, bent into the song's key if wished. Two that fall on one key sound once. */
export class ChordStage extends NoteStage {
  private readonly begun: NotesUntil<number[]>;

  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
    this.begun = new NotesUntil(around.clock);
  }

  /** Goes on with other settings; chords that are held stay as they are. */
  set(settings: Settings): void {
    this.settings = settings;
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
    for (const note of chordOn(key, this.settings, this.around.scale())) {
      const added = this.around.newId();
      ids.push(added);
      this.sink.press(added, note, velocity, gain, beat);
    }
    this.begun.begin(id, ids);
  }

  protected override give(id: number, beat: Beats): void {
    for (const added of this.begun.end(id, beat) ?? []) this.sink.release(added, beat);
  }
}

/** The keys of a chord on a key. With `inKey` every added note goes down to the nearest of the scale. */
export function chordOn(
  key: number,
  { intervals, inKey }: Pick<Settings, 'intervals' | 'inKey'>,
  scale: Uint8Array,
): number[] {
  const notes = new Set<number>();
  for (const interval of intervals) {
    let note = key + interval;
    if (inKey && interval !== 0)
      for (let tries = 0; tries < 12 && scale[((note % 12) + 12) % 12] === 0; tries++) note--;
    notes.add(note);
  }
  return [...notes];
}
