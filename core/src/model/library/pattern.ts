import * as z from 'zod';
import { musicalKeySchema } from '../../pitch/musical-keys.js';
import { idSchema, nameSchema, sevenBitSchema, textSchema } from '../identity.js';
import { LONGEST_PATTERN, MOST_PATTERN_NOTES, SHORTEST_NOTE } from './pattern-limits.js';
import { metreSchema, tempoSchema } from '../show/song.js';

/** The shelves of patterns. */
export const patternCategorySchema = z.enum([
  'drums',
  'percussion',
  'fills',
  'basses',
  'chords',
  'pads',
  'plucked',
  'lines',
]);
export type PatternCategory = z.infer<typeof patternCategorySchema>;
/** The shelves in the order in which they stand. */
export const PATTERN_CATEGORIES = patternCategorySchema.options;

/** One note of a pattern; its place and length are in quarters. */
export const patternNoteSchema = z.strictObject({
  beat: z.number().min(0).lt(LONGEST_PATTERN),
  length: z.number().min(SHORTEST_NOTE).max(LONGEST_PATTERN),
  key: sevenBitSchema,
  velocity: z.number().int().min(1).max(127),
});
export type PatternNote = z.infer<typeof patternNoteSchema>;

const stepSchema = z
  .number()
  .min(1 / 24)
  .max(LONGEST_PATTERN);

/** How far onsets are moved to the nearest step: 0 not at all, 1 onto it. */
export const quantiseSchema = z.strictObject({
  step: stepSchema,
  strength: z.number().min(0).max(1),
});
export type Quantise = z.infer<typeof quantiseSchema>;

export const directionSchema = z.enum(['forward', 'backward', 'thereAndBack']);
export type Direction = z.infer<typeof directionSchema>;
export const DIRECTIONS = directionSchema.options;

/** What is done to a pattern when it plays, after what is written. */
export const patternShapeSchema = z.strictObject({
  /** Semitones. */
  transpose: z.number().int().min(-60).max(60),
  /** −1 lighter … 1 heavier. */
  weight: z.number().min(-1).max(1),
  /** The grid it is thinned to, in quarters; null for every note. */
  thin: stepSchema.nullable(),
  quantise: quantiseSchema.nullable(),
  /** Where the second of each pair of steps begins, percent of the pair; 50 is even. */
  swing: z.number().min(50).max(75),
  direction: directionSchema,
  /** How fast: 0.5 half time, 2 double time. */
  rate: z.union([z.literal(0.5), z.literal(1), z.literal(2)]),
});
export type PatternShape = z.infer<typeof patternShapeSchema>;

/** A pattern as it is written. */
export const PLAIN_SHAPE: PatternShape = {
  transpose: 0,
  weight: 0,
  thin: null,
  quantise: null,
  swing: 50,
  direction: 'forward',
  rate: 1,
};

/** A looping sequence of notes in the library. */
export const patternSchema = z
  .strictObject({
    id: idSchema,
    name: nameSchema,
    category: patternCategorySchema,
    tags: z.array(textSchema(30).min(1)).max(12),
    favourite: z.boolean(),
    /** Whole beats, quarters. */
    length: z.number().int().min(1).max(LONGEST_PATTERN),
    metre: metreSchema,
    /** The tempo it was written at. */
    tempo: tempoSchema,
    /** The key it is written in; null for drums, which have none. */
    key: musicalKeySchema.nullable(),
    /** What the notes are moved to when they are played; they stay as they were written. */
    quantise: quantiseSchema.nullable(),
    notes: z.array(patternNoteSchema).max(MOST_PATTERN_NOTES),
  })
  .superRefine(({ length, notes }, context) => {
    notes.forEach(({ beat }, index) => {
      if (beat >= length)
        context.addIssue({
          code: 'custom',
          path: ['notes', index, 'beat'],
          message: 'the note begins after the pattern has ended',
        });
    });
  });
export type Pattern = z.infer<typeof patternSchema>;
