import * as z from 'zod';
import { controllerNumberSchema, sevenBitSchema } from '../identity.js';

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
  /** The pitch wheel. */
  z.strictObject({ kind: z.literal('bend') }),
  /** Channel aftertouch: how hard keys are leant on. */
  z.strictObject({ kind: z.literal('pressure') }),
  /** Key aftertouch, of whichever key is leant on. */
  z.strictObject({ kind: z.literal('keyPressure') }),
]);
export type ControlMessage = z.infer<typeof controlMessageSchema>;

/** True for what is struck instead of moved: a key or a pad. */
export function isStruck({ kind }: { kind: string }): boolean {
  return kind === 'note' || kind === 'pad';
}

/** True for what moves without a place of its own where it would stay: the pitch wheel, and keys that are leant on. */
export function isLeantOn({ kind }: { kind: string }): boolean {
  return kind === 'bend' || kind === 'pressure' || kind === 'keyPressure';
}
