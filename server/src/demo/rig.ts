import {
  newRig,
  usualManner,
  usualTravel,
  type Acts,
  type ControlMessage,
  type ControlTarget,
  type Device,
  type Rig,
  type Tie,
} from '@pentachord/core/model';
import { EVEN_TOUCH } from '@pentachord/core/touch';

/** The rig that ships: nothing of it has to be bought. */
export const STAND_INS: Rig = {
  ...newRig('stand-ins', 'Stand-ins'),
  ties: [
    // The first four knobs are a small mixer, whatever is played.
    ...[0, 1, 2, 3].map((knob) => always(`knob-${knob}`, { kind: 'knob', knob }, levelOf(knob))),
    always('octave-up', { kind: 'pad', pad: 6 }, { kind: 'octave', place: 'keys2' }, 'turnsOver'),
  ],
};
const rigId = STAND_INS.id;

function levelOf(layer: number): ControlTarget {
  return { kind: 'letter', layer, parameter: 'level' };
}

function always(
  id: string,
  message: ControlMessage,
  target: ControlTarget,
  acts: Acts = 'usual',
): Tie {
  const manner = { ...usualManner(message), acts };
  return { id: `demo-${id}`, place: 'pads1', message, target, ...usualTravel(target), ...manner };
}

/** Two keyboards, a pad box, three pedals and a sound module, all of them stand-ins. */
export const DEMO_RIG: Device[] = [
  {
    kind: 'keyboard',
    heardAs: null,
    settings: { known: null, wanted: {} },
    id: 'demo-upper',
    rigId,
    place: 'keys1',
    position: 0,
    name: 'Upper keys',
    port: 'stand-in upper keys',
    at: null,
    alsoAt: [],
    lowestKey: 28,
    highestKey: 103,
    channel: 1,
    octaveShift: 0,
    touch: EVEN_TOUCH,
  },
  {
    kind: 'keyboard',
    heardAs: null,
    settings: { known: null, wanted: {} },
    id: 'demo-lower',
    rigId,
    place: 'keys2',
    position: 1,
    name: 'Lower keys',
    port: 'stand-in lower keys',
    at: null,
    alsoAt: [],
    lowestKey: 36,
    highestKey: 96,
    channel: 2,
    octaveShift: 0,
    touch: EVEN_TOUCH,
  },
  {
    kind: 'controlBox',
    heardAs: null,
    settings: { known: null, wanted: {} },
    id: 'demo-pads',
    rigId,
    place: 'pads1',
    position: 2,
    name: 'Pads',
    port: 'stand-in pads',
    at: null,
    alsoAt: [],
    channel: 10,
    padNotes: [36, 37, 38, 39, 40, 41, 42, 43],
    knobControllers: [20, 21, 22, 23, 24, 25, 26, 27],
  },
  {
    kind: 'pedal',
    id: 'demo-sustain',
    rigId,
    place: 'pedal1',
    position: 3,
    name: 'Sustain pedal',
    port: 'stand-in upper keys',
    at: null,
    alsoAt: [],
    channel: 1,
    controller: 64,
    action: 'switch',
  },
  {
    kind: 'pedal',
    id: 'demo-expression',
    rigId,
    place: 'pedal2',
    position: 4,
    name: 'Expression pedal',
    port: 'stand-in upper keys',
    at: null,
    alsoAt: [],
    channel: 1,
    controller: 11,
    action: 'sweep',
  },
  {
    kind: 'pedal',
    id: 'demo-right-pedal',
    rigId,
    place: 'pedal3',
    position: 5,
    name: 'Right pedal',
    port: 'stand-in lower keys',
    at: null,
    alsoAt: [],
    channel: 2,
    controller: 80,
    action: 'switch',
  },
  {
    kind: 'module',
    id: 'demo-module',
    rigId,
    place: 'module1',
    position: 6,
    name: 'Harbour module',
    port: 'stand-in module',
    at: null,
    alsoAt: [],
    channels: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16],
  },
];
