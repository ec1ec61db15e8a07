import type { Treatment } from '../model/patch/treatment.js';
import { gainFromDb } from '../units/decibels.js';
import { AddingStage, type AddedNote } from './adding.js';
import type { NoteSink, StageSurroundings } from './note-stage.js';

type Settings = Extract<Treatment, { kind: 'doubling' }>;

/** Adds each note some octaves higher or lower, at a level of its own. */
export class DoublingStage extends AddingStage {
  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
  }

  /** Goes on with other settings; notes that are held stay as they are. */
  set(settings: Settings): void {
    this.settings = settings;
  }

  protected override notesFor(key: number): AddedNote[] {
    const { octaves, level } = this.settings;
    return [
      { key, gain: 1 },
      { key: key + octaves * 12, gain: gainFromDb(level) },
    ];
  }
}
