import type { Accompanist, BandKey } from '../model/patch/accompanist.js';
import { isKeyboard, type Device } from '../model/rig/rig.js';

/** Keys, pads or buttons of a device that can start patterns, by the numbers that they send, keys as they are heard. */
export function startersAt(device: Device, starters: Accompanist['starters']): readonly number[] {
  if (isKeyboard(device) && starters === 'notes') {
    const { lowestKey, highestKey, octaveShift } = device;
    return Array.from({ length: highestKey - lowestKey + 1 }, (_, i) => lowestKey + i)
      .map((key) => key + octaveShift * 12)
      .filter((key) => key >= 0 && key < 128);
  }
  if (device.kind === 'controlBox')
    return starters === 'notes' ? device.padNotes : device.knobControllers;
  return device.kind === 'pedal' && starters === 'controllers' ? [device.controller] : [];
}

/**
 * The next key, pad or button of those there are on which nothing is started yet, after the last of an accompanist’s own; null
 * where none is left.
 */
export function nextFreeKey(
  accompanist: Pick<Accompanist, 'id' | 'place' | 'starters' | 'patterns' | 'stopKey'>,
  all: readonly Accompanist[],
  bandKeys: readonly BandKey[],
  there: readonly number[],
): number | null {
  const isThere = ({ place, starters }: Pick<Accompanist, 'place' | 'starters'>) =>
    place === accompanist.place && starters === accompanist.starters;
  const taken = new Set([
    ...all
      .filter(isThere)
      .flatMap(({ patterns, stopKey }) => [...patterns.map(({ key }) => key), stopKey ?? -1]),
    ...bandKeys.filter(isThere).map(({ key }) => key),
  ]);
  const mine = accompanist.patterns.map(({ key }) => there.indexOf(key));
  const last = Math.max(-1, ...mine);
  const inTurn = [...there.slice(last + 1), ...there.slice(0, last + 1)];
  return inTurn.find((key) => !taken.has(key)) ?? null;
}
