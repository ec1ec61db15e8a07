import { responseSchema } from '@pentachord/core/loudness';
import { timbreSchema, toneSchema } from '@pentachord/core/model';
import * as z from 'zod';

const span = z.object({ low: z.number().int(), high: z.number().int() });

/** A rendered zone as it is kept and passed between threads. */
export const zoneSchema = z.object({
  rootKey: z.number().int().min(0).max(127),
  keys: span,
  velocities: span,
  sampleRate: z.number().positive(),
  left: z.instanceof<typeof Float32Array<ArrayBufferLike>>(Float32Array),
  right: z.instanceof<typeof Float32Array<ArrayBufferLike>>(Float32Array),
  loopStart: z.number().int(),
  loopEnd: z.number().int(),
  loopDecay: z.number().min(0),
});

/** A share of one core. */
export const shareSchema = z.number().min(0).max(100);

/** A house sound in another colour, whose loudness is asked for and kept under `key`. */
export const colouredSchema = z.strictObject({
  key: z.string(),
  recipe: z.string(),
  colour: z.strictObject({ timbre: timbreSchema, tone: toneSchema }),
});
export type Coloured = z.infer<typeof colouredSchema>;

/**
 * What the worker is asked for: a house sound by its recipe, how loud one is in another colour, or how much sound this
 * machine can bear.
 */
export const soundRequestSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('render'), recipe: z.string() }),
  /** How loud a sound rendered before is, and what one voice of it costs. */
  z.strictObject({ kind: z.literal('know'), recipe: z.string() }),
  z.strictObject({ kind: z.literal('measure'), ...colouredSchema.shape }),
  z.strictObject({ kind: z.literal('gauge') }),
  /** What is kept of sounds that are not made any more is to go. */
  z.strictObject({ kind: z.literal('tidy') }),
]);
export type SoundRequest = z.infer<typeof soundRequestSchema>;

/** What the worker answers. */
export const soundAnswerSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('progress'),
    recipe: z.string(),
    done: z.number().int(),
    of: z.number().int(),
  }),
  z.strictObject({
    kind: z.literal('ready'),
    recipe: z.string(),
    zones: z.array(zoneSchema).min(1),
  }),
  z.strictObject({
    kind: z.literal('known'),
    recipe: z.string(),
    response: responseSchema,
    /** What one voice costs on this machine. */
    voiceCost: shareSchema,
  }),
  z.strictObject({ kind: z.literal('measured'), key: z.string(), response: responseSchema }),
  z.strictObject({ kind: z.literal('gauged'), budget: shareSchema }),
  z.strictObject({ kind: z.literal('tidied') }),
  z.strictObject({ kind: z.literal('failed'), recipe: z.string(), problem: z.string() }),
]);
export type SoundAnswer = z.infer<typeof soundAnswerSchema>;
