import { listensTo, type Layer } from '../model/patch/layer.js';
import { heardChannel, isKeyboard, type Device, type Keyboard } from '../model/rig/rig.js';
import { SILENCE_DB } from '../units/decibels.js';
import { contains, intersection, type Span } from '../range/range.js';
import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { lowestSounding, touchOut } from '../touch/touch.js';
import { groundOf } from './coverage.js';

/** Why a layer can never be heard. */
export type SilenceCause =
  'keyboard' | 'channel' | 'keys' | 'muted' | 'level' | 'keyboardTouch' | 'touch' | 'midi';

/** The keyboards whose keys a layer hears. */
function keyboardsHeardBy({ keyboards, channel }: Layer, devices: readonly Device[]): Keyboard[] {
  return devices
    .filter(isKeyboard)
    .filter((k) => listensTo({ keyboards }, k))
    .filter((k) => channel === 'any' || channel === heardChannel(k));
}

/** From the lowest to the highest key of all keyboards that a layer hears, as far as MIDI goes; null for none. */
export function groundHeardBy(layer: Layer, devices: readonly Device[]): Span | null {
  const grounds = keyboardsHeardBy(layer, devices).map((k) => groundOf(k).keys);
  if (grounds.length === 0) return null;
  return intersection(
    {
      low: Math.min(...grounds.map(({ low }) => low)),
      high: Math.max(...grounds.map(({ high }) => high)),
    },
    { low: 0, high: 127 },
  );
}

/** The first reason why no key at no strength ever makes a layer sound; null when some does. */
export function causeOfSilence(layer: Layer, devices: readonly Device[]): SilenceCause | null {
  const { keyboards } = layer;
  const all = devices.filter(isKeyboard);
  const heard = all.filter((k) => listensTo({ keyboards }, k));
  if (heard.length === 0) return 'keyboard';
  const onChannel = keyboardsHeardBy(layer, devices);
  if (onChannel.length === 0) return 'channel';
  const reaching = onChannel.filter((k) => intersection(layer.keys, groundOf(k).keys));
  if (reaching.length === 0) return 'keys';
  if (layer.muted) return 'muted';
  if (layer.level <= SILENCE_DB) return 'level';
  if (!reaching.some((k) => plays(k, layer.velocities))) return 'keyboardTouch';
  return reaching.some((k) => plays(k, strengthsThatSound(layer))) ? null : 'touch';
}

/** Whether a keyboard, with its own touch, ever sends a strength within a span. */
function plays({ touch }: Keyboard, strengths: Span): boolean {
  for (let v = 1; v <= 127; v++) if (contains(strengths, touchOut(touch, v))) return true;
  return false;
}

/** The strengths that a layer answers and its touch does not silence; empty (low above high) when there are none. */
function strengthsThatSound({ velocities, touch }: Layer): Span {
  return { low: Math.max(velocities.low, lowestSounding(touch)), high: velocities.high };
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
    case 'keyboardTouch':
      return `no keyboard it listens to plays as it answers, from ${velocities.low} to ${velocities.high}`;
    case 'touch':
      return `its touch is silent below ${touch.inLow}, and it answers up to ${velocities.high}`;
    case 'midi':
      return 'all it would sound lies outside MIDI';
  }
}
