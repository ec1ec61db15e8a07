import type { CompiledPatch } from '../../routing/compile.js';

/** Keys that start something instead of being played by layers, and whatever listens to those that are played. */
export interface Accompanying {
  /** Whether a key starts something; it is as the layers hear it, and may lie beyond 0–127. */
  takes(device: number, heardKey: number): boolean;
  /** Such a key is struck. `slot` is what it is let go by. */
  press(device: number, heardKey: number, slot: number): void;
  release(slot: number): void;
  /** Any other key is struck, and let go. */
  hear(heardKey: number): void;
  hearRelease(heardKey: number): void;
  /** Another patch is played, or this one was edited. */
  take(patch: CompiledPatch | null): void;
  /** Works out what becomes due within the next moments. */
  advance(): void;
  /** Ends everything at once. */
  silence(): void;
}
