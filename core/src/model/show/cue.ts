import * as z from 'zod';
import {
  controllerNumberSchema,
  idSchema,
  nameSchema,
  sevenBitSchema,
  textSchema,
} from '../identity.js';
import { levelSchema } from '../patch/layer.js';

/** The most layers that a cue may balance, those that are gone included. */
const MOST_BALANCED = 128;

/** What a cue does to one layer; what it leaves out stays as the patch has it. */
export const cueLevelSchema = z.strictObject({
  level: levelSchema.optional(),
  muted: z.boolean().optional(),
});
export type CueLevel = z.infer<typeof cueLevelSchema>;

/** A place in a song at which a patch is recalled, at some balance, over some seconds. */
export const cueSchema = z.strictObject({
  id: idSchema,
  songId: idSchema,
  position: z.number().int().min(0),
  name: nameSchema,
  patchId: idSchema,
  /** By layer id. A layer that is gone is passed over, so that undoing its removal brings its balance back. */
  balance: z
    .record(idSchema, cueLevelSchema)
    .refine(
      (balance) => Object.keys(balance).length <= MOST_BALANCED,
      `a cue balances at most ${MOST_BALANCED} layers`,
    ),
  /** Where controllers are put on recall. */
  controllers: z
    .array(z.strictObject({ controller: controllerNumberSchema, value: sevenBitSchema }))
    .max(32),
  /** Length of the glide in seconds, or null for the show's default. */
  fadeSeconds: z.number().min(0).max(60).nullable(),
  /** What the player wants to be told. */
  note: textSchema(500),
});
export type Cue = z.infer<typeof cueSchema>;
