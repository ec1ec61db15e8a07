import * as z from 'zod';

/**
 * What a patch changes about a sound’s colour. 0 is as the sound was made; −1 and 1 are as far as it goes.
 * `brightness` opens or closes the low-pass, `attack` and `release` make it quicker or slower, `vibrato` (0–1) is always
 * there, before the modulation wheel adds to it.
 */
export const timbreSchema = z.strictObject({
  brightness: z.number().min(-1).max(1),
  attack: z.number().min(-1).max(1),
  release: z.number().min(-1).max(1),
  vibrato: z.number().min(0).max(1),
});
export type Timbre = z.infer<typeof timbreSchema>;
export type TimbrePart = keyof Timbre;
export const TIMBRE_PARTS = ['brightness', 'attack', 'release', 'vibrato'] as const;

/** As the sound was made. */
export const PLAIN_TIMBRE: Timbre = { brightness: 0, attack: 0, release: 0, vibrato: 0 };

/** The least that each part can be; the most is 1. */
export const LEAST_TIMBRE: Timbre = { brightness: -1, attack: -1, release: -1, vibrato: 0 };
