import type { Treatment } from '../model/patch/treatment.js';
import { AddingStage, type AddedNote } from './adding.js';
import type { NoteSink, StageSurroundings } from './note-stage.js';

type Settings = Extract<Treatment, { kind: 'chord' }>;

/** Adds notes to each key, bent into the song's key if wished. Two that fall on one key sound once. */
export class ChordStage extends AddingStage {
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

  protected override notesFor(key: number): AddedNote[] {
    return chordOn(key, this.settings, this.around.scale()).map((note) => ({ key: note, gain: 1 }));
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
