import * as z from 'zod';
import { LOUDEST_DB, SILENCE_DB } from '../../units/decibels.js';
import type { Layer } from './layer.js';
import type { Timbre } from './timbre.js';
import { TREATMENT_NAMES, treatmentInWords, type Treatment } from './treatment.js';
import { controllerNumberSchema, idSchema, sevenBitSchema } from '../identity.js';
import { placeSchema } from '../rig/place.js';

/** Which of the pads or knobs of a box, from 0. */
const partSchema = z.number().int().min(0).max(63);

/**
 * What a player moves at a place: a key, wheel or the like by what it sends, or a pad, a knob or the pedal itself, whatever
 * that sends at the rig that is there.
 */
export const controlMessageSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('note'), note: sevenBitSchema }),
  z.strictObject({ kind: z.literal('controller'), controller: controllerNumberSchema }),
  /** A pad of a box, from 0. */
  z.strictObject({ kind: z.literal('pad'), pad: partSchema }),
  /** A knob, fader or button of a box, from 0. */
  z.strictObject({ kind: z.literal('knob'), knob: partSchema }),
  z.strictObject({ kind: z.literal('pedal') }),
]);
export type ControlMessage = z.infer<typeof controlMessageSchema>;

/** Settings of a layer that a control can move. `lift` is a switch. */
export const layerParameterSchema = z.enum(['level', 'pan', 'reverb', 'delay', 'chorus', 'lift']);
export type LayerParameter = z.infer<typeof layerParameterSchema>;
/** Settings of a sound that a control can move. */
export const soundParameterSchema = z.enum(['brightness', 'attack', 'release', 'vibrato']);

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
]);
export type ControlTarget = z.infer<typeof controlTargetSchema>;

/**
 * A control tied to a setting of the patch. A controller moves it from `from` (at 0) to `to` (at 127), in the setting’s own
 * unit; switches are on from 64, and each strike of a pad or key turns them over.
 */
export const patchControlSchema = z.strictObject({
  id: idSchema,
  place: placeSchema,
  message: controlMessageSchema,
  target: controlTargetSchema,
  from: z.number().min(-127).max(127),
  to: z.number().min(-127).max(127),
});
export type PatchControl = z.infer<typeof patchControlSchema>;
/** The most controls a patch can hold. */
export const MOST_CONTROLS = 64;

/** True for what is struck instead of moved: a key or a pad. */
export function isStruck({ kind }: { kind: string }): boolean {
  return kind === 'note' || kind === 'pad';
}

/** True for targets that are on or off. */
export function isSwitch(target: ControlTarget): boolean {
  return target.kind === 'treatment' || (target.kind === 'layer' && target.parameter === 'lift');
}

/** Least and most of a target, in its own unit, and where a new control moves it. */
export function limitsOf(target: ControlTarget): { min: number; max: number } {
  if (isSwitch(target)) return { min: 0, max: 1 };
  if (target.kind === 'sound') return { min: target.parameter === 'vibrato' ? 0 : -1, max: 1 };
  if (target.kind === 'layer' && target.parameter === 'pan') return { min: -1, max: 1 };
  return { min: SILENCE_DB, max: LOUDEST_DB };
}

/** Where a newly tied control moves its target from and to. */
export function usualTravel(target: ControlTarget): { from: number; to: number } {
  const { min, max } = limitsOf(target);
  if (isSwitch(target) || target.kind === 'sound') return { from: min, to: max };
  if (target.kind === 'layer' && target.parameter === 'pan') return { from: min, to: max };
  return { from: target.kind === 'layer' && target.parameter === 'level' ? -24 : min, to: 0 };
}

/** A target in words: `level of Pad`, `brightness of Tine`, `up, 1/16`. */
export function targetInWords(
  target: ControlTarget,
  { layers, treatments }: { layers: readonly Layer[]; treatments: readonly Treatment[] },
): string {
  if (target.kind === 'treatment') {
    const treatment = treatments.find(({ id }) => id === target.treatmentId);
    return treatment
      ? `${TREATMENT_NAMES[treatment.kind]} (${treatmentInWords(treatment)}) on and off`
      : 'nothing';
  }
  if (target.kind === 'sound') {
    const players = layers.filter((layer) => layer.soundId === target.patchSoundId);
    return `${target.parameter} of ${players.map(({ name }) => name).join(' and ')}`;
  }
  const name = layers.find(({ id }) => id === target.layerId)?.name ?? '';
  if (target.parameter === 'lift') return `lift of ${name} on and off`;
  const send = ['reverb', 'delay', 'chorus'].includes(target.parameter);
  return `${target.parameter}${send ? ' send' : ''} of ${name}`;
}

/** The value that a controller position (0–127) gives. */
export function controlledValue({ from, to }: PatchControl, position: number): number {
  return from + ((to - from) * position) / 127;
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
  const layer =
    target.kind === 'layer' ? layers.find(({ id }) => id === target.layerId) : undefined;
  if (!layer || target.kind !== 'layer' || target.parameter === 'lift') return null;
  const { parameter } = target;
  return parameter === 'level' || parameter === 'pan' ? layer[parameter] : layer.sends[parameter];
}

/** Two targets are the same setting. */
export function sameTarget(a: ControlTarget, b: ControlTarget): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}
