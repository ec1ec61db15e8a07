import * as z from 'zod';
import { idSchema, nameSchema } from './identity.js';
import { layerSchema } from './layer.js';

/** How many notes a sound plays at once before it lets the oldest go. */
export const polyphonySchema = z.union([z.literal('many'), z.number().int().min(1).max(64)]);

/** A library sound as used in one patch. */
export const patchSoundSchema = z.strictObject({
  id: idSchema,
  librarySoundId: idSchema,
  polyphony: polyphonySchema,
});
export type PatchSound = z.infer<typeof patchSoundSchema>;

/** The most layers a patch can hold. */
export const MOST_LAYERS = 32;

/** A keyboard setup: the sounds it uses and the layers that play them. */
export const patchSchema = z
  .strictObject({
    id: idSchema,
    songId: idSchema,
    position: z.number().int().min(0),
    name: nameSchema,
    sounds: z.array(patchSoundSchema).max(MOST_LAYERS),
    layers: z.array(layerSchema).max(MOST_LAYERS),
  })
  .superRefine((patch, context) => {
    const known = new Set(patch.sounds.map((sound) => sound.id));
    const seen = new Set<string>();
    patch.layers.forEach((layer, index) => {
      if (!known.has(layer.soundId))
        context.addIssue({
          code: 'custom',
          path: ['layers', index, 'soundId'],
          message: 'the layer points to a sound that the patch does not hold',
        });
      if (seen.has(layer.id))
        context.addIssue({
          code: 'custom',
          path: ['layers', index, 'id'],
          message: 'two layers have the same id',
        });
      seen.add(layer.id);
    });
  });
export type Patch = z.infer<typeof patchSchema>;

/** The letter that stands for a layer on the field and in the ledger: A, B, … Z, AA, AB … */
export function layerLetter(index: number): string {
  const last = String.fromCharCode(65 + (index % 26));
  return index < 26 ? last : layerLetter(Math.floor(index / 26) - 1) + last;
}
