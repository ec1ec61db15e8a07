import * as z from 'zod';
import { sevenBitSchema } from '../identity.js';
import { controlMessageSchema } from '../patch/control-message.js';

/** What a player moves to have something done to the show: what a control of a patch knows, and messages that bear a number. */
export const showMessageSchema = z.discriminatedUnion('kind', [
  ...controlMessageSchema.options,
  /** One program change, 0–127. */
  z.strictObject({ kind: z.literal('program'), program: sevenBitSchema }),
  /** Every program change of a device: its number chooses. */
  z.strictObject({ kind: z.literal('programs') }),
  /** Every song select message of a device's port: its number chooses. */
  z.strictObject({ kind: z.literal('songSelect') }),
]);
export type ShowMessage = z.infer<typeof showMessageSchema>;
