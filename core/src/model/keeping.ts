import * as z from 'zod';
import { KINDS, type Kind } from './saved.js';

const kindSchema = z.enum(KINDS as [Kind, ...Kind[]]);

/** Why a backup was made. */
export const backupReasonSchema = z.enum([
  'start',
  'changes',
  'migration',
  'bringing-back',
  'asked',
]);
export type BackupReason = z.infer<typeof backupReasonSchema>;

/** A backup of the whole database. */
export const backupSchema = z.strictObject({
  /** File name, which names it. */
  name: z.string(),
  /** When it was made, ISO with milliseconds, UTC. */
  at: z.iso.datetime(),
  reason: backupReasonSchema,
  bytes: z.number().int().min(0),
});
export type Backup = z.infer<typeof backupSchema>;

/** A thing that is damaged on the disk. */
export const damagedSchema = z.strictObject({
  kind: kindSchema,
  id: z.string(),
  name: z.string(),
  /** What is wrong, in plain words. */
  why: z.string(),
  /** True when it cannot be read and is left out. */
  lost: z.boolean(),
  /** The newest backup that holds it whole, or null. */
  offer: z.string().nullable(),
});
export type Damaged = z.infer<typeof damagedSchema>;

/** How what is kept is doing. */
export const keepingSchema = z.strictObject({
  /** Why the database cannot be opened at all, in plain words; null when it is open. */
  closed: z.string().nullable(),
  /** Why nothing can be saved, in plain words; null when it can. */
  readOnly: z.string().nullable(),
  damaged: z.array(damagedSchema),
  /** What was put right at the start, and from which backup. */
  healed: z.array(
    z.strictObject({ kind: kindSchema, id: z.string(), name: z.string(), backup: z.string() }),
  ),
  backups: z.array(backupSchema),
  /** What lies among the backups and is none, by name. */
  passedOver: z.array(z.string()).default([]),
});
export type Keeping = z.infer<typeof keepingSchema>;

/** A thing that a backup holds otherwise than the database does now. */
export const backupDifferenceSchema = z.strictObject({
  kind: kindSchema,
  name: z.string(),
  /** Where the thing is: only in the backup, only in the database of now, or in both and different. */
  where: z.enum(['backup', 'now', 'both']),
  /** The first differences of a thing that is in both. */
  lines: z.array(z.strictObject({ what: z.string(), now: z.string(), backup: z.string() })),
});

/** What is in a backup. */
export const backupContentSchema = z.strictObject({
  shows: z.array(
    z.strictObject({
      name: z.string(),
      date: z.string(),
      songs: z.number().int(),
      patches: z.number().int(),
      cues: z.number().int(),
    }),
  ),
  keepsakes: z.number().int(),
  /** Null when there is nothing open to compare it with. */
  differences: z.array(backupDifferenceSchema).nullable(),
  /** How many things of it cannot be read. */
  damaged: z.number().int(),
});
export type BackupContent = z.infer<typeof backupContentSchema>;
