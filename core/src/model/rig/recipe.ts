import * as z from 'zod';
import { idSchema, nameSchema, sevenBitSchema, textSchema } from '../identity.js';

/** The most recipes of a rig, and steps of one. */
export const MOST_RECIPES = 64;
export const MOST_STEPS = 24;

/**
 * One thing to do at a device: hold or press a button that sends nothing, press a key, or look whether what it sends is as it
 * should be by now.
 */
export const recipeStepSchema = z.discriminatedUnion('kind', [
  /** Buttons send no messages: the player says when it is done. */
  z.strictObject({ kind: z.literal('hold'), button: textSchema(40).min(1) }),
  z.strictObject({ kind: z.literal('letGo'), button: textSchema(40).min(1) }),
  z.strictObject({ kind: z.literal('press'), button: textSchema(40).min(1) }),
  /** A key of the device, as it lies there: 0–127 without the device’s own octave. */
  z.strictObject({ kind: z.literal('key'), key: sevenBitSchema }),
  /** A key is struck to see that its note arrives on a channel. */
  z.strictObject({ kind: z.literal('arrivesOn'), channel: z.number().int().min(1).max(16) }),
]);
export type RecipeStep = z.infer<typeof recipeStepSchema>;

/** How a device is set by a held button and a sequence of keys. */
export const recipeSchema = z.strictObject({
  id: idSchema,
  deviceId: idSchema,
  name: nameSchema,
  steps: z.array(recipeStepSchema).min(1).max(MOST_STEPS),
});
export type Recipe = z.infer<typeof recipeSchema>;
