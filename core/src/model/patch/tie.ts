import * as z from 'zod';
import { CC } from '../../midi/messages.js';
import { idSchema } from '../identity.js';
import { placeSchema } from '../rig/place.js';
import { beginsSchema } from './begins.js';
import { controlMessageSchema, type ControlMessage } from './control-message.js';
import { controlTargetSchema, isFree } from './control-target.js';

/** How much of the way a control has gone at its middle: even, little, much, or gently at both ends. */
export const travelCurveSchema = z.enum(['even', 'late', 'early', 'gentle']);
export type TravelCurve = z.infer<typeof travelCurveSchema>;

/**
 * What a press does: as the control itself is (a knob follows, a strike turns a switch over or sets a value by how hard it
 * was), turns over from the one end to the other, holds while it is down, or goes on by a step.
 */
export const actsSchema = z.enum(['usual', 'turnsOver', 'holds', 'steps']);
export type Acts = z.infer<typeof actsSchema>;

/**
 * What the number that comes means: where the control stands, with a second controller of finer numbers (the first + 32), or
 * how far it was turned, in one of the three ways in which endless knobs say that.
 */
export const readsSchema = z.enum(['position', 'fine', 'twos', 'offset', 'sign']);
export type Reads = z.infer<typeof readsSchema>;

/** How a control moves what it is tied to. */
const mannerSchema = {
  curve: travelCurveSchema.default('even'),
  acts: actsSchema.default('usual'),
  reads: readsSchema.default('position'),
  /** Whether a setting that something else has moved waits until the hand comes by there. */
  pickUp: z.boolean().default(true),
  /** When what it switches is switched. */
  begins: beginsSchema.default('now'),
};
export type Manner = Pick<Tie, keyof typeof mannerSchema>;

/**
 * How a control that was just tied moves its target. Knobs and faders pick up what they move; wheels, pedals and aftertouch are
 * meant to be heard at once.
 */
export function usualManner(message: ControlMessage): Manner {
  const isWheel =
    message.kind === 'controller' &&
    [CC.modulation, CC.breath, CC.foot, CC.expression].includes(message.controller as 1);
  const pickUp = !isWheel && (message.kind === 'controller' || message.kind === 'knob');
  return { curve: 'even', acts: 'usual', reads: 'position', pickUp, begins: 'now' };
}

/**
 * A control tied to a setting. It moves it from `from` (at 0) to `to` (at 127), in the setting’s own unit; switches are on
 * from 64.
 */
export const tieSchema = z.strictObject({
  id: idSchema,
  place: placeSchema,
  message: controlMessageSchema,
  target: controlTargetSchema,
  from: z.number().min(-127).max(127),
  to: z.number().min(-127).max(127),
  ...mannerSchema,
});
export type Tie = z.infer<typeof tieSchema>;
/** The most ties of a patch or a song, and of a rig. */
export const MOST_CONTROLS = 64;
export const MOST_RIG_TIES = 512;

/** A tie of a song or a rig, which holds in whichever patch is played. */
export const freeTieSchema = tieSchema.refine(({ target }) => isFree(target), {
  path: ['target'],
  message: 'what is tied for more than one patch has to be named by its letter',
});
