import { MOST_DEVICES } from '../../model/rig/rig.js';
import type { CompiledPatch } from '../../routing/compile.js';
import type { Accompanying } from './accompanying.js';

/** What every key that is down was heard as, whatever has been shifted since, so that it lets go what it struck. */
export class HeardKeys {
  /** 1 more than the key it was heard as; below 0 for one that started something. */
  private readonly heardAs = new Int16Array(MOST_DEVICES * 128);
  /** What keys start beside the layers; null for nothing. */
  accompanying: Accompanying | null = null;

  /** A key is struck: it starts what it starts, or is heard; false for one that the layers are to answer. */
  strike(device: number, key: number, patch: CompiledPatch | null, shift: number): boolean {
    const { accompanying } = this;
    if (!accompanying || !patch) return false;
    const index = device * 128 + key;
    this.release(index);
    const heardKey = key + patch.rig.keyShift[device] + shift;
    const takes = accompanying.takes(device, heardKey);
    if (takes) accompanying.press(device, heardKey, index);
    else accompanying.hear(heardKey);
    this.heardAs[index] = takes ? -1 : heardKey + 1;
    return takes;
  }

  /** A key is let go, by its device × 128 + key. */
  release(index: number): void {
    const heard = this.heardAs[index];
    if (heard === 0) return;
    this.heardAs[index] = 0;
    if (heard < 0) this.accompanying?.release(index);
    else this.accompanying?.hearRelease(heard - 1);
  }

  /** Everything ends. */
  silence(): void {
    this.accompanying?.silence();
    this.heardAs.fill(0);
  }
}
