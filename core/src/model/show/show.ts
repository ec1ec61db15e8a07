import * as z from 'zod';
import { controlMessageSchema } from '../patch/control.js';
import { idSchema, nameSchema, refuseTwins, textSchema } from '../identity.js';
import type { Device } from '../rig/rig.js';

/** One place in the running order: a song, or time between songs. */
export const orderEntrySchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('song'), id: idSchema, songId: idSchema }),
  z.strictObject({
    kind: z.enum(['talk', 'break']),
    id: idSchema,
    name: nameSchema,
    lengthSeconds: z.number().int().min(0).max(7200),
  }),
]);
export type OrderEntry = z.infer<typeof orderEntrySchema>;

/** What a pad, pedal or button can do to the show. */
export const showActionSchema = z.enum(['nextCue', 'previousCue', 'allNotesOff']);
export type ShowAction = z.infer<typeof showActionSchema>;

/** A pad (note) or a controller of a device, tied to an action of the show. */
export const showControlSchema = z.strictObject({
  action: showActionSchema,
  deviceId: idSchema,
  message: controlMessageSchema,
});
export type ShowControl = z.infer<typeof showControlSchema>;

/** A show: when and where, how long, in which order, and how it is run. */
export const showSchema = z
  .strictObject({
    id: idSchema,
    name: nameSchema,
    /** ISO date, yyyy-mm-dd. */
    date: z.iso.date(),
    place: textSchema(120),
    slotSeconds: z.number().int().min(0).max(86_400),
    defaultFadeSeconds: z.number().min(0).max(60),
    /** What happens to held notes when a cue brings another patch. */
    heldNotes: z.enum(['finish', 'cut']),
    /** Octave number that middle C bears on screen. */
    middleC: z.union([z.literal(3), z.literal(4), z.literal(5)]),
    order: z.array(orderEntrySchema).max(400),
    controls: z.array(showControlSchema).max(64),
  })
  .superRefine(({ order }, context) => refuseTwins(order, 'order', 'entries', context));
export type Show = z.infer<typeof showSchema>;

/** Where a control is, in a player's words: `pad 4`, `Right pedal`, `Knob box CC 20`. */
export function controlInWords(
  control: Pick<ShowControl, 'deviceId' | 'message'>,
  devices: readonly Device[],
): string {
  const device = devices.find((d) => d.id === control.deviceId);
  if (!device) return 'a device that is not in the rig';
  const { message } = control;
  if (device.kind === 'pedal') return device.name.toLowerCase();
  if (message.kind === 'controller') return `${device.name} CC ${message.controller}`;
  const pad = device.kind === 'controlBox' ? device.padNotes.indexOf(message.note) : -1;
  return pad >= 0 ? `pad ${pad + 1}` : `${device.name} note ${message.note}`;
}
