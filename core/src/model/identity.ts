import * as z from 'zod';

/** Identifier of a saved thing, made by whoever creates it. */
export const idSchema = z
  .string()
  .min(1)
  .max(64)
  .regex(/^[A-Za-z0-9-]+$/, 'an id holds only letters, digits and hyphens');
export type Id = z.infer<typeof idSchema>;

/** A name on screen: not empty, at most 80 characters. */
export const nameSchema = z.string().trim().min(1, 'a name cannot be empty').max(80);

/** How often a thing has been saved; 0 means it has never been. A save names the revision it was made from. */
export const revisionSchema = z.number().int().min(0);

/** MIDI channel as musicians count, 1–16. */
export const channelSchema = z.number().int().min(1).max(16);

/** Number of a MIDI controller, 0–119; 120–127 are channel mode messages. */
export const controllerNumberSchema = z.number().int().min(0).max(119);

/** A seven-bit MIDI value. */
export const sevenBitSchema = z.number().int().min(0).max(127);
