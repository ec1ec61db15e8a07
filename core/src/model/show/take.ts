import * as z from 'zod';
import { cutText, idSchema, LONGEST_NAME, nameSchema, textSchema } from '../identity.js';
import { placeSchema } from '../rig/place.js';
import { metreSchema, tempoSchema } from './song.js';
import { nightSchema } from './night.js';

/** Seconds of a take at most: a day. */
export const LONGEST_TAKE = 24 * 3600;
/** Steps, tempos, nights, long messages and layers that a take tells of at most. */
export const MOST_STEPS_TAKEN = 5000;
export const MOST_TEMPOS_TAKEN = 20_000;
export const MOST_NIGHTS_TAKEN = 2000;
export const MOST_LONG_MESSAGES = 2000;
export const MOST_LAYERS_TAKEN = 4000;
export const MOST_SENDERS = 600;
/** Stretches that can be pencilled round. */
export const MOST_STRETCHES = 200;
/** Bytes of a long message that are kept. */
export const LONGEST_MESSAGE_TAKEN = 512;

const secondsSchema = z.number().min(0).max(LONGEST_TAKE);
const toldSchema = textSchema(LONGEST_NAME);

/** A name as a take tells it: what is named may have gone since. */
export const asTold = (name: string): string => cutText(name, LONGEST_NAME);

/** Who sent messages: a device of the rig, or a port of which the rig knew nothing. */
export const senderSchema = z.strictObject({
  port: z.string().max(200),
  /** Null for none of the rig. */
  place: placeSchema.nullable(),
  name: toldSchema,
});
export type Sender = z.infer<typeof senderSchema>;

/** A layer that sounded. */
export const layerTakenSchema = z.strictObject({
  layerId: idSchema,
  patchId: idSchema,
  name: toldSchema,
  patch: toldSchema,
  song: toldSchema,
  /** Its place in the patch, 0 = A. */
  index: z.number().int().min(0).max(127),
  /** Program that it chooses on a module, 0–127; null for a sound of this machine. */
  program: z.number().int().min(0).max(127).nullable(),
  /** Whether it is a kit. */
  drums: z.boolean(),
});
export type LayerTaken = z.infer<typeof layerTakenSchema>;

/** Where the show was from a moment on. */
export const stepTakenSchema = z.strictObject({
  seconds: secondsSchema,
  /** False where a message that the take holds has gone there, so that it goes there again by itself. */
  byHand: z.boolean(),
  entryId: idSchema.nullable(),
  songId: idSchema.nullable(),
  cueId: idSchema.nullable(),
  patchId: idSchema.nullable(),
  song: toldSchema,
  cue: toldSchema,
  patch: toldSchema,
});
export type StepTaken = z.infer<typeof stepTakenSchema>;

/** How the clock went from a moment on. */
export const tempoTakenSchema = z.strictObject({
  seconds: secondsSchema,
  tempo: tempoSchema,
  metre: metreSchema,
  /** The beat of its bars on which it was then; below 0 while it counts in. */
  beat: z.number().min(-1e6).max(1e7),
});
export type TempoTaken = z.infer<typeof tempoTakenSchema>;

/** A stretch that was good, with a pencil round it. */
export const stretchSchema = z
  .strictObject({ id: idSchema, name: nameSchema, from: secondsSchema, until: secondsSchema })
  .refine(({ from, until }) => from < until, 'it ends before it begins');
export type Stretch = z.infer<typeof stretchSchema>;

/** What a player says of a take. */
export const takeWordsSchema = z.strictObject({
  name: nameSchema,
  stretches: z.array(stretchSchema).max(MOST_STRETCHES),
});
export type TakeWords = z.infer<typeof takeWordsSchema>;

/** What was played, in short: what lists show. */
export const takeInShortSchema = takeWordsSchema.extend({
  id: idSchema,
  /** In Showtime, or on the desk. */
  where: z.enum(['showtime', 'desk']),
  /** When it began, milliseconds of the day's clock (Unix time). */
  began: z.number().int().min(0),
  seconds: secondsSchema,
  showId: idSchema.nullable(),
  show: toldSchema,
  /** Names of its songs, in the order in which they were played. */
  songs: z.array(toldSchema).max(500),
  /** Keys that were struck. */
  keys: z.number().int().min(0),
  /** Cues that were reached. */
  cues: z.number().int().min(0),
});
export type TakeInShort = z.infer<typeof takeInShortSchema>;

/**
 * A take: what was played, all of it but the roll of messages and notes, which goes beside it. Times are seconds of the
 * player's clock since it began.
 */
export const takeSchema = takeInShortSchema.extend({
  senders: z.array(senderSchema).max(MOST_SENDERS),
  layers: z.array(layerTakenSchema).max(MOST_LAYERS_TAKEN),
  steps: z.array(stepTakenSchema).max(MOST_STEPS_TAKEN),
  tempos: z.array(tempoTakenSchema).max(MOST_TEMPOS_TAKEN),
  nights: z
    .array(z.strictObject({ seconds: secondsSchema, night: nightSchema }))
    .max(MOST_NIGHTS_TAKEN),
  long: z
    .array(
      z.strictObject({
        seconds: secondsSchema,
        sender: z.number().int().min(0),
        bytes: z.array(z.number().int().min(0).max(255)).max(LONGEST_MESSAGE_TAKEN),
      }),
    )
    .max(MOST_LONG_MESSAGES),
  /** Messages and notes that found no room. */
  lost: z.number().int().min(0),
});
export type Take = z.infer<typeof takeSchema>;

/** What lists show of a take. */
export function takeInShort(take: Take): TakeInShort {
  const { id, name, stretches, where, began, seconds, showId, show, songs, keys, cues } = take;
  return { id, name, stretches, where, began, seconds, showId, show, songs, keys, cues };
}
