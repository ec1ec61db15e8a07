import * as z from 'zod';
import { LOUDEST_DB, SILENCE_DB } from '../../units/decibels.js';
import { idSchema } from '../identity.js';
import { placeSchema } from '../rig/place.js';
import { LEAST_TRIM_DB, MOST_TRIM_DB } from '../show/trim-limits.js';
import { pressSchema } from '../show/press.js';
import { BAND_SETTINGS, bandSettingSchema } from './band-settings.js';
import type { Layer } from './layer.js';
import type { Timbre } from './timbre.js';

/** Settings of a layer that a control can move. */
const movedOfLayer = ['level', 'pan', 'reverb', 'delay', 'chorus'] as const;
export type LayerSetting = (typeof movedOfLayer)[number];
/** Switches of a layer that a control can turn over. */
const switchedOfLayer = ['lift', 'mute', 'solo'] as const;
export const layerParameterSchema = z.enum([...movedOfLayer, ...switchedOfLayer]);
export type LayerParameter = z.infer<typeof layerParameterSchema>;
export type LayerSwitch = (typeof switchedOfLayer)[number];
/** Settings of a sound that a control can move. */
export const soundParameterSchema = z.enum(['brightness', 'attack', 'release', 'vibrato']);
type SoundParameter = z.infer<typeof soundParameterSchema>;

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
  /** Moves a setting of whatever an accompanist plays. */
  z.strictObject({
    kind: z.literal('accompanist'),
    accompanistId: idSchema,
    setting: bandSettingSchema,
  }),
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
export type FreeTarget = Exclude<
  ControlTarget,
  { kind: 'layer' | 'sound' | 'treatment' | 'accompanist' }
>;

/** Least and most of something, or where a control moves it from and to, in its own unit. */
interface Limits {
  min: number;
  max: number;
}
interface Way {
  from: number;
  to: number;
}

/** What of a layer or its sound can be moved. */
interface Parameter {
  /** Whose it is; what is only for the night belongs to neither. */
  of: 'layer' | 'sound' | 'night';
  isSwitch: boolean;
  limits: Limits;
  /** Where a newly tied control moves it from and to. */
  usual: Way;
}

const ON_OFF: Limits = { min: 0, max: 1 };
const usualOf = ({ min, max }: Limits): Way => ({ from: min, to: max });
const moved = (of: Parameter['of'], limits: Limits, usual = usualOf(limits)): Parameter => ({
  ...{ of, isSwitch: false, limits, usual },
});
const SWITCHED: Parameter = {
  ...{ of: 'layer', isSwitch: true, limits: ON_OFF, usual: usualOf(ON_OFF) },
};
const LEVELS: Limits = { min: SILENCE_DB, max: LOUDEST_DB };
const BOTH_WAYS: Limits = { min: -1, max: 1 };
const SEND = moved('layer', LEVELS, { from: SILENCE_DB, to: 0 });

/** Everything of a layer or its sound that can be moved. */
export const PARAMETERS: Record<LetterParameter, Parameter> = {
  level: moved('layer', LEVELS, { from: -24, to: 0 }),
  pan: moved('layer', BOTH_WAYS),
  ...{ reverb: SEND, delay: SEND, chorus: SEND },
  ...{ lift: SWITCHED, mute: SWITCHED, solo: SWITCHED },
  brightness: moved('sound', BOTH_WAYS),
  attack: moved('sound', BOTH_WAYS),
  release: moved('sound', BOTH_WAYS),
  vibrato: moved('sound', { min: 0, max: 1 }),
  trim: moved('night', { min: LEAST_TRIM_DB, max: MOST_TRIM_DB }),
};

/** A patch, as far as targets are found in it. */
export interface TargetPatch {
  layers: readonly Pick<Layer, 'id' | 'soundId'>[];
  treatments: readonly { id: string }[];
  choosers: readonly unknown[];
}

/** How a target is moved: it goes from one value to another, is on or off, is pressed, or is picked by where a control stands. */
type Manner = 'travels' | 'switches' | 'presses' | 'picks';

/** What a kind of target is like. */
interface TargetKind<T> {
  /** Whether it means something in every patch. */
  isFree: boolean;
  /** Whether it stands somewhere, so that two controls can pull at it; many pads may ask for the next cue. */
  stands: boolean;
  /** Whether its values are whole. */
  isWhole: boolean;
  manner(target: T): Manner;
  limits(target: T): Limits;
  usual(target: T): Way;
  /** What tells it from others of its kind. */
  own(target: T): string;
  /** What it is in a patch: letters and places become the things that stand there; null for what is not there. */
  found(target: T, patch: TargetPatch | null): ControlTarget | null;
}

const pressed = {
  ...{ isFree: true, stands: false, isWhole: false },
  manner: (): Manner => 'presses',
  limits: () => ON_OFF,
  usual: () => usualOf(ON_OFF),
};
const ofTreatment = { ...pressed, stands: true, manner: (): Manner => 'switches' };
const ofParameter = {
  ...{ isFree: false, stands: true, isWhole: false },
  manner: ({ parameter }: { parameter: LetterParameter }): Manner =>
    PARAMETERS[parameter].isSwitch ? 'switches' : 'travels',
  limits: ({ parameter }: { parameter: LetterParameter }) => PARAMETERS[parameter].limits,
  usual: ({ parameter }: { parameter: LetterParameter }) => PARAMETERS[parameter].usual,
};
const itself = (target: ControlTarget): ControlTarget => target;

const KINDS: {
  [K in ControlTarget['kind']]: TargetKind<Extract<ControlTarget, { kind: K }>>;
} = {
  layer: {
    ...ofParameter,
    own: ({ layerId, parameter }) => `${layerId} ${parameter}`,
    found: itself,
  },
  sound: {
    ...ofParameter,
    own: ({ patchSoundId, parameter }) => `${patchSoundId} ${parameter}`,
    found: itself,
  },
  treatment: {
    ...ofTreatment,
    isFree: false,
    own: ({ treatmentId }) => treatmentId,
    found: itself,
  },
  accompanist: {
    ...{ isFree: false, stands: true, isWhole: false },
    manner: ({ setting }) => (BAND_SETTINGS[setting].isSwitch ? 'switches' : 'travels'),
    limits: ({ setting }) => BAND_SETTINGS[setting],
    usual: ({ setting }) => BAND_SETTINGS[setting],
    own: ({ accompanistId, setting }) => `${accompanistId} ${setting}`,
    found: itself,
  },
  letter: {
    ...ofParameter,
    isFree: true,
    own: ({ layer, parameter }) => `${layer} ${parameter}`,
    found: (target, patch) => {
      const layer = patch?.layers.at(target.layer);
      return layer ? ofThatLayer(target, layer) : null;
    },
  },
  nthTreatment: {
    ...ofTreatment,
    stands: false,
    own: ({ treatment }) => String(treatment),
    found: ({ treatment }, patch) => {
      const there = patch?.treatments.at(treatment);
      return there ? { kind: 'treatment', treatmentId: there.id } : null;
    },
  },
  choose: {
    ...pressed,
    manner: ({ picks }) => (picks === 'position' ? 'picks' : 'presses'),
    limits: ({ picks }) => (picks === 'position' ? { min: 0, max: 127 } : ON_OFF),
    usual: ({ picks }) => usualOf(picks === 'position' ? { min: 0, max: 127 } : ON_OFF),
    own: ({ chooser, picks }) => `${chooser} ${picks}`,
    found: (target, patch) => (patch?.choosers.at(target.chooser) ? target : null),
  },
  octave: {
    ...{ isFree: true, stands: true, isWhole: true },
    manner: () => 'travels',
    limits: () => ({ min: -4, max: 4 }),
    usual: () => ({ from: 0, to: 1 }),
    own: ({ place }) => place,
    found: itself,
  },
  show: {
    ...pressed,
    own: ({ action }) => action,
    found: itself,
  },
  goTo: {
    ...pressed,
    own: ({ songId, cueId }) => `${songId} ${cueId}`,
    found: itself,
  },
};

/** The row of a target’s own kind. */
function kindOf<T extends ControlTarget>(target: T): TargetKind<T> {
  return KINDS[target.kind] as unknown as TargetKind<T>;
}

/** True for a target that means something in every patch. */
export function isFree(target: ControlTarget): target is FreeTarget {
  return kindOf(target).isFree;
}

/** True for what stands somewhere, so that two controls can pull at it. */
export function stands(target: ControlTarget): boolean {
  return kindOf(target).stands;
}

/** True for what goes in whole numbers. */
export function isWhole(target: ControlTarget): boolean {
  return kindOf(target).isWhole;
}

/** The layer, sound, treatment or accompanist of a patch that a target is about; null for one that is about none. */
export function idOfTarget(target: ControlTarget): string | null {
  if (target.kind === 'layer') return target.layerId;
  if (target.kind === 'sound') return target.patchSoundId;
  if (target.kind === 'accompanist') return target.accompanistId;
  return target.kind === 'treatment' ? target.treatmentId : null;
}

/** True for targets that are on or off. */
export function isSwitch(target: ControlTarget): boolean {
  return kindOf(target).manner(target) === 'switches';
}

/** True for targets that are pressed: something is done, and nothing stands anywhere. */
export function isPress(target: ControlTarget): boolean {
  return kindOf(target).manner(target) === 'presses';
}

/** True for targets that go from one value to another: all but switches, presses and what a chooser picks. */
export function travels(target: ControlTarget): boolean {
  return kindOf(target).manner(target) === 'travels';
}

/** Least and most of a target, in its own unit. */
export function limitsOf(target: ControlTarget): Limits {
  return kindOf(target).limits(target);
}

/** What of a layer or its sound a target is about; null for one that is about none. */
export function parameterOf(target: ControlTarget): LetterParameter | null {
  return 'parameter' in target ? target.parameter : null;
}

/** Where a newly tied control moves its target from and to. */
export function usualTravel(target: ControlTarget): Way {
  return kindOf(target).usual(target);
}

/** A target as it is found in a patch: letters and places become the things that stand there; null for what is not there. */
export function targetIn(target: ControlTarget, patch: TargetPatch | null): ControlTarget | null {
  return kindOf(target).found(target, patch);
}

/** A target as one text: two targets are the same setting when theirs is the same. */
export function keyOfTarget(target: ControlTarget): string {
  return `${target.kind} ${kindOf(target).own(target)}`;
}

/** Two targets are the same setting. */
export function sameTarget(a: ControlTarget, b: ControlTarget): boolean {
  return keyOfTarget(a) === keyOfTarget(b);
}

/** A layer that a letter has named, or its sound, as the target that is meant. */
function ofThatLayer(
  target: Extract<ControlTarget, { kind: 'letter' }>,
  { id, soundId }: Pick<Layer, 'id' | 'soundId'>,
): ControlTarget {
  const { of } = PARAMETERS[target.parameter];
  if (of === 'night') return target;
  const parameter = target.parameter as LayerParameter & SoundParameter;
  return of === 'sound'
    ? { kind: 'sound', patchSoundId: soundId, parameter }
    : { kind: 'layer', layerId: id, parameter };
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
  const parameter = target.parameter as LayerSetting;
  return parameter === 'level' || parameter === 'pan' ? layer[parameter] : layer.sends[parameter];
}
