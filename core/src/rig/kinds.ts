import type { Place, PlaceKind } from '../model/rig/place.js';
import { freePlace, placeInWords } from '../model/rig/place.js';
import { NOTHING_KNOWN, type Device } from '../model/rig/rig.js';
import { EVEN_TOUCH } from '../touch/touch.js';

/** A neutral kind of device, to be adjusted afterwards. */
export interface NeutralKind {
  id: string;
  /** As it is offered: `61 keys`. */
  name: string;
  place: PlaceKind;
  make: (common: Common) => Device;
}

type Common = Pick<
  Device,
  'id' | 'rigId' | 'position' | 'name' | 'place' | 'alsoAt' | 'port' | 'at'
> & { channel: number };

/** Lowest key of a keyboard by how many it has, as they are usually built. */
const LOWEST: Readonly<Record<number, number>> = {
  25: 48,
  37: 48,
  49: 36,
  61: 36,
  73: 28,
  76: 28,
  88: 21,
};
/** Numbers of keys that keyboards come with. */
export const KEY_COUNTS = Object.keys(LOWEST).map(Number);
/** Lowest key of a pedalboard: a low C. */
const LOWEST_PEDAL = 24;

function keys(count: number, lowestKey: number, place: PlaceKind, name: string): NeutralKind {
  return {
    id: `${place}-${count}`,
    name,
    place,
    make: ({ channel, ...common }) => ({
      ...{ kind: 'keyboard', ...common, channel, heardAs: null, settings: NOTHING_KNOWN },
      ...{ lowestKey, highestKey: lowestKey + count - 1, octaveShift: 0, touch: EVEN_TOUCH },
    }),
  };
}

function box(id: string, name: string, place: PlaceKind, pads: number, knobs: number): NeutralKind {
  return {
    id,
    name,
    place,
    make: ({ channel, ...common }) => ({
      ...{ kind: 'controlBox', ...common, channel, heardAs: null, settings: NOTHING_KNOWN },
      padNotes: Array.from({ length: pads }, (_, at) => 36 + at),
      knobControllers: Array.from({ length: knobs }, (_, at) => 20 + at),
    }),
  };
}

function pedal(id: string, name: string, controller: number, action: 'switch' | 'sweep') {
  return {
    ...{ id, name, place: 'pedal' },
    make: (common) => ({ kind: 'pedal', ...common, controller, action }),
  } satisfies NeutralKind;
}

/** What can be put into a rig. */
export const NEUTRAL_KINDS: readonly NeutralKind[] = [
  ...KEY_COUNTS.map((count) => keys(count, LOWEST[count], 'keys', `${count} keys`)),
  keys(13, LOWEST_PEDAL, 'pedalboard', 'Pedalboard, 13 keys'),
  keys(25, LOWEST_PEDAL, 'pedalboard', 'Pedalboard, 25 keys'),
  keys(32, LOWEST_PEDAL, 'pedalboard', 'Pedalboard, 32 keys'),
  box('pads', 'Pad box, 8 pads and 8 knobs', 'pads', 8, 8),
  box('pads-16', 'Pad box, 16 pads', 'pads', 16, 0),
  box('knobs', 'Knob box, 8 knobs', 'knobs', 0, 8),
  pedal('sustain', 'Sustain pedal', 64, 'switch'),
  pedal('expression', 'Expression pedal', 11, 'sweep'),
  pedal('switch', 'Switch pedal', 80, 'switch'),
  {
    ...{ id: 'module', name: 'Sound module', place: 'module' },
    make: ({ channel: _, ...common }) => ({
      ...{ kind: 'module', ...common },
      channels: Array.from({ length: 16 }, (_, at) => at + 1),
    }),
  },
];

/** A port’s name for a device that is simulated. */
export function standInPort(place: Place): string {
  return `stand-in ${placeInWords(place)}`;
}

/**
 * A new device of a neutral kind for a rig: at the first free place, on the lowest channel that nobody sends on, and played by
 * a stand-in until it is given a port. A pedal is plugged into the first keyboard.
 */
export function newDevice(
  kind: NeutralKind,
  id: string,
  rigId: string,
  devices: readonly Device[],
): Device {
  const place = freePlace(
    kind.place,
    devices.map((device) => device.place),
  );
  const keyboard = devices.find((device) => device.kind === 'keyboard');
  const sent = new Set(devices.flatMap((device) => ('channel' in device ? [device.channel] : [])));
  const free = Array.from({ length: 16 }, (_, at) => at + 1).find((channel) => !sent.has(channel));
  const isPedal = kind.place === 'pedal';
  const taken = new Set(devices.map((device) => device.port));
  let port = standInPort(place);
  while (!isPedal && taken.has(port)) port = `${port} too`;
  return kind.make({
    id,
    rigId,
    position: Math.max(-1, ...devices.map((device) => device.position)) + 1,
    name: kind.place === 'pedal' ? kind.name : capital(placeInWords(place)),
    place,
    port: isPedal && keyboard ? keyboard.port : port,
    alsoAt: [],
    at: null,
    channel: isPedal && keyboard?.kind === 'keyboard' ? keyboard.channel : (free ?? 1),
  });
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
