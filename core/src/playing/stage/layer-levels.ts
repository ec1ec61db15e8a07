import { LOUDEST_DB, SILENCE_DB, type Decibels } from '../../units/decibels.js';

/** Seconds over which an edit on the desk is heard, so that nothing clicks. */
export const TOUCH_UP = 0.03;

/** dB by layer that are added to levels. */
export type TrimsByLayer = ReadonlyMap<string, Decibels>;
export const NO_TRIMS: TrimsByLayer = new Map();

/** Levels of the layers of the patch being played: as a patch, a cue or a control has put them, and the trims on top. */
export class LayerLevels {
  private put = new Map<string, Decibels>();
  private before = new Map<string, Decibels>();
  private trims: TrimsByLayer = NO_TRIMS;

  /** A patch is prepared: the one before, or another, whose layers nobody has moved yet. */
  begin(isSame: boolean, trims: TrimsByLayer): void {
    this.trims = trims;
    this.before = isSame ? this.put : new Map<string, Decibels>();
    this.put = new Map();
  }

  /** A layer is put at its level; where that was not asked for anew it stays where a control has moved it. */
  prepare(layerId: string, level: Decibels, isAsked: boolean): void {
    this.put.set(layerId, isAsked ? level : (this.before.get(layerId) ?? level));
  }

  /** A control moves a layer. */
  move(layerId: string, level: Decibels): void {
    this.put.set(layerId, level);
  }

  /** Takes other trims; gives the layers that are heard otherwise from now on. */
  trim(trims: TrimsByLayer): string[] {
    const before = this.trims;
    this.trims = trims;
    return [...this.put.keys()].filter((id) => before.get(id) !== trims.get(id));
  }

  /** A level with the layer's trim. */
  trimmed(layerId: string, level: Decibels): Decibels {
    return Math.max(SILENCE_DB, Math.min(LOUDEST_DB, level + (this.trims.get(layerId) ?? 0)));
  }

  /** How loud a layer is to be now; `level` is its own, where nobody has put it anywhere. */
  of(layerId: string, level: Decibels): Decibels {
    return this.trimmed(layerId, this.put.get(layerId) ?? level);
  }
}
