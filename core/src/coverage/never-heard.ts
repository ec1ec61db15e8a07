import type { Layer } from '../model/patch/layer.js';
import { isKeyboard, type Device, type Keyboard } from '../model/rig/rig.js';
import { SILENCE_DB } from '../units/decibels.js';
import { intersection } from '../range/range.js';
import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { lowestSounding, touchOut } from '../touch/touch.js';
import { groundOf } from './coverage.js';

/** Why a layer can never be heard. */
export type SilenceCause = 'keyboard' | 'channel' | 'keys' | 'muted' | 'level' | 'touch' | 'midi';

/** The first reason why no key at no strength ever makes a layer sound; null when some does. */
export function causeOfSilence(layer: Layer, devices: readonly Device[]): SilenceCause | null {
  const { keyboards } = layer;
  const all = devices.filter(isKeyboard);
  const heard = all.filter((k) => keyboards === 'any' || keyboards.includes(k.id));
  if (heard.length === 0) return 'keyboard';
  const onChannel = heard.filter((k) => layer.channel === 'any' || layer.channel === k.channel);
  if (onChannel.length === 0) return 'channel';
  if (!onChannel.some((k) => intersection(layer.keys, groundOf(k).keys))) return 'keys';
  if (layer.muted) return 'muted';
  if (layer.level <= SILENCE_DB) return 'level';
  return someStrengthSounds(layer) ? null : 'touch';
}

function someStrengthSounds({ velocities, touch }: Layer): boolean {
  const softest = Math.max(velocities.low, lowestSounding(touch));
  return softest <= velocities.high && touchOut(touch, velocities.high) > 0;
}

/** Why a layer of a patch can never be heard, in words; null when it can. */
export function neverHeard(
  layer: CompiledLayer,
  patch: CompiledPatch,
  devices: readonly Device[],
): { cause: SilenceCause; words: string } | null {
  const reachable = devices.filter(isKeyboard).some((keyboard) => sounds(layer, keyboard, patch));
  const cause = causeOfSilence(layer.source, devices) ?? (reachable ? null : 'midi');
  return cause && { cause, words: causeInWords(cause, layer.source) };
}

function sounds(layer: CompiledLayer, keyboard: Keyboard, patch: CompiledPatch): boolean {
  if (layer.hearsDevice[patch.rig.ids.indexOf(keyboard.id)] !== 1) return false;
  const keys = intersection({ low: layer.keyLow, high: layer.keyHigh }, groundOf(keyboard).keys);
  return (
    keys !== null && intersection(keys, { low: -layer.shift, high: 127 - layer.shift }) !== null
  );
}

function causeInWords(cause: SilenceCause, { channel, velocities, touch }: Layer): string {
  switch (cause) {
    case 'keyboard':
      return 'no keyboard of the rig is one it listens to';
    case 'channel':
      return `no keyboard it listens to sends on channel ${channel}`;
    case 'keys':
      return 'its keys lie on no keyboard';
    case 'muted':
      return 'it is muted';
    case 'level':
      return 'its level is at silence';
    case 'touch':
      return `its touch is silent below ${touch.inLow}, and it answers up to ${velocities.high}`;
    case 'midi':
      return 'all it would sound lies outside MIDI';
  }
}
