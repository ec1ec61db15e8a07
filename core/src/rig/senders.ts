import type { Place } from '../model/rig/place.js';
import { deviceAtPlace, isKeyboard, MOST_DEVICES, type Device } from '../model/rig/rig.js';

/**
 * Index of the device that a message on a port and channel is taken to come from: the one on the port with the channel, else
 * the first on the port. A port that the rig does not know plays as the keyboard of its channel, else as the first keyboard,
 * so that a borrowed one is heard; −1 where there is none. Devices beyond the most that a rig can hold are not heard.
 */
export function senderOn(devices: readonly Device[], port: string, channel: number): number {
  let onPort = -1;
  let byChannel = -1;
  let first = -1;
  const count = Math.min(devices.length, MOST_DEVICES);
  for (let index = 0; index < count; index++) {
    const device = devices[index];
    if (device.kind === 'module' || device.kind === 'pedal') continue;
    if (device.port === port) {
      if (device.channel === channel) return index;
      if (onPort < 0) onPort = index;
    }
    if (!isKeyboard(device)) continue;
    if (first < 0) first = index;
    if (byChannel < 0 && device.channel === channel) byChannel = index;
  }
  if (onPort >= 0) return onPort;
  return byChannel >= 0 ? byChannel : first;
}

/** Index of the device whose messages bring what is moved at a place: a pedal is heard on the one it is plugged into; −1 for none. */
export function senderAt(devices: readonly Device[], place: Place): number {
  const device = deviceAtPlace(devices, place);
  if (!device) return -1;
  return device.kind === 'pedal'
    ? senderOn(devices, device.port, device.channel)
    : devices.indexOf(device);
}
