import * as z from 'zod';
import { idSchema, nameSchema, sevenBitSchema } from '../identity.js';
import { LONGEST_PATTERN } from '../library/pattern-limits.js';
import { patternShapeSchema, PLAIN_SHAPE } from '../library/pattern.js';
import { beginsSchema } from './begins.js';
import { placeSchema, type Place } from '../rig/place.js';

/** Accompanists of a patch at most, patterns that one has on its keys, and keys for all of them together. */
export const MOST_ACCOMPANISTS = 16;
export const MOST_PLACED = 61;
export const MOST_BAND_KEYS = 32;

/** What a key does: plays its pattern while it is held; starts and stops it; plays it once; plays it until another begins. */
export const startingSchema = z.enum(['whileHeld', 'startStop', 'once', 'untilNext']);
export type Starting = z.infer<typeof startingSchema>;

/** What starts patterns: keys and pads, which send notes, or buttons, which send controllers. */
export const startersSchema = z.enum(['notes', 'controllers']);
export type Starters = z.infer<typeof startersSchema>;

/** When a new pattern takes over from the one that plays, and when one stops: at once, at the bar, or when it is through. */
export const takesOverSchema = z.enum(['atOnce', 'bar', 'through']);
export type TakesOver = z.infer<typeof takesOverSchema>;

/** What it follows of the keys that are played elsewhere: nothing, the lowest of them, or their chord. */
export const followsSchema = z.enum(['stays', 'root', 'chord']);
export type Follows = z.infer<typeof followsSchema>;

/** What it does when another song or patch comes: finishes its bar, stops, or carries on. */
export const leavingSchema = z.enum(['finishBar', 'stop', 'carryOn']);
export type Leaving = z.infer<typeof leavingSchema>;

/** A pattern of the library on a key of an accompanist. */
export const placedPatternSchema = z.strictObject({
  id: idSchema,
  patternId: idSchema,
  /** The key that starts it, as it is heard at the accompanist’s place; or the number of the controller. */
  key: sevenBitSchema,
  shape: patternShapeSchema,
  /** Steps of the song’s key by which it is moved. */
  steps: z.number().int().min(-28).max(28),
  /** Beats that it lasts, cut off or with a rest; null as it is written. */
  length: z.number().int().min(1).max(LONGEST_PATTERN).nullable(),
  /** Keys of its notes that are left out. */
  muted: z.array(sevenBitSchema).max(128),
  /** Plays at its own tempo instead of the show’s. */
  ownTempo: z.boolean(),
});
export type PlacedPattern = z.infer<typeof placedPatternSchema>;

/** A run of keys that starts patterns on layers. */
export const accompanistSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  /** The layers of the patch that it plays. */
  layerIds: z.array(idSchema).max(32),
  /** Where its keys are. */
  place: placeSchema,
  /** What starts its patterns there. */
  starters: startersSchema.default('notes'),
  patterns: z.array(placedPatternSchema).max(MOST_PLACED),
  /** The key that stops it; null for none. */
  stopKey: sevenBitSchema.nullable(),
  starting: startingSchema,
  /** Plays several of its patterns at a time. */
  several: z.boolean(),
  begins: beginsSchema,
  takesOver: takesOverSchema,
  follows: followsSchema,
  /** Goes on with what it followed when those keys are let go. */
  remembers: z.boolean(),
  /** Semitones. */
  transpose: z.number().int().min(-60).max(60),
  leaving: leavingSchema,
  muted: z.boolean(),
});
export type Accompanist = z.infer<typeof accompanistSchema>;

/** A key for the whole band: it starts one pattern of each, stops all, or brings all to their next. */
export const bandKeySchema = z.strictObject({
  id: idSchema,
  does: z.enum(['start', 'stop', 'next']),
  place: placeSchema,
  starters: startersSchema.default('notes'),
  key: sevenBitSchema,
  /** The placed pattern that each accompanist starts, by accompanist; those that are not named stay as they are. */
  starts: z.record(idSchema, idSchema),
});
export type BandKey = z.infer<typeof bandKeySchema>;

/** A pattern as it is put on a key first. */
export function placedPattern(id: string, patternId: string, key: number): PlacedPattern {
  return {
    ...{ id, patternId, key, shape: PLAIN_SHAPE },
    ...{ steps: 0, length: null, muted: [], ownTempo: false },
  };
}

/** An accompanist as it begins: start and stop, on the bar, one after the other. */
export function newAccompanist(id: string, name: string, place: Place): Accompanist {
  return {
    ...{ id, name, place, starters: 'notes', layerIds: [], patterns: [], stopKey: null },
    ...{ starting: 'startStop', several: false, begins: 'bar', takesOver: 'bar' },
    ...{ follows: 'stays', remembers: true, transpose: 0, leaving: 'stop', muted: false },
  };
}

/** The accompanists of a patch and the keys for all of them. */
export interface Band {
  accompanists: Accompanist[];
  bandKeys: BandKey[];
}

/** What a mend changes of accompanists. */
export interface BandChanges {
  /** Other keys for placed patterns, by their id. */
  starters?: Readonly<Record<string, number>>;
  /** Keys of a placed pattern that are left out besides those that are, by its id. */
  leftOut?: Readonly<Record<string, readonly number[]>>;
  /** The layers of an accompanist, by its id. */
  layerIds?: Readonly<Record<string, string[]>>;
}

/** Accompanists with some of their patterns on other keys, some notes left out, or other layers. */
export function withBandChanges(
  accompanists: readonly Accompanist[],
  { starters = {}, leftOut = {}, layerIds = {} }: BandChanges,
): Accompanist[] {
  return accompanists.map((one) => ({
    ...one,
    layerIds: layerIds[one.id] ?? one.layerIds,
    patterns: one.patterns.map((placed) => ({
      ...placed,
      key: starters[placed.id] ?? placed.key,
      muted: [...new Set([...placed.muted, ...(leftOut[placed.id] ?? [])])],
    })),
  }));
}
