import * as z from 'zod';
import { idSchema, nameSchema, refuseTwins, textSchema } from '../identity.js';
import { goingSchema, USUAL_GOING } from './going.js';
import { showControlSchema } from './show-control.js';
import { songLengthSchema } from './song.js';
import { tonightSchema } from './tonight.js';

/** One place in the running order: a song, or time between songs. */
export const orderEntrySchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('song'),
    id: idSchema,
    songId: idSchema,
    /** Played if it is asked for; it does not count against the slot. */
    encore: z.boolean(),
    /** What is otherwise this night; null for nothing. */
    tonight: tonightSchema.nullable(),
  }),
  z.strictObject({
    kind: z.enum(['talk', 'break', 'changeover']),
    id: idSchema,
    name: nameSchema,
    lengthSeconds: songLengthSchema,
  }),
]);
export type OrderEntry = z.infer<typeof orderEntrySchema>;
export type SongEntry = Extract<OrderEntry, { kind: 'song' }>;
export type GapEntry = Exclude<OrderEntry, SongEntry>;
/** What there is between songs. */
export const GAP_KINDS = ['talk', 'break', 'changeover'] as const;

/** The most entries of a running order. */
export const MOST_ENTRIES = 400;

/** A song's place in a running order, as it is written. */
export function songEntry(id: string, songId: string): SongEntry {
  return { kind: 'song', id, songId, encore: false, tonight: null };
}

/** A time of day, `HH:MM`. */
const timeOfDaySchema = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'it is no time of day');

/** The most controls that a show can hold. */
export const MOST_SHOW_CONTROLS = 64;

/** A show: when and where, how long, in which order, and how it is run. */
export const showSchema = z
  .strictObject({
    id: idSchema,
    name: nameSchema,
    /** ISO date, yyyy-mm-dd. */
    date: z.iso.date(),
    place: textSchema(120),
    /** When the house opens, and when the show begins; null while nobody knows. */
    doors: timeOfDaySchema.nullable(),
    start: timeOfDaySchema.nullable(),
    slotSeconds: z.number().int().min(0).max(86_400),
    defaultFadeSeconds: z.number().min(0).max(60),
    /** What happens to held notes when a cue brings another patch. */
    heldNotes: z.enum(['finish', 'cut']),
    /** Octave number that middle C bears on screen. */
    middleC: z.union([z.literal(3), z.literal(4), z.literal(5)]),
    rigId: idSchema,
    /** The show that this one was made from; it may be gone. */
    copiedFrom: idSchema.nullable(),
    /** Out of the way, but kept. */
    putAway: z.boolean(),
    order: z.array(orderEntrySchema).max(MOST_ENTRIES),
    controls: z.array(showControlSchema).max(MOST_SHOW_CONTROLS),
    going: goingSchema,
  })
  .superRefine(({ order }, context) => refuseTwins(order, 'order', 'entries', context));
export type Show = z.infer<typeof showSchema>;

/** A show without songs. */
export function newShow(id: string, name: string, date: string, rigId: string): Show {
  return {
    id,
    name,
    date,
    place: '',
    doors: null,
    start: null,
    slotSeconds: 3600,
    defaultFadeSeconds: 1.5,
    heldNotes: 'finish',
    middleC: 4,
    rigId,
    copiedFrom: null,
    putAway: false,
    order: [],
    controls: [],
    going: USUAL_GOING,
  };
}
