import * as z from 'zod';
import { LOUDEST_DB, SILENCE_DB } from '../../units/decibels.js';
import { idSchema } from '../identity.js';
import { placeInWords, placeSchema } from '../rig/place.js';
import { LEAST_TRIM_DB, MOST_TRIM_DB } from '../show/trim-limits.js';
import { PRESS_NAMES, pressSchema } from '../show/press.js';
import type { Layer } from './layer.js';
import type { Timbre } from './timbre.js';
import { TREATMENT_NAMES, treatmentInWords, type Treatment } from './treatment.js';

/** Settings of a layer that a control can move. */
const movedOfLayer = ['level', 'pan', 'reverb', 'delay', 'chorus'] as const;
/** Switches of a layer that a control can turn over. */
const switchedOfLayer = ['lift', 'mute', 'solo'] as const;
export const layerParameterSchema = z.enum([...movedOfLayer, ...switchedOfLayer]);
export type LayerParameter = z.infer<typeof layerParameterSchema>;
export type LayerSwitch = (typeof switchedOfLayer)[number];
/** Settings of a sound that a control can move. */
export const soundParameterSchema = z.enum(['brightness', 'attack', 'release', 'vibrato']);

/** What can be moved of a layer by its letter, in whichever patch is played. */
export const letterParameterSchema = z.enum([
  ...layerParameterSchema.options,
  ...soundParameterSchema.options,
  'trim',
]);
export type LetterParameter = z.infer<typeof letterParameterSchema>;

const nth = (most: number) =>
  z
    .number()
    .int()
    .min(0)
    .max(most - 1);

/** Layers, treatments and choosers that can be named by their place in a patch. */
export const MOST_LETTERS = 16;
export const MOST_NTH = 8;

/** What a control moves. */
export const controlTargetSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('layer'), layerId: idSchema, parameter: layerParameterSchema }),
  z.strictObject({
    kind: z.literal('sound'),
    patchSoundId: idSchema,
    parameter: soundParameterSchema,
  }),
  /** Switches a treatment on and off. */
  z.strictObject({ kind: z.literal('treatment'), treatmentId: idSchema }),
  /** A layer by its letter (0 = A), in whichever patch is played. */
  z.strictObject({
    kind: z.literal('letter'),
    layer: nth(MOST_LETTERS),
    parameter: letterParameterSchema,
  }),
  /** A treatment by its place in whichever patch is played. */
  z.strictObject({ kind: z.literal('nthTreatment'), treatment: nth(MOST_NTH) }),
  /** A chooser by its place in whichever patch is played: a choice (from 0), the next, or the one at whose sector it stands. */
  z.strictObject({
    kind: z.literal('choose'),
    chooser: nth(MOST_NTH),
    picks: z.union([nth(16), z.enum(['next', 'position'])]),
  }),
  /** Octaves by which what is played at a place is heard higher or lower. */
  z.strictObject({ kind: z.literal('octave'), place: placeSchema }),
  /** Something that is done to the show, by a press. */
  z.strictObject({ kind: z.literal('show'), action: pressSchema }),
  z.strictObject({
    kind: z.literal('goTo'),
    songId: idSchema,
    cueId: idSchema.nullable(),
  }),
]);
export type ControlTarget = z.infer<typeof controlTargetSchema>;

/** A target that speaks of no patch’s own things, and so can be moved wherever one plays. */
export type FreeTarget = Exclude<ControlTarget, { kind: 'layer' | 'sound' | 'treatment' }>;

/** True for a target that means something in every patch. */
export function isFree(target: ControlTarget): target is FreeTarget {
  return !['layer', 'sound', 'treatment'].includes(target.kind);
}

/** The layer, sound or treatment of a patch that a target is about; null for one that is about none. */
export function idOfTarget(target: ControlTarget): string | null {
  if (target.kind === 'layer') return target.layerId;
  if (target.kind === 'sound') return target.patchSoundId;
  return target.kind === 'treatment' ? target.treatmentId : null;
}

/** True for targets that are on or off. */
export function isSwitch(target: ControlTarget): boolean {
  if (target.kind === 'layer' || target.kind === 'letter')
    return (switchedOfLayer as readonly string[]).includes(target.parameter);
  return target.kind === 'treatment' || target.kind === 'nthTreatment';
}

/** True for targets that are pressed: something is done, and nothing stands anywhere. */
export function isPress(target: ControlTarget): boolean {
  return (
    target.kind === 'show' ||
    target.kind === 'goTo' ||
    (target.kind === 'choose' && target.picks !== 'position')
  );
}

/** True for targets that go from one value to another: all but switches, presses and what a chooser picks. */
export function travels(target: ControlTarget): boolean {
  return !isSwitch(target) && !isPress(target) && target.kind !== 'choose';
}

/** Least and most of a target, in its own unit. */
export function limitsOf(target: ControlTarget): { min: number; max: number } {
  if (isSwitch(target) || isPress(target)) return { min: 0, max: 1 };
  if (target.kind === 'octave') return { min: -4, max: 4 };
  if (target.kind === 'choose') return { min: 0, max: 127 };
  switch (parameterOf(target)) {
    case 'pan':
    case 'brightness':
    case 'attack':
    case 'release':
      return { min: -1, max: 1 };
    case 'vibrato':
      return { min: 0, max: 1 };
    case 'trim':
      return { min: LEAST_TRIM_DB, max: MOST_TRIM_DB };
    default:
      return { min: SILENCE_DB, max: LOUDEST_DB };
  }
}

/** What of a layer or its sound a target is about; null for one that is about none. */
export function parameterOf(target: ControlTarget): LetterParameter | null {
  return 'parameter' in target ? target.parameter : null;
}

/** Where a newly tied control moves its target from and to. */
export function usualTravel(target: ControlTarget): { from: number; to: number } {
  const { min, max } = limitsOf(target);
  if (target.kind === 'octave') return { from: 0, to: 1 };
  const parameter = parameterOf(target);
  if (parameter === 'level') return { from: -24, to: 0 };
  const isSend = parameter === 'reverb' || parameter === 'delay' || parameter === 'chorus';
  return isSend ? { from: min, to: 0 } : { from: min, to: max };
}

/** What words are made of: the things of a patch, and names of songs and cues. */
export interface TargetWords {
  layers: readonly Layer[];
  treatments: readonly Treatment[];
  /** Where a control goes to, in words. */
  called?: (songId: string, cueId: string | null) => string;
}

/** A target in words: `level of Pad`, `brightness of Tine`, `up, 1/16`. */
export function targetInWords(
  target: ControlTarget,
  { layers, treatments, called = () => 'a cue' }: TargetWords,
): string {
  switch (target.kind) {
    case 'treatment':
      return treatmentWords(treatments.find(({ id }) => id === target.treatmentId));
    case 'sound': {
      const players = layers.filter((layer) => layer.soundId === target.patchSoundId);
      return `${target.parameter} of ${players.map(({ name }) => name).join(' and ')}`;
    }
    case 'layer':
      return ofLayer(
        target.parameter,
        layers.find(({ id }) => id === target.layerId)?.name ?? 'a layer that is gone',
      );
    case 'letter':
      return ofLayer(target.parameter, `layer ${String.fromCharCode(65 + target.layer)}`);
    case 'nthTreatment':
      return `treatment ${target.treatment + 1} on and off`;
    case 'choose': {
      const own = `chooser ${target.chooser + 1}`;
      if (target.picks === 'next') return `${own}: the next`;
      return target.picks === 'position' ? `${own}, by sector` : `${own}: ${target.picks + 1}`;
    }
    case 'octave':
      return `octave of ${placeInWords(target.place)}`;
    case 'show':
      return PRESS_NAMES[target.action].toLowerCase();
    case 'goTo':
      return `go to ${called(target.songId, target.cueId)}`;
  }
}

function treatmentWords(treatment: Treatment | undefined): string {
  if (!treatment) return 'nothing';
  return `${TREATMENT_NAMES[treatment.kind]} (${treatmentInWords(treatment)}) on and off`;
}

function ofLayer(parameter: LetterParameter, name: string): string {
  if ((switchedOfLayer as readonly string[]).includes(parameter))
    return `${parameter} of ${name} on and off`;
  const send = ['reverb', 'delay', 'chorus'].includes(parameter);
  return `${parameter}${send ? ' send' : ''} of ${name}`;
}

/** Where the patch itself has what a control moves; null for a switch, and for what is not there. */
export function settingOf(
  target: ControlTarget,
  {
    layers,
    sounds,
  }: { layers: readonly Layer[]; sounds: readonly { id: string; timbre: Timbre }[] },
): number | null {
  if (target.kind === 'sound')
    return sounds.find(({ id }) => id === target.patchSoundId)?.timbre[target.parameter] ?? null;
  if (target.kind !== 'layer' || isSwitch(target)) return null;
  const layer = layers.find(({ id }) => id === target.layerId);
  if (!layer) return null;
  const parameter = target.parameter as (typeof movedOfLayer)[number];
  return parameter === 'level' || parameter === 'pan' ? layer[parameter] : layer.sends[parameter];
}

/** A target as one text: two targets are the same setting when theirs is the same. */
export function keyOfTarget(target: ControlTarget): string {
  switch (target.kind) {
    case 'layer':
      return `layer ${target.layerId} ${target.parameter}`;
    case 'sound':
      return `sound ${target.patchSoundId} ${target.parameter}`;
    case 'treatment':
      return `treatment ${target.treatmentId}`;
    case 'letter':
      return `letter ${target.layer} ${target.parameter}`;
    case 'nthTreatment':
      return `nthTreatment ${target.treatment}`;
    case 'choose':
      return `choose ${target.chooser} ${target.picks}`;
    case 'octave':
      return `octave ${target.place}`;
    case 'show':
      return `show ${target.action}`;
    case 'goTo':
      return `goTo ${target.songId} ${target.cueId}`;
  }
}

/** Two targets are the same setting. */
export function sameTarget(a: ControlTarget, b: ControlTarget): boolean {
  return keyOfTarget(a) === keyOfTarget(b);
}
