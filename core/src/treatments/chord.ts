import type { Treatment } from '../model/treatment.js';
import { Stage, type NoteSink, type StageSurroundings } from './stage.js';

type Settings = Extract<Treatment, { kind: 'chord' }>;

/** Adds notes to each key, bent into the song's key if wished. Two that fall on one key sound once. */
export class ChordStage extends Stage {
  private readonly begun = new Map<number, number[]>();

  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
  }

  /** Goes on with other settings; chords that are held stay as they are. */
  set(settings: Settings): void {
    this.settings = settings;
  }

  override stop(): void {
    for (const ids of this.begun.values()) for (const id of ids) this.sink.release(id);
    this.begun.clear();
  }

  protected override get rests(): boolean {
    return this.begun.size === 0;
  }

  protected override take(id: number, key: number, velocity: number, gain: number): void {
    const ids: number[] = [];
    for (const note of chordOn(key, this.settings, this.around.scale())) {
      const added = this.around.newId();
      ids.push(added);
      this.sink.press(added, note, velocity, gain);
    }
    this.begun.set(id, ids);
  }

  protected override give(id: number): void {
    const ids = this.begun.get(id);
    if (!ids) return;
    this.begun.delete(id);
    for (const added of ids) this.sink.release(added);
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
