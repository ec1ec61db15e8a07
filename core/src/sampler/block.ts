import { BUSES } from './command-ring.js';

/** Frames that are rendered at a time, as an audio worklet does. */
export const BLOCK = 128;

/** Two channels of a block. */
export interface Stereo {
  left: Float32Array;
  right: Float32Array;
}

/** Where a block goes: the mix, and what is sent to the shared effects, by bus. */
export interface EngineOutput {
  mix: Stereo;
  buses: Stereo[];
}

/** Buffers for one block. */
export function blockOutput(): EngineOutput {
  const stereo = () => ({ left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) });
  return { mix: stereo(), buses: Array.from({ length: BUSES }, stereo) };
}
