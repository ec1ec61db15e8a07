import * as z from 'zod';
import {
  channelSchema,
  idSchema,
  nameSchema,
  refuseTwins,
  sevenBitSchema,
  textSchema,
} from '../identity.js';
import { placeSchema } from '../rig/place.js';
import { MOST_ZONES, sampleZoneSchema } from './sample-zone.js';

/** The shelves of the sound library. */
export const soundCategorySchema = z.enum([
  'pianos',
  'electric pianos',
  'organs',
  'mallets and bells',
  'strings and pads',
  'basses',
  'leads and brass',
  'plucked',
  'drums and percussion',
  'outside',
]);
export type SoundCategory = z.infer<typeof soundCategorySchema>;
/** The shelves in the order in which they stand. */
export const SOUND_CATEGORIES = soundCategorySchema.options;

/** A bank of programs, chosen by CC 0 and 32 before the program. */
export const bankSchema = z.strictObject({ msb: sevenBitSchema, lsb: sevenBitSchema });
export type Bank = z.infer<typeof bankSchema>;

/** A sound that is played from recordings. */
export const sampledOriginSchema = z
  .strictObject({
    kind: z.literal('recordings'),
    /** How much softer velocity 1 is than 127 besides what the recordings themselves differ, dB. */
    dynamics: z.number().min(0).max(60),
    zones: z.array(sampleZoneSchema).max(MOST_ZONES),
  })
  .superRefine(({ zones }, context) => {
    refuseTwins(zones, 'zones', 'zones', context);
  });
export type SampledOrigin = z.infer<typeof sampledOriginSchema>;

/** Where a sound comes from: synthesised by us, from recordings, or played by an outside module over MIDI. */
export const soundOriginSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('house'), recipe: textSchema(40).min(1) }),
  sampledOriginSchema,
  z.strictObject({
    kind: z.literal('outside'),
    /** Where the module stands that plays it; null when nobody knows any more. */
    place: placeSchema.nullable(),
    channel: channelSchema,
    /** Null when the module is to stay in the bank it is in. */
    bank: bankSchema.nullable(),
    program: sevenBitSchema,
  }),
]);
export type SoundOrigin = z.infer<typeof soundOriginSchema>;

/** A sound in the library. */
export const soundSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  category: soundCategorySchema,
  tags: z.array(textSchema(30).min(1)).max(12),
  favourite: z.boolean(),
  origin: soundOriginSchema,
  /** Notes it was made for; outside them it sounds, with a remark. */
  lowestNote: sevenBitSchema,
  highestNote: sevenBitSchema,
});
export type Sound = z.infer<typeof soundSchema>;

/** A sound that is played from recordings. */
export type SampledSound = Sound & { origin: SampledOrigin };

/** Whether a sound is played from recordings. */
export function isSampled(sound: Sound): sound is SampledSound {
  return sound.origin.kind === 'recordings';
}

/** The recordings that a sound needs, each once. */
export function recordingsOfSound({ origin }: Pick<Sound, 'origin'>): string[] {
  return origin.kind === 'recordings'
    ? [...new Set(origin.zones.map(({ recordingId }) => recordingId))]
    : [];
}
