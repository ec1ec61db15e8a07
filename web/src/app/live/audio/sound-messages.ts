import { responseSchema } from '@pentachord/core/loudness';
import { timbreSchema, toneSchema } from '@pentachord/core/model';
import * as z from 'zod';

const span = z.object({ low: z.number().int(), high: z.number().int() });

const samples = z.union([
  z.instanceof<typeof Float32Array<ArrayBufferLike>>(Float32Array),
  z.instanceof<typeof Int16Array<ArrayBufferLike>>(Int16Array),
]);

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

const seconds = z.number().min(0);
const voicingSchema = z.object({
  ...{ attack: seconds, release: seconds, hold: seconds.optional(), decay: seconds.optional() },
  ...{ sustain: z.number().optional(), dynamics: z.number(), brightness: z.number() },
  darkening: z.number(),
});
const gainsSchema = z.object({
  keys: z.instanceof<typeof Float32Array<ArrayBufferLike>>(Float32Array),
  velocities: z.instanceof<typeof Float32Array<ArrayBufferLike>>(Float32Array),
});

/** A zone of a recording, with what it says of its own. */
export const recordedZoneSchema = z.object({
  ...zoneSchema.shape,
  left: samples,
  right: samples,
  scale: z.instanceof<typeof Float64Array<ArrayBufferLike>>(Float64Array).optional(),
  tracking: z.number().optional(),
  tuning: z.number().optional(),
  voicing: voicingSchema.optional(),
  gains: gainsSchema.optional(),
  turn: z.object({ place: z.number().int(), of: z.number().int() }).optional(),
  oneShot: z.boolean().optional(),
  choke: z.number().int().optional(),
});
export const loadedSoundSchema = z.object({
  voicing: voicingSchema,
  zones: z.array(recordedZoneSchema).readonly(),
  answering: z.enum(['nearest', 'all']).optional(),
});
export const playableSchema = z.object({
  sampleRate: z.number().positive(),
  left: samples,
  right: samples,
});

/** A share of one core. */
export const shareSchema = z.number().min(0).max(100);

/** A sound in another colour, whose loudness is asked for and kept under `key`. */
export const colouredSchema = z.strictObject({
  key: z.string(),
  sourceId: z.string(),
  colour: z.strictObject({ timbre: timbreSchema, tone: toneSchema }),
});
export type Coloured = z.infer<typeof colouredSchema>;

/** A stroke of several layers, to be listened to: one voice each, without its level. */
export const layeredStrokeSchema = z.strictObject({
  weight: z.number().positive(),
  voices: z.array(
    z.strictObject({
      layerId: z.string(),
      sourceId: z.string(),
      /** The sound, with the zones that may sound. */
      sound: loadedSoundSchema,
      note: z.number().int().min(0).max(127),
      velocity: z.number().int().min(1).max(127),
      gain: z.number().min(0),
      pan: z.number().min(-1).max(1),
      colour: colouredSchema.shape.colour,
    }),
  ),
});
export type LayeredStroke = z.infer<typeof layeredStrokeSchema>;

/** What layers make together at a stroke. */
const mixtureSchema = z.strictObject({
  layerIds: z.array(z.string()),
  weight: z.number().positive(),
  windows: z.array(z.instanceof<typeof Float64Array<ArrayBufferLike>>(Float64Array)),
});

/**
 * What the worker is asked for: a sound by its source, how loud one is in another colour, or how much sound this
 * machine can bear.
 */
export const soundRequestSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('render'), sourceId: z.string() }),
  /** How loud a sound rendered before is, and what one voice of it costs. */
  z.strictObject({ kind: z.literal('know'), sourceId: z.string() }),
  z.strictObject({ kind: z.literal('measure'), ...colouredSchema.shape }),
  z.strictObject({ kind: z.literal('gauge') }),
  /** What layers make together. */
  z.strictObject({
    kind: z.literal('mix'),
    key: z.string(),
    strokes: z.array(layeredStrokeSchema),
  }),
  /** What is kept of sounds that are not made any more is to go. */
  z.strictObject({ kind: z.literal('tidy') }),
]);
export type SoundRequest = z.infer<typeof soundRequestSchema>;

/** What the worker answers. */
export const soundAnswerSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('progress'),
    sourceId: z.string(),
    done: z.number().int(),
    of: z.number().int(),
  }),
  z.strictObject({
    kind: z.literal('ready'),
    sourceId: z.string(),
    zones: z.array(zoneSchema).min(1),
  }),
  z.strictObject({
    kind: z.literal('known'),
    sourceId: z.string(),
    response: responseSchema,
    /** What one voice costs on this machine. */
    voiceCost: shareSchema,
  }),
  z.strictObject({ kind: z.literal('measured'), key: z.string(), response: responseSchema }),
  z.strictObject({
    kind: z.literal('mixed'),
    key: z.string(),
    mixtures: z.array(mixtureSchema),
  }),
  z.strictObject({ kind: z.literal('gauged'), budget: shareSchema }),
  z.strictObject({ kind: z.literal('tidied') }),
  /** Nothing comes of what was asked for last; what is asked for next may do. */
  z.strictObject({ kind: z.literal('undone') }),
  z.strictObject({ kind: z.literal('failed'), sourceId: z.string(), problem: z.string() }),
]);
export type SoundAnswer = z.infer<typeof soundAnswerSchema>;
