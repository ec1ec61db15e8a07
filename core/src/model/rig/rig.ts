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
import { freeTieSchema, MOST_RIG_TIES } from '../patch/tie.js';
import {
  MOST_PRESETS,
  settingsCopySchema,
  settingsPresetSchema,
  type SettingsCopy,
} from './device-settings.js';
import { partsOfPlace, placeSchema, type Place, type PlaceKind } from './place.js';
import { MOST_RECIPES, recipeSchema } from './recipe.js';

/** What stands on a stage: devices point to it, and shows. */
export const rigSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  /** What each of the sixteen channels is called; empty for none. */
  labels: z.array(textSchema(24)).length(16),
  /** Settings of its devices that are kept together. */
  presets: z.array(settingsPresetSchema).max(MOST_PRESETS),
  /** Controls that move something whatever is played. */
  ties: z.array(freeTieSchema).max(MOST_RIG_TIES).default([]),
  /** How its devices are set where they take no messages. */
  recipes: z.array(recipeSchema).max(MOST_RECIPES).default([]),
});
export type Rig = z.infer<typeof rigSchema>;

/** The most devices a rig can hold, so that routing tables have a fixed size. */
export const MOST_DEVICES = 32;

/** A rig without labels. */
export function newRig(id: string, name: string): Rig {
  return {
    id,
    name,
    labels: Array.from({ length: 16 }, () => ''),
    presets: [],
    ties: [],
    recipes: [],
  };
}

/** Where a device lies on the plan of the stage, cm from its left and from the audience. */
export const planPointSchema = z.strictObject({
  x: z.number().min(0).max(1200),
  y: z.number().min(0).max(1200),
});
export type PlanPoint = z.infer<typeof planPointSchema>;

const device = {
  id: idSchema,
  rigId: idSchema,
  position: z.number().int().min(0),
  name: nameSchema,
  /** Where in the rig it stands: one device to a place. */
  place: placeSchema,
  /** Places of other rigs that it stands in for here. */
  alsoAt: z.array(placeSchema).max(16),
  /** The MIDI port it is found on: a stand-in's id, or the name of a Web MIDI port. */
  port: textSchema(120).min(1),
  /** Null where nobody has moved it yet. */
  at: planPointSchema.nullable(),
};

const sender = {
  ...device,
  channel: channelSchema,
  /** The channel on which it is heard, whatever it sends on; null for the one that it sends on. */
  heardAs: channelSchema.nullable(),
  /** What it keeps in a memory of its own. */
  settings: settingsCopySchema,
};

/** A device of whose memory nothing is known, and nothing wanted. */
export const NOTHING_KNOWN: SettingsCopy = { known: null, wanted: {} };

/** A keyboard: its keys, the channel it sends on, its own octave shift and touch, which come before any layer. */
export const keyboardSchema = z.strictObject({
  kind: z.literal('keyboard'),
  ...sender,
  lowestKey: sevenBitSchema,
  highestKey: sevenBitSchema,
  /** Octaves added to every key before the layers judge it. */
  octaveShift: z.number().int().min(-4).max(4),
  touch: touchSchema,
});

/** Pads, knobs, faders and buttons. Pads send notes, the others controllers. */
export const controlBoxSchema = z.strictObject({
  kind: z.literal('controlBox'),
  ...sender,
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

/** What a device is. */
export type DeviceKind = 'keyboard' | 'controlBox' | 'pedal' | 'module';
/** Kinds of places at which a kind of device can stand. */
export const PLACES_OF: Readonly<Record<DeviceKind, readonly PlaceKind[]>> = {
  keyboard: ['keys', 'pedalboard'],
  controlBox: ['pads', 'knobs'],
  pedal: ['pedal'],
  module: ['module'],
};

export const deviceSchema = z
  .discriminatedUnion('kind', [keyboardSchema, controlBoxSchema, pedalSchema, moduleSchema])
  .refine(({ kind, place }) => PLACES_OF[kind].includes(partsOfPlace(place).kind), {
    path: ['place'],
    message: 'no device of this kind can stand at that place',
  });

export type Keyboard = z.infer<typeof keyboardSchema>;
export type ControlBox = z.infer<typeof controlBoxSchema>;
export type Pedal = z.infer<typeof pedalSchema>;
export type SoundModule = z.infer<typeof moduleSchema>;
export type Device = z.infer<typeof deviceSchema>;

/** The device at a place, else the one that stands in for it; undefined where there is none. */
export function deviceAtPlace<D extends Device>(
  devices: readonly D[],
  place: Place | null,
): D | undefined {
  if (place === null) return undefined;
  return (
    devices.find((device) => device.place === place) ??
    devices.find(({ alsoAt }) => alsoAt.includes(place))
  );
}

/** The channel on which a keyboard or box is heard. */
export function heardChannel({ channel, heardAs }: Keyboard | ControlBox): number {
  return heardAs ?? channel;
}

/** True for keyboards, so that lists of devices can be narrowed. */
export function isKeyboard(candidate: Device): candidate is Keyboard {
  return candidate.kind === 'keyboard';
}
