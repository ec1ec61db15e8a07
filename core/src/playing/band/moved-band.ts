import { type BandMoves, type BandSetting } from '../../model/patch/band-settings.js';
import { movedAccompanist, settledAt, writtenSetting } from '../../model/patch/band-moves.js';
import type { CompiledBand, ReadyAccompanist } from '../../patterns/compiled-band.js';

/** The accompanists of the patch that is played, their settings where hands have put them since it came. */
export class MovedBand {
  private band: CompiledBand | null = null;
  private ready: ReadyAccompanist[] = [];
  private readonly moves = new Map<string, BandMoves>();
  /** Places of those that are to be made ready anew: a knob that is swept asks often, and once in a while is enough. */
  private readonly stale = new Set<number>();

  /** Plays these from now on; in another patch nobody has moved anything yet. */
  take(band: CompiledBand | null, isOther: boolean): void {
    this.band = band;
    if (isOther) this.moves.clear();
    this.ready = [...(band?.accompanists ?? [])];
    this.stale.clear();
    this.ready.forEach(({ id, index }) => {
      if (this.moves.has(id)) this.stale.add(index);
    });
    this.renew();
  }

  get accompanists(): readonly ReadyAccompanist[] {
    return this.ready;
  }

  find(id: string): ReadyAccompanist | undefined {
    return this.ready.find((one) => one.id === id);
  }

  /** Where a setting stands now; null for an accompanist that is not there. */
  standingOf(id: string, setting: BandSetting): number | null {
    const written = this.band?.accompanists.find((one) => one.id === id)?.source;
    if (!written) return null;
    return this.moves.get(id)?.[setting] ?? writtenSetting(setting, written, written.patterns[0]);
  }

  /** Puts a setting somewhere. It counts with the next {@link renew}. */
  put(id: string, setting: BandSetting, value: number): void {
    const index = this.ready.findIndex((one) => one.id === id);
    const settled = settledAt(setting, value);
    if (index < 0 || this.standingOf(id, setting) === settled) return;
    this.moves.set(id, { ...this.moves.get(id), [setting]: settled });
    this.stale.add(index);
  }

  /** A setting stands where the patch or its cue has it again. */
  letGo(id: string, setting: BandSetting): void {
    const { [setting]: was, ...others } = this.moves.get(id) ?? {};
    if (was === undefined) return;
    this.moves.set(id, others);
    const index = this.ready.findIndex((one) => one.id === id);
    if (index >= 0) this.stale.add(index);
  }

  /** What a cue puts somewhere counts again, and what travels goes back to where it is written; other switches stay. */
  recall(band: Readonly<Record<string, BandMoves>>): void {
    for (const [id, moves] of this.moves)
      for (const setting of Object.keys(moves) as BandSetting[]) {
        const isSwitch = setting === 'muted' || setting === 'turned';
        if (!isSwitch || (band[id] as BandMoves | undefined)?.[setting] !== undefined)
          this.letGo(id, setting);
      }
  }

  /** Where hands have put settings, by accompanist. */
  get moved(): ReadonlyMap<string, BandMoves> {
    return this.moves;
  }

  /** Makes ready anew what was moved; gives whether anything was. */
  renew(): boolean {
    const { band } = this;
    if (this.stale.size === 0 || !band) return false;
    for (const index of this.stale) {
      const { source, id } = band.accompanists[index];
      this.ready[index] = band.remade(index, movedAccompanist(source, this.moves.get(id)));
    }
    this.stale.clear();
    return true;
  }
}
