import type { Device, Rig } from '@pentachord/core/model';
import { EVEN_TOUCH } from '@pentachord/core/touch';

/** The rig that ships: nothing of it has to be bought. */
export const STAND_INS: Rig = { id: 'stand-ins', name: 'Stand-ins' };
const rigId = STAND_INS.id;

/** Two keyboards, a pad box, three pedals and a sound module, all of them stand-ins. */
export const DEMO_RIG: Device[] = [
  {
    kind: 'keyboard',
    id: 'demo-upper',
    rigId,
    position: 0,
    name: 'Upper keys',
    port: 'stand-in upper keys',
    lowestKey: 28,
    highestKey: 103,
    channel: 1,
    octaveShift: 0,
    touch: EVEN_TOUCH,
  },
  {
    kind: 'keyboard',
    id: 'demo-lower',
    rigId,
    position: 1,
    name: 'Lower keys',
    port: 'stand-in lower keys',
    lowestKey: 36,
    highestKey: 96,
    channel: 2,
    octaveShift: 0,
    touch: EVEN_TOUCH,
  },
  {
    kind: 'controlBox',
    id: 'demo-pads',
    rigId,
    position: 2,
    name: 'Pads',
    port: 'stand-in pads',
    channel: 10,
    padNotes: [36, 37, 38, 39, 40, 41, 42, 43],
    knobControllers: [20, 21, 22, 23, 24, 25, 26, 27],
  },
  {
    kind: 'pedal',
    id: 'demo-sustain',
    rigId,
    position: 3,
    name: 'Sustain pedal',
    port: 'stand-in upper keys',
    channel: 1,
    controller: 64,
    action: 'switch',
  },
  {
    kind: 'pedal',
    id: 'demo-expression',
    rigId,
    position: 4,
    name: 'Expression pedal',
    port: 'stand-in upper keys',
    channel: 1,
    controller: 11,
    action: 'sweep',
  },
  {
    kind: 'pedal',
    id: 'demo-right-pedal',
    rigId,
    position: 5,
    name: 'Right pedal',
    port: 'stand-in lower keys',
    channel: 2,
    controller: 80,
    action: 'switch',
  },
  {
    kind: 'module',
    id: 'demo-module',
    rigId,
    position: 6,
    name: 'Harbour module',
    port: 'stand-in module',
    channels: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16],
  },
];
