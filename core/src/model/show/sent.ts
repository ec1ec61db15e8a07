import {
  CHANNEL_AFTERTOUCH,
  CONTROL_CHANGE,
  NOTE_ON,
  PITCH_BEND,
  POLY_AFTERTOUCH,
  PROGRAM_CHANGE,
  SONG_SELECT,
} from '../../midi/messages.js';
import { deviceAtPlace, type ControlBox, type Device, type Pedal } from '../rig/rig.js';
import type { Place } from '../rig/place.js';
import type { ShowMessage } from './show-message.js';

/** What a device sends when a control of it is moved: the high half of the status, and its number; −1 for any. */
export interface Sent {
  kind: number;
  number: number;
}

/** What a control sends at a device; null when the device has no such control. */
export function sentBy(message: ShowMessage, device: Device): Sent | null {
  switch (message.kind) {
    case 'note':
      return { kind: NOTE_ON, number: message.note };
    case 'controller':
      return { kind: CONTROL_CHANGE, number: message.controller };
    case 'program':
      return { kind: PROGRAM_CHANGE, number: message.program };
    case 'programs':
      return { kind: PROGRAM_CHANGE, number: -1 };
    case 'songSelect':
      return { kind: SONG_SELECT, number: -1 };
    case 'bend':
      return { kind: PITCH_BEND, number: -1 };
    case 'pressure':
      return { kind: CHANNEL_AFTERTOUCH, number: -1 };
    case 'keyPressure':
      return { kind: POLY_AFTERTOUCH, number: -1 };
    case 'pedal':
      return device.kind === 'pedal' ? { kind: CONTROL_CHANGE, number: device.controller } : null;
    case 'pad':
      return device.kind === 'controlBox' ? part(NOTE_ON, device.padNotes, message.pad) : null;
    case 'knob':
      return device.kind === 'controlBox'
        ? part(CONTROL_CHANGE, device.knobControllers, message.knob)
        : null;
  }
}

function part(kind: number, numbers: readonly number[], at: number): Sent | null {
  const number = numbers.at(at);
  return number === undefined ? null : { kind, number };
}

/**
 * What was touched when a device sent a message: the pad, knob or pedal if it is one, so that it is the same at another rig,
 * else the message as it came.
 */
export function touchedBy(
  device: Device,
  message: ShowMessage,
  devices: readonly Device[],
): { place: Place; message: ShowMessage } {
  if (message.kind === 'controller' && 'channel' in device) {
    const pedal = devices.find(
      (d): d is Pedal =>
        d.kind === 'pedal' &&
        d.port === device.port &&
        d.channel === device.channel &&
        d.controller === message.controller,
    );
    if (pedal) return { place: pedal.place, message: { kind: 'pedal' } };
  }
  const own = device.kind === 'controlBox' ? partOfBox(device, message) : null;
  return { place: device.place, message: own ?? message };
}

function partOfBox(box: ControlBox, message: ShowMessage): ShowMessage | null {
  const pad = message.kind === 'note' ? box.padNotes.indexOf(message.note) : -1;
  if (pad >= 0) return { kind: 'pad', pad };
  const knob = message.kind === 'controller' ? box.knobControllers.indexOf(message.controller) : -1;
  return knob >= 0 ? { kind: 'knob', knob } : null;
}

/** What a control sends at a rig: its device, and the message; null where there is no such control. */
export function sentAt(
  { place, message }: { place: Place; message: ShowMessage },
  devices: readonly Device[],
): { device: Device; sent: Sent } | null {
  const device = deviceAtPlace(devices, place);
  const sent = device ? sentBy(message, device) : null;
  return device && sent ? { device, sent } : null;
}
