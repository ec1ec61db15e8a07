import * as z from 'zod';
import { musicalKeySchema } from '../../pitch/musical-keys.js';
import { idSchema, nameSchema } from '../identity.js';

/** Beats in a bar and the note value that counts as one. */
export const metreSchema = z.strictObject({
  beats: z.number().int().min(1).max(32),
  unit: z.union([z.literal(2), z.literal(4), z.literal(8), z.literal(16)]),
});
export type Metre = z.infer<typeof metreSchema>;

/** A song of a show. Its patches and cues point to it. */
export const songSchema = z.strictObject({
  id: idSchema,
  showId: idSchema,
  name: nameSchema,
  lengthSeconds: z.number().int().min(0).max(7200),
  /** Beats per minute. */
  tempo: z.number().min(20).max(400),
  metre: metreSchema,
  /** The key the player's hands are in. */
  fingered: musicalKeySchema,
  /** The key that sounds. */
  sounding: musicalKeySchema,
});
export type Song = z.infer<typeof songSchema>;
