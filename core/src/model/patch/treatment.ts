import * as z from 'zod';
import { formatDb, LOUDEST_DB, SILENCE_DB } from '../../units/decibels.js';
import { idSchema, sevenBitSchema } from '../identity.js';

/** Step lengths of what runs on the show’s clock, as note values; T is a triplet. */
export const noteValueSchema = z.enum([
  '1/2',
  '1/4',
  '1/4T',
  '1/8',
  '1/8T',
  '1/16',
  '1/16T',
  '1/32',
]);
export type NoteValue = z.infer<typeof noteValueSchema>;
export const NOTE_VALUES = noteValueSchema.options;

/** Length of a note value in beats, a beat being a quarter note. */
export function beatsOf(value: NoteValue): number {
  const triplet = value.endsWith('T');
  const divisor = Number(value.slice(2, triplet ? -1 : undefined));
  return (4 / divisor) * (triplet ? 2 / 3 : 1);
}

const common = {
  id: idSchema,
  on: z.boolean(),
  /** The layers it is laid on; each runs it for itself, all on one clock. */
  layerIds: z.array(idSchema).min(1).max(32),
};
const gate = z.number().min(0.05).max(1);
const velocity = z.number().int().min(1).max(127);

export const arpeggioOrderSchema = z.enum(['up', 'down', 'both', 'as played', 'chord']);
export type ArpeggioOrder = z.infer<typeof arpeggioOrderSchema>;

/** Plays held keys one after the other (or all at each step) on the clock. */
export const arpeggioSchema = z.strictObject({
  kind: z.literal('arpeggio'),
  ...common,
  order: arpeggioOrderSchema,
  rate: noteValueSchema,
  /** How much of a step a note lasts, 0.05–1. */
  gate,
  octaves: z.number().int().min(1).max(4),
  /** Goes on after the keys are let go, until new ones are struck. */
  hold: z.boolean(),
});

/** Adds notes to each key. */
export const chordSchema = z.strictObject({
  kind: z.literal('chord'),
  ...common,
  /** Semitones from the key; 0 is the key itself. */
  intervals: z.array(z.number().int().min(-36).max(36)).min(1).max(8),
  /** Bends every added note down to the nearest one of the song’s fingered key. */
  inKey: z.boolean(),
});

/** Strikes a held key again and again on the clock. */
export const restrikeSchema = z.strictObject({
  kind: z.literal('restrike'),
  ...common,
  rate: noteValueSchema,
  gate,
});

/** Lets only some notes through. */
export const sieveSchema = z.strictObject({
  kind: z.literal('sieve'),
  ...common,
  keys: z.strictObject({ low: sevenBitSchema, high: sevenBitSchema }),
  velocities: z.strictObject({ low: velocity, high: velocity }),
  /** Every nth note of those that pass otherwise, beginning with the first. */
  everyNth: z.number().int().min(1).max(16),
});

/** Adds the same note some octaves higher or lower, at a level of its own. */
export const doublingSchema = z.strictObject({
  kind: z.literal('doubling'),
  ...common,
  octaves: z.union([-3, -2, -1, 1, 2, 3].map((octaves) => z.literal(octaves))),
  /** dB against the note itself. */
  level: z.number().min(SILENCE_DB).max(LOUDEST_DB),
});

/** The longest that a strummed chord is spread over, in milliseconds. */
export const LONGEST_STRUM_MS = 1000;
export const strumOrderSchema = z.enum(['up', 'down']);

/** Spreads a chord from its lowest note to its highest, or the other way. */
export const strumSchema = z.strictObject({
  kind: z.literal('strum'),
  ...common,
  order: strumOrderSchema,
  /** From the first note of a chord to its last: milliseconds, or a note value. */
  over: z.union([z.number().int().min(5).max(LONGEST_STRUM_MS), noteValueSchema]),
});

/** Holds a chord when its keys are let go, until the next one is struck or it is switched off. */
export const latchSchema = z.strictObject({ kind: z.literal('latch'), ...common });

/** Something done to the notes of a layer, or several, before they sound. */
export const treatmentSchema = z.discriminatedUnion('kind', [
  arpeggioSchema,
  chordSchema,
  restrikeSchema,
  sieveSchema,
  doublingSchema,
  strumSchema,
  latchSchema,
]);
export type Treatment = z.infer<typeof treatmentSchema>;
export type TreatmentKind = Treatment['kind'];
export const TREATMENT_KINDS = [
  'arpeggio',
  'chord',
  'doubling',
  'strum',
  'restrike',
  'latch',
  'sieve',
] as const;
/** What treatments are called. */
export const TREATMENT_NAMES: Record<TreatmentKind, string> = {
  arpeggio: 'arpeggio',
  chord: 'chord',
  restrike: 'restrike',
  sieve: 'sieve',
  doubling: 'doubling',
  strum: 'strum',
  latch: 'latch',
};
/** The most treatments a patch can hold. */
export const MOST_TREATMENTS = 32;

/** A treatment of a kind as it starts out: on, and plainly audible. */
export function newTreatment(kind: TreatmentKind, id: string, layerIds: string[]): Treatment {
  const shared = { id, on: true, layerIds };
  switch (kind) {
    case 'arpeggio':
      return { kind, ...shared, order: 'up', rate: '1/16', gate: 0.6, octaves: 1, hold: false };
    case 'chord':
      return { kind, ...shared, intervals: [0, 4, 7], inKey: true };
    case 'restrike':
      return { kind, ...shared, rate: '1/8', gate: 0.5 };
    case 'sieve':
      return {
        kind,
        ...shared,
        keys: { low: 0, high: 127 },
        velocities: { low: 1, high: 127 },
        everyNth: 1,
      };
    case 'doubling':
      return { kind, ...shared, octaves: 1, level: -6 };
    case 'strum':
      return { kind, ...shared, order: 'up', over: 120 };
    case 'latch':
      return { kind, ...shared };
  }
}

/** The treatment in a musician’s words: `up, 1/16, 2 octaves`. */
export function treatmentInWords(treatment: Treatment): string {
  switch (treatment.kind) {
    case 'arpeggio': {
      const octaves = treatment.octaves > 1 ? `, ${treatment.octaves} octaves` : '';
      return `${treatment.order}, ${treatment.rate}${octaves}${treatment.hold ? ', held' : ''}`;
    }
    case 'chord': {
      const notes = treatment.intervals.map((i) => (i > 0 ? `+${i}` : `${i}`.replace('-', '−')));
      return `${notes.join(' ')}${treatment.inKey ? ', in key' : ''}`;
    }
    case 'restrike':
      return `every ${treatment.rate}`;
    case 'sieve':
      return treatment.everyNth > 1
        ? `every ${ordinal(treatment.everyNth)} note`
        : 'by keys and velocities';
    case 'doubling': {
      const { octaves, level } = treatment;
      const many = Math.abs(octaves) === 1 ? 'octave' : 'octaves';
      return `${Math.abs(octaves)} ${many} ${octaves > 0 ? 'up' : 'down'} at ${formatDb(level)}`;
    }
    case 'strum': {
      const { order, over } = treatment;
      return `${order}, over ${typeof over === 'number' ? `${over} ms` : over}`;
    }
    case 'latch':
      return 'until the next chord';
  }
}

function ordinal(n: number): string {
  return n === 2 ? '2nd' : n === 3 ? '3rd' : `${n}th`;
}
