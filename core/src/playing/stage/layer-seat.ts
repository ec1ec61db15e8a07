import type { OutsideTarget } from './outside-target.js';

/** Where and how a layer sounds. */
export interface LayerSeat {
  /** The strip's owner, to tell whether the strip has been given away since. */
  key: string;
  strip: number;
  slot: number;
  instance: number;
  /** 0 = many. */
  polyphony: number;
  glideSeconds: number;
  target: OutsideTarget | null;
  ringsOn: boolean;
}
