import * as z from 'zod';
import { LOUDEST_DB, SILENCE_DB } from '../../units/decibels.js';
import { keyRangeSchema, velocityRangeSchema } from '../../range/range.js';
import { EVEN_TOUCH, touchSchema } from '../../touch/touch.js';
import { channelSchema, idSchema, nameSchema } from '../identity.js';
import { placeSchema, type Place } from '../rig/place.js';

/** A level in dB between silence (−60) and +12. */
export const levelSchema = z.number().min(SILENCE_DB).max(LOUDEST_DB);

/** A controller that a layer can follow or ignore. */
export const obeyableSchema = z.enum([
  'sustain',
  'expression',
  'pitchBend',
  'modulation',
  'aftertouch',
]);
export type Obeyable = z.infer<typeof obeyableSchema>;
export const OBEYABLES = obeyableSchema.options;

/** How much of a layer goes to the patch's shared effects, dB. */
export const sendsSchema = z.strictObject({
  reverb: levelSchema,
  delay: levelSchema,
  chorus: levelSchema,
});
export type Sends = z.infer<typeof sendsSchema>;

/** The most that a shelf raises or lowers, dB. */
export const MOST_SHELF_DB = 15;
const shelfSchema = z.number().min(-MOST_SHELF_DB).max(MOST_SHELF_DB);

/** A low and a high shelf, dB; 0 leaves the sound alone. */
export const toneSchema = z.strictObject({ low: shelfSchema, high: shelfSchema });
export type Tone = z.infer<typeof toneSchema>;

/** A raised floor of touch that can be switched while playing. */
export const liftSchema = z.strictObject({
  /** Velocity out that the softest playing gives while the lift is on. */
  floor: z.number().int().min(1).max(127),
  on: z.boolean(),
});
export type Lift = z.infer<typeof liftSchema>;

/** Ways out of the machine that layers can take: the main pair, and three others where the device has them. */
export const layerOutputSchema = z.enum(['main', 'second', 'third', 'fourth']);
export type LayerOutput = z.infer<typeof layerOutputSchema>;
export const LAYER_OUTPUTS = layerOutputSchema.options;

/** One player of a sound in a patch: which keys and strengths it answers, and how. */
export const layerSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  /** The patch's sound that it plays. Layers pointing to the same one share it. */
  soundId: idSchema,
  /** The keyboards it listens to, by their places. */
  keyboards: z.union([z.literal('any'), z.array(placeSchema).min(1).max(8)]),
  /** The MIDI channel it listens to. */
  channel: z.union([z.literal('any'), channelSchema]),
  keys: keyRangeSchema,
  velocities: velocityRangeSchema,
  touch: touchSchema,
  lift: liftSchema,
  /** Semitones added to the key. */
  transpose: z.number().int().min(-60).max(60),
  /** Whether the song's shift from fingered to sounding key is added too. */
  followsSong: z.boolean(),
  level: levelSchema,
  /** −1 left … 1 right. */
  pan: z.number().min(-1).max(1),
  muted: z.boolean(),
  sends: sendsSchema,
  tone: toneSchema,
  obeys: z.array(obeyableSchema).max(OBEYABLES.length),
  /** Where it is heard without the shared effects, which always come back on the main pair. */
  output: layerOutputSchema.default('main'),
});
export type Layer = z.infer<typeof layerSchema>;

/** Whether a layer listens to a keyboard, by where that stands and what it stands in for, whatever it sends on. */
export function listensTo(
  { keyboards }: Pick<Layer, 'keyboards'>,
  { place, alsoAt }: { place: Place; alsoAt: readonly Place[] },
): boolean {
  if (keyboards === 'any') return true;
  return keyboards.includes(place) || alsoAt.some((other) => keyboards.includes(other));
}

/** A layer over all keys and strengths of any keyboard, as one starts out. */
export function newLayer(id: string, name: string, soundId: string): Layer {
  return {
    id,
    name,
    soundId,
    keyboards: 'any',
    channel: 'any',
    keys: { low: 0, high: 127, fadeIn: 0, fadeOut: 0, law: 'equalPower' },
    velocities: { low: 1, high: 127, fadeIn: 0, fadeOut: 0, law: 'equalPower' },
    touch: EVEN_TOUCH,
    lift: { floor: 55, on: false },
    transpose: 0,
    followsSong: true,
    level: -6,
    pan: 0,
    muted: false,
    sends: { reverb: -18, delay: SILENCE_DB, chorus: SILENCE_DB },
    tone: { low: 0, high: 0 },
    obeys: [...OBEYABLES],
    output: 'main',
  };
}
