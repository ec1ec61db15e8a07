import * as z from 'zod';
import {
  accompanistSchema,
  bandKeySchema,
  MOST_ACCOMPANISTS,
  MOST_BAND_KEYS,
} from './accompanist.js';
import { chooserSchema, MOST_CHOOSERS } from './chooser.js';
import { effectsSchema, USUAL_EFFECTS } from './effects.js';
import { idSchema, nameSchema, refuseTwins } from '../identity.js';
import { layerSchema } from './layer.js';
import { idOfTarget } from './control-target.js';
import { MOST_CONTROLS, tieSchema } from './tie.js';
import { PLAIN_TIMBRE, timbreSchema } from './timbre.js';
import { MOST_TREATMENTS, treatmentSchema } from './treatment.js';

/**
 * How many notes a sound plays at once before it lets the oldest go. With 1 the last note struck has priority, and letting
 * it go brings back the one that is still held.
 */
export const polyphonySchema = z.union([z.literal('many'), z.number().int().min(1).max(64)]);

/** A library sound as used in one patch. */
export const patchSoundSchema = z.strictObject({
  id: idSchema,
  librarySoundId: idSchema,
  polyphony: polyphonySchema,
  /** Seconds that a sound of one voice takes from note to note; 0 strikes each anew. */
  glideSeconds: z.number().min(0).max(5),
  timbre: timbreSchema,
});
export type PatchSound = z.infer<typeof patchSoundSchema>;

/** A library sound as a patch takes it first. */
export function newPatchSound(id: string, librarySoundId: string): PatchSound {
  return { id, librarySoundId, polyphony: 'many', glideSeconds: 0, timbre: PLAIN_TIMBRE };
}

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
    /** In the order in which they work. */
    treatments: z.array(treatmentSchema).max(MOST_TREATMENTS),
    controls: z.array(tieSchema).max(MOST_CONTROLS),
    choosers: z.array(chooserSchema).max(MOST_CHOOSERS),
    effects: effectsSchema,
    accompanists: z.array(accompanistSchema).max(MOST_ACCOMPANISTS).default([]),
    /** Keys for all of them together. */
    bandKeys: z.array(bandKeySchema).max(MOST_BAND_KEYS).default([]),
  })
  .superRefine((patch, context) => {
    const known = new Set(patch.sounds.map((sound) => sound.id));
    refuseTwins(patch.sounds, 'sounds', 'sounds', context);
    refuseTwins(patch.layers, 'layers', 'layers', context);
    refuseTwins(patch.treatments, 'treatments', 'treatments', context);
    refuseTwins(patch.controls, 'controls', 'controls', context);
    refuseTwins(patch.choosers, 'choosers', 'choosers', context);
    refuseTwins(patch.accompanists, 'accompanists', 'accompanists', context);
    refuseTwins(patch.bandKeys, 'bandKeys', 'keys of the band', context);
    const seen = new Set(patch.layers.map(({ id }) => id));
    patch.layers.forEach((layer, index) => {
      if (!known.has(layer.soundId))
        context.addIssue({
          code: 'custom',
          path: ['layers', index, 'soundId'],
          message: 'the layer points to a sound that the patch does not hold',
        });
    });
    patch.treatments.forEach(({ layerIds }, index) => {
      if (!layerIds.every((id) => seen.has(id)))
        context.addIssue({
          code: 'custom',
          path: ['treatments', index, 'layerIds'],
          message: 'the treatment is laid on a layer that the patch does not hold',
        });
    });
    const placed = patch.accompanists.flatMap(({ patterns }) => patterns.map(({ id }) => id));
    if (new Set(placed).size < placed.length)
      context.addIssue({
        code: 'custom',
        path: ['accompanists'],
        message: 'two patterns on keys have the same id',
      });
    patch.accompanists.forEach(({ layerIds }, index) => {
      if (!layerIds.every((id) => seen.has(id)))
        context.addIssue({
          code: 'custom',
          path: ['accompanists', index, 'layerIds'],
          message: 'the accompanist plays a layer that the patch does not hold',
        });
    });
    patch.choosers.forEach(({ choices, chosen }, index) => {
      if (!choices.every(({ layerIds }) => layerIds.every((id) => seen.has(id))))
        context.addIssue({
          code: 'custom',
          path: ['choosers', index, 'choices'],
          message: 'the chooser picks a layer that the patch does not hold',
        });
      if (chosen >= choices.length)
        context.addIssue({
          code: 'custom',
          path: ['choosers', index, 'chosen'],
          message: 'the chooser has picked a choice that it does not have',
        });
    });
    const { treatments, accompanists } = patch;
    const others = [...treatments, ...accompanists].map(({ id }) => id);
    const parts = new Set([...seen, ...known, ...others]);
    patch.controls.forEach(({ target }, index) => {
      const about = idOfTarget(target);
      if (about !== null && !parts.has(about))
        context.addIssue({
          code: 'custom',
          path: ['controls', index, 'target'],
          message: 'the control moves something that the patch does not hold',
        });
    });
  });
export type Patch = z.infer<typeof patchSchema>;

/** The letter that stands for a layer on the field and in the ledger: A, B, … Z, AA, AB … */
export function layerLetter(index: number): string {
  const last = String.fromCharCode(65 + (index % 26));
  return index < 26 ? last : layerLetter(Math.floor(index / 26) - 1) + last;
}

/** A patch without layers. */
export function newPatch(id: string, songId: string, position: number, name: string): Patch {
  return {
    id,
    songId,
    position,
    name,
    sounds: [],
    layers: [],
    treatments: [],
    controls: [],
    choosers: [],
    effects: USUAL_EFFECTS,
    accompanists: [],
    bandKeys: [],
  };
}
