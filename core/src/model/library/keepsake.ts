import * as z from 'zod';
import { idSchema, nameSchema } from '../identity.js';
import { layerSchema, type Layer } from '../patch/layer.js';
import {
  patchSchema,
  patchSoundSchema,
  MOST_LAYERS,
  type Patch,
  type PatchSound,
} from '../patch/patch.js';

/** What can be kept: a sound as a patch has it, a layer with its sound and settings, or a whole patch. */
export const keptContentSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('sound'), sound: patchSoundSchema }),
  z
    .strictObject({ kind: z.literal('layer'), sound: patchSoundSchema, layer: layerSchema })
    .refine(({ sound, layer }) => layer.soundId === sound.id, {
      path: ['layer', 'soundId'],
      message: 'the layer comes with another sound than it plays',
    }),
  z.strictObject({ kind: z.literal('patch'), patch: patchSchema }),
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
  const sounds = content.kind === 'patch' ? content.patch.sounds : [content.sound];
  return sounds.map((sound) => sound.librarySoundId);
}

/** Layers with the sounds they play, as they are carried from one patch to another. */
export interface CarriedLayers {
  sounds: PatchSound[];
  layers: Layer[];
}

/** The layers of a patch with these ids, in their order, and the sounds they play. */
export function carriedFrom(patch: Patch, layerIds: ReadonlySet<string>): CarriedLayers {
  const layers = patch.layers.filter((layer) => layerIds.has(layer.id));
  const sounds = patch.sounds.filter((sound) => layers.some((l) => l.soundId === sound.id));
  return { layers, sounds };
}

/** What is carried, checked where it comes from outside. */
export const carriedLayersSchema = z
  .strictObject({
    sounds: z.array(patchSoundSchema).max(MOST_LAYERS),
    layers: z.array(layerSchema).min(1).max(MOST_LAYERS),
  })
  .refine(({ sounds, layers }) => layers.every((l) => sounds.some((s) => s.id === l.soundId)), {
    path: ['layers'],
    message: 'a layer comes without its sound',
  });

/**
 * Carried layers with ids of their own, made by `newId`: sharing among them stays, keyboards that this rig does not have
 * become “any”.
 */
export function renewed(
  { sounds, layers }: CarriedLayers,
  keyboardIds: ReadonlySet<string>,
  newId: () => string,
): CarriedLayers {
  const soundIds = new Map(sounds.map((sound) => [sound.id, newId()]));
  return {
    sounds: sounds.map((sound) => ({ ...sound, id: soundIds.get(sound.id) ?? sound.id })),
    layers: layers.map((layer) => ({
      ...layer,
      id: newId(),
      soundId: soundIds.get(layer.soundId) ?? layer.soundId,
      keyboards: knownKeyboards(layer.keyboards, keyboardIds),
    })),
  };
}

function knownKeyboards(
  keyboards: Layer['keyboards'],
  known: ReadonlySet<string>,
): Layer['keyboards'] {
  if (keyboards === 'any') return 'any';
  const here = keyboards.filter((id) => known.has(id));
  return here.length > 0 ? here : 'any';
}

/** A whole kept patch for a song: everything in it gets an id of its own. */
export function renewedPatch(
  patch: Patch,
  place: { id: string; songId: string; position: number; name: string },
  keyboardIds: ReadonlySet<string>,
  newId: () => string,
): Patch {
  const ids = new Map<string, string>();
  for (const { id } of [...patch.sounds, ...patch.layers, ...patch.treatments])
    ids.set(id, newId());
  const renew = (id: string) => ids.get(id) ?? id;
  return {
    ...place,
    effects: patch.effects,
    sounds: patch.sounds.map((sound) => ({ ...sound, id: renew(sound.id) })),
    layers: patch.layers.map((layer) => ({
      ...layer,
      id: renew(layer.id),
      soundId: renew(layer.soundId),
      keyboards: knownKeyboards(layer.keyboards, keyboardIds),
    })),
    treatments: patch.treatments.map((treatment) => ({
      ...treatment,
      id: renew(treatment.id),
      layerIds: treatment.layerIds.map(renew),
    })),
    controls: patch.controls.map((control) => ({
      ...control,
      id: newId(),
      target:
        control.target.kind === 'layer'
          ? { ...control.target, layerId: renew(control.target.layerId) }
          : control.target.kind === 'sound'
            ? { ...control.target, patchSoundId: renew(control.target.patchSoundId) }
            : { ...control.target, treatmentId: renew(control.target.treatmentId) },
    })),
  };
}
