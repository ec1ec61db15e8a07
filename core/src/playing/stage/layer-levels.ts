import type { CompiledLayer } from '../../routing/compile.js';
import { LOUDEST_DB, SILENCE_DB, type Decibels } from '../../units/decibels.js';
import type { Moved } from '../../units/moved.js';

/** Seconds over which an edit on the desk is heard, so that nothing clicks. */
export const TOUCH_UP = 0.03;

/** dB by layer that are added to levels. */
export type TrimsByLayer = ReadonlyMap<string, Decibels>;
export const NO_TRIMS: TrimsByLayer = new Map();

/** Levels of the layers of the patch being played: as a patch, a cue or a control has put them, and the trims on top. */
export class LayerLevels {
  private put = new Map<string, Float64Array>();
  private before = new Map<string, Float64Array>();
  private trims: TrimsByLayer = NO_TRIMS;
  /** A level that was looked at, dB: one that is given back would be an object anew. */
  readonly looked = new Float64Array(1);

  /** A patch is prepared: the one before, or another, whose layers nobody has moved yet. */
  begin(isSame: boolean, trims: TrimsByLayer): void {
    this.trims = trims;
    this.before = isSame ? this.put : new Map<string, Float64Array>();
    this.put = new Map();
  }

  /** A layer is put at its level; where that was not asked for anew it stays where a control has moved it. */
  prepare(layerId: string, level: Decibels, isAsked: boolean): void {
    const before = isAsked ? undefined : this.before.get(layerId);
    this.put.set(layerId, before ?? Float64Array.of(level));
  }

  /** A control moves a layer to a level in dB. */
  move(layerId: string, to: Readonly<Moved>): void {
    const put = this.put.get(layerId);
    if (put) put[0] = to.value;
    else this.put.set(layerId, Float64Array.of(to.value));
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

  /** Puts into {@link looked} how loud a layer is to be now: as it is itself where nobody has put it anywhere. */
  look({ id, source }: CompiledLayer): void {
    const put = this.put.get(id);
    const trim = this.trims.get(id) ?? 0;
    const level = (put ? put[0] : source.level) + trim;
    this.looked[0] = Math.max(SILENCE_DB, Math.min(LOUDEST_DB, level));
  }

  /** How loud a layer is to be now. */
  of(layer: CompiledLayer): Decibels {
    this.look(layer);
    return this.looked[0];
  }
}
