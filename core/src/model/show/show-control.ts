import * as z from 'zod';
import { idSchema } from '../identity.js';
import { isLeantOn, type ControlMessage } from '../patch/control-message.js';
import { placeInWords, placeSchema } from '../rig/place.js';
import { deviceAtPlace, type Device } from '../rig/rig.js';
import { PRESS_NAMES, pressSchema } from './press.js';
import { showMessageSchema, type ShowMessage } from './show-message.js';

/** Layers of a patch that can be trimmed by a control, from the first. */
export const MOST_TRIMMED = 16;

const touched = { place: placeSchema, message: showMessageSchema };

/** A pad, key, pedal, knob or message of a device, tied to something of the show. */
export const showControlSchema = z.discriminatedUnion('action', [
  z.strictObject({ action: pressSchema, ...touched }),
  /** Goes to a cue of a song, or to its beginning. */
  z.strictObject({
    action: z.literal('goTo'),
    ...touched,
    songId: idSchema,
    cueId: idSchema.nullable(),
  }),
  /** Goes to the song whose number the message bears; a message counts from 0 and numbers from 1. */
  z.strictObject({ action: z.literal('chooseSong'), ...touched }),
  /** Trims a layer of whichever patch is played, by its place in it from 0. */
  z.strictObject({
    action: z.literal('trim'),
    ...touched,
    layer: z
      .number()
      .int()
      .min(0)
      .max(MOST_TRIMMED - 1),
  }),
]);
export type ShowControl = z.infer<typeof showControlSchema>;
export type ShowAction = ShowControl['action'];

/** What each action is called where it is chosen. */
export const ACTION_NAMES: Readonly<Record<ShowAction, string>> = {
  ...PRESS_NAMES,
  goTo: 'Go to',
  chooseSong: 'Song by its number',
  trim: 'Trim layer',
};

/** Messages that an action can be tied to: a trim is moved, a number is sent, everything else is pressed. */
export function canTie(action: ShowAction, { kind }: ShowMessage): boolean {
  if (action === 'trim') return kind === 'controller' || kind === 'knob' || kind === 'pedal';
  if (isLeantOn({ kind })) return false;
  const bearsNumber = kind === 'programs' || kind === 'songSelect';
  return (action === 'chooseSong') === bearsNumber;
}

/** True for what can be tied to a setting of a patch too: it bears no number. */
export function isControlMessage(message: ShowMessage): message is ControlMessage {
  return !['program', 'programs', 'songSelect'].includes(message.kind);
}

/** Two messages of one device that are the same movement, or of which one holds the other. */
export function sameMessage(a: ShowMessage, b: ShowMessage): boolean {
  return keyOfMessage(a) === keyOfMessage(b);
}

function keyOfMessage(message: ShowMessage): string {
  switch (message.kind) {
    case 'note':
      return `note ${message.note}`;
    case 'controller':
      return `controller ${message.controller}`;
    case 'program':
      return `program ${message.program}`;
    case 'pad':
      return `pad ${message.pad}`;
    case 'knob':
      return `knob ${message.knob}`;
    default:
      return message.kind;
  }
}

/** Where a control is, in a player's words: `pad 4`, `right pedal`, `knob 1`, `Lower keys program 3`. */
export function controlInWords(
  { place, message }: Pick<ShowControl, 'place' | 'message'>,
  devices: readonly Device[],
): string {
  // Of the first box the number says enough.
  const box = place === 'pads1' || place === 'knobs1' ? '' : ` of ${placeInWords(place)}`;
  switch (message.kind) {
    case 'pad':
      return `pad ${message.pad + 1}${box}`;
    case 'knob':
      return `knob ${message.knob + 1}${box}`;
    case 'pedal':
      return deviceAtPlace(devices, place)?.name.toLowerCase() ?? placeInWords(place);
  }
  const name = deviceAtPlace(devices, place)?.name ?? placeInWords(place);
  switch (message.kind) {
    case 'bend':
      return `${name} pitch wheel`;
    case 'pressure':
      return `${name} aftertouch`;
    case 'keyPressure':
      return `${name} key aftertouch`;
    case 'program':
      return `${name} program ${message.program + 1}`;
    case 'programs':
      return `program changes of ${name}`;
    case 'songSelect':
      return `song select of ${name}`;
    case 'controller':
      return `${name} CC ${message.controller}`;
    case 'note':
      return `${name} note ${message.note}`;
  }
}
