import * as z from 'zod';
import { idSchema, nameSchema, refuseTwins } from '../identity.js';
import { chooserSchema, MOST_CHOOSERS } from '../patch/chooser.js';
import { layerSchema } from '../patch/layer.js';
import { patchSchema, patchSoundSchema } from '../patch/patch.js';
import { MOST_CONTROLS, tieSchema } from '../patch/tie.js';
import { MOST_TREATMENTS, treatmentSchema } from '../patch/treatment.js';
import { keptBandSchema } from './kept-band.js';

/** What goes with layers that leave their patch; kept things from before there was any have none. */
export const WITH_LAYERS = {
  treatments: z.array(treatmentSchema).max(MOST_TREATMENTS).default([]),
  controls: z.array(tieSchema).max(MOST_CONTROLS).default([]),
  choosers: z.array(chooserSchema).max(MOST_CHOOSERS).default([]),
};

/** What can be kept: a sound as a patch has it, a layer with its sound and settings, a whole patch, or a band without its sounds. */
export const keptContentSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('sound'), sound: patchSoundSchema }),
  z
    .strictObject({
      kind: z.literal('layer'),
      sound: patchSoundSchema,
      layer: layerSchema,
      ...WITH_LAYERS,
    })
    .refine(({ sound, layer }) => layer.soundId === sound.id, {
      path: ['layer', 'soundId'],
      message: 'the layer comes with another sound than it plays',
    })
    .superRefine(({ treatments, controls }, context) => {
      refuseTwins(treatments, 'treatments', 'treatments', context);
      refuseTwins(controls, 'controls', 'controls', context);
    }),
  z.strictObject({ kind: z.literal('patch'), patch: patchSchema }),
  keptBandSchema,
]);
export type KeptContent = z.infer<typeof keptContentSchema>;

/** Something that the player keeps, to be taken again in any song. It is a copy: taking it changes nothing here. */
export const keepsakeSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  favourite: z.boolean(),
  content: keptContentSchema,
});
export type Keepsake = z.infer<typeof keepsakeSchema>;

/** The library sounds that a keepsake needs. */
export function soundsOfKeepsake({ content }: Keepsake): string[] {
  if (content.kind === 'band') return [];
  const sounds = content.kind === 'patch' ? content.patch.sounds : [content.sound];
  return sounds.map((sound) => sound.librarySoundId);
}
