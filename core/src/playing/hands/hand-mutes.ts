import type { Layer } from '../../model/patch/layer.js';

const NONE: ReadonlySet<string> = new Set();

/** Layers that hands have muted, brought back or soloed since the patch was taken. */
export class HandMutes {
  private mutes: ReadonlyMap<string, boolean> = new Map();
  /** Whether each was muted before it was touched: what the desk or a cue says otherwise counts for more. */
  private readonly base = new Map<string, boolean>();
  private solos: ReadonlySet<string> = NONE;
  private patchId: string | null = null;

  /** The same objects as long as nothing of them changes. */
  get muted(): ReadonlyMap<string, boolean> {
    return this.mutes;
  }
  get soloed(): ReadonlySet<string> {
    return this.solos;
  }

  /** Those that are soloed, by hand or else. */
  soloedWith(others: ReadonlySet<string>): ReadonlySet<string> {
    if (this.solos.size === 0) return others;
    return others.size === 0 ? this.solos : new Set([...others, ...this.solos]);
  }

  mute({ id, muted }: Pick<Layer, 'id' | 'muted'>, on: boolean): void {
    this.mutes = new Map(this.mutes).set(id, on);
    if (!this.base.has(id)) this.base.set(id, muted);
  }

  solo(layerId: string, on: boolean): void {
    if (this.solos.has(layerId) === on) return;
    const solos = new Set(this.solos);
    if (on) solos.add(layerId);
    else solos.delete(layerId);
    this.solos = solos;
  }

  /** Forgets a mute or a solo. */
  letGo(layerId: string, what: string): void {
    if (what === 'solo') this.solo(layerId, false);
    if (what !== 'mute' || !this.mutes.has(layerId)) return;
    const mutes = new Map(this.mutes);
    mutes.delete(layerId);
    this.base.delete(layerId);
    this.mutes = mutes;
  }

  /** Another patch forgets them all; in the same one those are forgotten that are meant otherwise since. */
  follow(patchId: string | null, layers: readonly Pick<Layer, 'id' | 'muted'>[]): void {
    if (patchId !== this.patchId) this.forget();
    this.patchId = patchId;
    const meant = layers.filter(({ id, muted }) => (this.base.get(id) ?? muted) !== muted);
    if (meant.length === 0) return;
    const mutes = new Map(this.mutes);
    for (const { id } of meant) {
      mutes.delete(id);
      this.base.delete(id);
    }
    this.mutes = mutes;
  }

  forget(): void {
    this.mutes = new Map();
    this.base.clear();
    this.solos = NONE;
  }
}
