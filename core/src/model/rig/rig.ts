import * as z from 'zod';
import { touchSchema } from '../../touch/touch.js';
import {
  channelSchema,
  controllerNumberSchema,
  idSchema,
  nameSchema,
  sevenBitSchema,
  textSchema,
} from '../identity.js';

/** What stands on a stage: devices point to it, and shows. */
export const rigSchema = z.strictObject({ id: idSchema, name: nameSchema });
export type Rig = z.infer<typeof rigSchema>;

const device = {
  id: idSchema,
  rigId: idSchema,
  position: z.number().int().min(0),
  name: nameSchema,
  /** The MIDI port it is found on: a stand-in's id, or the name of a Web MIDI port. */
  port: textSchema(120).min(1),
};

/** A keyboard: its keys, the channel it sends on, its own octave shift and touch, which come before any layer. */
export const keyboardSchema = z.strictObject({
  kind: z.literal('keyboard'),
  ...device,
  lowestKey: sevenBitSchema,
  highestKey: sevenBitSchema,
  channel: channelSchema,
  /** Octaves added to every key before the layers judge it. */
  octaveShift: z.number().int().min(-4).max(4),
  touch: touchSchema,
});

/** Pads, knobs, faders and buttons. Pads send notes, the others controllers. */
export const controlBoxSchema = z.strictObject({
  kind: z.literal('controlBox'),
  ...device,
  channel: channelSchema,
  padNotes: z.array(sevenBitSchema).max(64),
  knobControllers: z.array(controllerNumberSchema).max(64),
});

/** A pedal, plugged into another device and heard on that device's port. */
export const pedalSchema = z.strictObject({
  kind: z.literal('pedal'),
  ...device,
  channel: channelSchema,
  controller: controllerNumberSchema,
  /** `switch` sends 0 and 127, `sweep` everything between. */
  action: z.enum(['switch', 'sweep']),
});

/** An outside instrument that Pentachord plays over MIDI. */
export const moduleSchema = z.strictObject({
  kind: z.literal('module'),
  ...device,
  channels: z.array(channelSchema).min(1).max(16),
});

export const deviceSchema = z.discriminatedUnion('kind', [
  keyboardSchema,
  controlBoxSchema,
  pedalSchema,
  moduleSchema,
]);

export type Keyboard = z.infer<typeof keyboardSchema>;
export type ControlBox = z.infer<typeof controlBoxSchema>;
export type Pedal = z.infer<typeof pedalSchema>;
export type SoundModule = z.infer<typeof moduleSchema>;
export type Device = z.infer<typeof deviceSchema>;

/** True for keyboards, so that lists of devices can be narrowed. */
export function isKeyboard(candidate: Device): candidate is Keyboard {
  return candidate.kind === 'keyboard';
}
