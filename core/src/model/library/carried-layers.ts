import * as z from 'zod';
import type { Chooser } from '../patch/chooser.js';
import { idOfTarget, type ControlTarget } from '../patch/control-target.js';
import { layerSchema, type Layer } from '../patch/layer.js';
import { MOST_LAYERS, patchSoundSchema, type Patch, type PatchSound } from '../patch/patch.js';
import { newIdsOfBand, renewedBand } from '../patch/renewed-band.js';
import type { Tie } from '../patch/tie.js';
import type { Treatment } from '../patch/treatment.js';
import type { Place } from '../rig/place.js';
import { WITH_LAYERS } from './keepsake.js';

/** Layers with the sounds they play, their treatments and ties, as they are carried from one patch to another. */
export interface CarriedLayers {
  sounds: PatchSound[];
  layers: Layer[];
  treatments: Treatment[];
  controls: Tie[];
  choosers: Chooser[];
}

/** The layers of a patch with these ids, in their order, the sounds they play, what treats them and what moves them. */
export function carriedFrom(patch: Patch, layerIds: ReadonlySet<string>): CarriedLayers {
  const layers = patch.layers.filter((layer) => layerIds.has(layer.id));
  const sounds = patch.sounds.filter((sound) => layers.some((l) => l.soundId === sound.id));
  const treatments = patch.treatments
    .map((treatment) => ({
      ...treatment,
      layerIds: treatment.layerIds.filter((id) => layerIds.has(id)),
    }))
    .filter((treatment) => treatment.layerIds.length > 0);
  const parts = new Set([...layers, ...sounds, ...treatments].map(({ id }) => id));
  const controls = patch.controls.filter(({ target }) => parts.has(idOfTarget(target) ?? ''));
  return { layers, sounds, treatments, controls, choosers: among(patch.choosers, layerIds) };
}

/** Choosers that still have something to pick among these layers. */
function among(choosers: readonly Chooser[], layerIds: ReadonlySet<string>): Chooser[] {
  return choosers
    .map((chooser) => ({
      ...chooser,
      choices: chooser.choices.map((choice) => ({
        ...choice,
        layerIds: choice.layerIds.filter((id) => layerIds.has(id)),
      })),
    }))
    .filter(({ choices }) => choices.filter((choice) => choice.layerIds.length > 0).length > 1);
}

function withTarget(target: ControlTarget, renew: (id: string) => string): ControlTarget {
  if (target.kind === 'layer') return { ...target, layerId: renew(target.layerId) };
  if (target.kind === 'sound') return { ...target, patchSoundId: renew(target.patchSoundId) };
  if (target.kind === 'treatment') return { ...target, treatmentId: renew(target.treatmentId) };
  if (target.kind === 'accompanist')
    return { ...target, accompanistId: renew(target.accompanistId) };
  return target;
}

/** What is carried, checked where it comes from outside. */
export const carriedLayersSchema = z
  .strictObject({
    sounds: z.array(patchSoundSchema).max(MOST_LAYERS),
    layers: z.array(layerSchema).min(1).max(MOST_LAYERS),
    ...WITH_LAYERS,
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
  { sounds, layers, treatments, controls, choosers }: CarriedLayers,
  keyboards: ReadonlySet<Place>,
  newId: () => string,
  ids = newIdsOf({ sounds, layers, treatments }, newId),
): CarriedLayers {
  const renew = (id: string) => ids.get(id) ?? id;
  return {
    sounds: sounds.map((sound) => ({ ...sound, id: renew(sound.id) })),
    layers: layers.map((layer) => ({
      ...layer,
      id: renew(layer.id),
      soundId: renew(layer.soundId),
      keyboards: knownKeyboards(layer.keyboards, keyboards),
    })),
    treatments: treatments.map((treatment) => ({
      ...treatment,
      id: renew(treatment.id),
      layerIds: treatment.layerIds.map(renew),
    })),
    controls: controls.map((control) => ({
      ...control,
      id: newId(),
      target: withTarget(control.target, renew),
    })),
    choosers: choosers.map((chooser) => ({
      ...chooser,
      id: newId(),
      choices: chooser.choices.map((choice) => ({
        ...choice,
        layerIds: choice.layerIds.map(renew),
      })),
    })),
  };
}

function newIdsOf(
  { sounds, layers, treatments }: Pick<CarriedLayers, 'sounds' | 'layers' | 'treatments'>,
  newId: () => string,
): ReadonlyMap<string, string> {
  return new Map([...sounds, ...layers, ...treatments].map(({ id }) => [id, newId()]));
}

function knownKeyboards(
  keyboards: Layer['keyboards'],
  known: ReadonlySet<Place>,
): Layer['keyboards'] {
  if (keyboards === 'any') return 'any';
  const here = keyboards.filter((place) => known.has(place));
  return here.length > 0 ? here : 'any';
}

/** A whole kept patch for a song: everything in it gets an id of its own. */
export function renewedPatch(
  patch: Patch,
  place: { id: string; songId: string; position: number; name: string },
  keyboards: ReadonlySet<Place>,
  newId: () => string,
): Patch {
  const ids = new Map([...newIdsOf(patch, newId), ...newIdsOfBand(patch, newId)]);
  return {
    ...{ ...place, effects: patch.effects },
    ...renewed(patch, keyboards, newId, ids),
    ...renewedBand(patch, (layerId) => ids.get(layerId) ?? layerId, newId, ids),
  };
}
