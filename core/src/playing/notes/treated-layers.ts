import type { ShowClock } from '../../clock/show-clock.js';
import type { Treatment } from '../../model/patch/treatment.js';
import type { CompiledLayer, CompiledPatch } from '../../routing/compile.js';
import { hears } from '../../routing/hearing.js';
import { Chain } from '../../treatments/chain.js';
import type { PlayerOutput } from './player-output.js';
import type { NoteSink } from '../../treatments/note-stage.js';
import { TimedVoices, type TreatedTarget } from './timed-voices.js';

/** A layer's treatments at work. */
interface TreatedLayer extends TreatedTarget {
  chain: Chain;
  voices: TimedVoices;
}

/** A layer without treatments, as far as something plays it on the clock. */
interface PlainLayer extends TreatedTarget {
  voices: TimedVoices;
}

/** The chains of the layers that have treatments: those of the patch being played, and those still sounding of patches left. */
export class TreatedLayers {
  /** Chains of the patch being played, by layer. */
  private present = new Map<string, TreatedLayer>();
  /** Chains of patches left, until the last key is let go. */
  private leaving: TreatedLayer[] = [];
  /** Where notes on the clock go on layers without treatments, by layer, and those of patches left. */
  private plain = new Map<string, PlainLayer>();
  private plainLeaving: PlainLayer[] = [];

  constructor(
    private readonly output: PlayerOutput,
    private readonly clock: ShowClock,
    private readonly newId: () => number,
  ) {
    clock.onTempo(() => this.retime());
  }

  /** The chain of a layer of the patch being played; null for a layer without treatments. */
  chainOf(layer: CompiledLayer): Chain | null {
    return this.present.get(layer.id)?.chain ?? null;
  }

  /** Where a note on the clock goes that is for a layer, of the patch being played or of one that was left. */
  sinkOf(patch: CompiledPatch, layer: CompiledLayer): NoteSink {
    const present = this.present.get(layer.id);
    if (present?.patch.id === patch.id) return present.chain;
    for (const left of this.leaving)
      if (left.layer.id === layer.id && left.patch.id === patch.id) return left.chain;
    let plain = this.plain.get(layer.id);
    if (plain && plain.patch.id !== patch.id) {
      this.plainLeaving.push(plain);
      plain = undefined;
    }
    if (!plain) {
      const target: TreatedTarget = { patch, layer };
      const voices = new TimedVoices(target, this.output, this.clock);
      plain = Object.assign(target, { voices });
      this.plain.set(layer.id, plain);
    }
    return plain.voices;
  }

  /**
   * Takes a patch: chains that fit go on, the others are left to what they still hold. `isOn` says whether a treatment is on
   * as it is played.
   */
  take(patch: CompiledPatch | null, isOn: (treatment: Treatment) => boolean): void {
    this.takePlain(patch);
    const before = this.present;
    this.present = new Map();
    for (const layer of patch?.layers ?? []) {
      if (!patch || layer.treatments.length === 0) continue;
      const treatments = layer.treatments.map((treatment) => ({
        ...treatment,
        on: isOn(treatment),
      }));
      const known = before.get(layer.id);
      if (known?.patch.id === patch.id && known.chain.fits(treatments)) {
        known.patch = patch;
        known.layer = layer;
        known.chain.set(treatments);
        this.present.set(layer.id, known);
        before.delete(layer.id);
      } else this.present.set(layer.id, this.treat(patch, layer, treatments));
    }
    for (const left of before.values()) {
      left.chain.leave();
      this.leaving.push(left);
    }
    // Without a clock nobody else looks after them.
    this.leaving = this.leaving.filter((left) => !isIdle(left));
  }

  private takePlain(patch: CompiledPatch | null): void {
    for (const [id, plain] of this.plain) {
      const layer = patch?.layers.find((one) => one.id === id);
      if (patch && layer && plain.patch.id === patch.id) Object.assign(plain, { patch, layer });
      else {
        this.plain.delete(id);
        this.plainLeaving.push(plain);
      }
    }
    this.plainLeaving = this.plainLeaving.filter(({ voices }) => !voices.rest);
  }

  /** Gives up what no key holds any more in chains of layers that hear a device's channel. */
  letGoOf(device: number, channel: number): void {
    for (const { layer, chain } of this.present.values())
      if (hears(layer, device, channel)) chain.letGo();
  }

  /** Gives up what no key holds any more in one treatment. */
  letGoIn(treatmentId: string): void {
    for (const { chain } of this.present.values()) chain.letGo(treatmentId);
  }

  /** Switches a treatment off in the chains that still sound of patches left, or of this one before it was edited. */
  switchOffLeft(treatmentId: string): void {
    for (const { chain } of this.leaving) chain.switchOff(treatmentId);
  }

  /** Works out what becomes due within the next moments. */
  advance(): void {
    const until = this.clock.horizon;
    for (const { chain } of this.present.values()) chain.advance(until);
    for (let i = this.leaving.length - 1; i >= 0; i--) {
      this.leaving[i].chain.advance(until);
      if (isIdle(this.leaving[i])) this.leaving.splice(i, 1);
    }
  }

  /** Ends everything at once. */
  stop(): void {
    for (const { chain } of this.present.values()) chain.stop();
    for (const { chain } of this.leaving) chain.stop();
    this.leaving.length = 0;
  }

  private retime(): void {
    for (const { voices } of this.present.values()) voices.retime();
    for (const { voices } of this.leaving) voices.retime();
    for (const { voices } of this.plain.values()) voices.retime();
    for (const { voices } of this.plainLeaving) voices.retime();
  }

  private treat(
    patch: CompiledPatch,
    layer: CompiledLayer,
    treatments: readonly Treatment[],
  ): TreatedLayer {
    const target: TreatedTarget = { patch, layer };
    const voices = new TimedVoices(target, this.output, this.clock);
    const chain = new Chain(treatments, voices, {
      clock: this.clock,
      newId: this.newId,
      scale: () => target.patch.scale,
    });
    return Object.assign(target, { voices, chain });
  }
}

function isIdle({ chain, voices }: TreatedLayer): boolean {
  return chain.idle && voices.rest;
}
