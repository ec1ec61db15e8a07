import * as z from 'zod';
import { musicalKeySchema } from '../../pitch/musical-keys.js';
import { idSchema, textSchema } from '../identity.js';
import { songLengthSchema, tempoSchema } from './song.js';

/** The most cues that can be left out of a song for a night. */
const MOST_LEFT_OUT = 128;

/** What is otherwise in a song for one show's entry alone; what it does not name is as the song has it. */
export const tonightSchema = z.strictObject({
  /** Beats per minute. */
  tempo: tempoSchema.optional(),
  fingered: musicalKeySchema.optional(),
  sounding: musicalKeySchema.optional(),
  lengthSeconds: songLengthSchema.optional(),
  /** Cues that are not gone through. */
  leftOut: z.array(idSchema).max(MOST_LEFT_OUT),
  note: textSchema(500).optional(),
});
export type Tonight = z.infer<typeof tonightSchema>;

/** Nothing is otherwise. */
export const AS_WRITTEN: Tonight = { leftOut: [] };
