import { BUSES, PAIRS } from './command-ring.js';

/** Frames that are rendered at a time, as an audio worklet does. */
export const BLOCK = 128;

/** Two channels of a block. */
export interface Stereo {
  left: Float32Array;
  right: Float32Array;
}

/** Where a block goes: the mix, what is sent to the shared effects, by bus, and the pairs by which strips leave alone. */
export interface EngineOutput {
  mix: Stereo;
  buses: Stereo[];
  pairs: Stereo[];
}

/** Buffers for one block. */
export function blockOutput(): EngineOutput {
  const stereo = () => ({ left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) });
  const several = (length: number) => Array.from({ length }, stereo);
  return { mix: stereo(), buses: several(BUSES), pairs: several(PAIRS) };
}

/** Writes silence over a pair of channels. */
export function fallSilent({ left, right }: Stereo): void {
  left.fill(0);
  right.fill(0);
}
