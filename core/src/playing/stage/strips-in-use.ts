import type { Layer } from '../../model/patch/layer.js';
import type { Timbre } from '../../model/patch/timbre.js';
import type { CompiledLayer } from '../../routing/compile.js';
import { STRIPS } from '../../sampler/meters.js';

/** Strips for the layers of patches; the last one of the engine is the stand-in module's. */
export const PATCH_STRIPS = STRIPS - 1;

/** What a strip was last asked for by a patch. What is still the same is not asked for again: a hand may have moved it. */
export interface Asked {
  level: number;
  /** Muted, or not among those that are soloed. */
  isSilent: boolean;
  source: Layer;
  hearsDevice: Uint8Array;
  timbre: Timbre | undefined;
}

/** Who has which strip of the voice engine, and what each was last asked for. */
export class StripsInUse {
  readonly layerOn: (CompiledLayer | null)[] = none();
  readonly asked: (Asked | null)[] = none();
  private readonly owner: (string | null)[] = none();
  private readonly stripOf = new Map<string, number>();
  private readonly lastUse = new Float64Array(PATCH_STRIPS);
  private uses = 0;

  /** The strip of an owner; −1 when it has none. */
  of(owner: string): number {
    return this.stripOf.get(owner) ?? -1;
  }

  /** Whether a strip still is an owner's. */
  belongsTo(strip: number, owner: string): boolean {
    return this.owner[strip] === owner;
  }

  /** A layer plays on a strip from now on. */
  use(strip: number, layer: CompiledLayer): void {
    this.lastUse[strip] = ++this.uses;
    this.layerOn[strip] = layer;
  }

  /** A strip for an owner: an unused one, else the one left alone longest, never one of those that are there now. */
  take(owner: string, present: ReadonlySet<string>): number {
    let best = -1;
    for (let strip = 0; strip < PATCH_STRIPS; strip++) {
      const known = this.owner[strip];
      if (known === null) {
        best = strip;
        break;
      }
      if (present.has(known)) continue;
      if (best < 0 || this.lastUse[strip] < this.lastUse[best]) best = strip;
    }
    const before = this.owner[best];
    if (before !== null) this.stripOf.delete(before);
    this.owner[best] = owner;
    this.stripOf.set(owner, best);
    return best;
  }
}

function none<T>(): (T | null)[] {
  return new Array<T | null>(PATCH_STRIPS).fill(null);
}

/** Whether a layer hears other devices or another channel than when its strip was asked for. */
export function otherEars(before: Asked | null, { hearsDevice, source }: CompiledLayer): boolean {
  return (
    before?.source.channel !== source.channel ||
    before.hearsDevice.some((heard, device) => heard !== hearsDevice[device])
  );
}
