import type { CompiledLayer } from '../../routing/compile.js';
import type { Seconds } from '../../units/times.js';
import type { Onset } from './player-output.js';

/**
 * Looks on at every note as it sounds: what begins and ends, and what of it comes at another time. What ends before it was due
 * has not sounded. Times are on the player's clock; 0 is now. It must not keep the path waiting.
 */
export interface NoteTap {
  began(
    voice: number,
    layer: CompiledLayer,
    key: number,
    velocity: number,
    onset: Readonly<Onset>,
  ): void;
  ended(voice: number, at: Seconds): void;
  /** What of a voice is not due yet comes at other times, `until` infinite for no end yet. */
  moved(voice: number, from: Seconds, until: Seconds): void;
  /** Everything ended at once. */
  silenced(): void;
}

/** Nobody looks on. */
export const NO_NOTE_TAP: NoteTap = {
  began: () => undefined,
  ended: () => undefined,
  moved: () => undefined,
  silenced: () => undefined,
};
