import { responseSchema } from '@pentachord/core/loudness';
import * as z from 'zod';

const span = z.object({ low: z.number().int(), high: z.number().int() });

/** A rendered zone as it is kept and passed between threads. */
export const zoneSchema = z.object({
  rootKey: z.number().int().min(0).max(127),
  keys: span,
  velocities: span,
  sampleRate: z.number().positive(),
  left: z.instanceof(Float32Array),
  right: z.instanceof(Float32Array),
  loopStart: z.number().int(),
  loopEnd: z.number().int(),
  loopDecay: z.number().min(0),
});

/** What the worker is asked for: a house sound by its recipe. */
export const renderRequestSchema = z.strictObject({ recipe: z.string() });
export type RenderRequest = z.infer<typeof renderRequestSchema>;

/** What the worker answers. */
export const renderAnswerSchema = z.discriminatedUnion('kind', [
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
    response: responseSchema,
  }),
  z.strictObject({ kind: z.literal('failed'), recipe: z.string(), problem: z.string() }),
]);
export type RenderAnswer = z.infer<typeof renderAnswerSchema>;
