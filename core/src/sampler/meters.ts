/** Strips: one for each layer that sounds, those of a patch just left included. */
export const STRIPS = 128;

/**
 * Numbers that the engine shows to views: one peak per strip, then these; from `stolenFrom` on, how many notes each strip has
 * lost to its polyphony.
 */
export const METER = {
  voices: STRIPS,
  stolen: STRIPS + 1,
  stolenFrom: STRIPS + 2,
} as const;
export const METERS = METER.stolenFrom + STRIPS;
