import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { judge, rangeGainOf, VERDICT } from '../routing/judge.js';
import { lufsOf } from './bs1770.js';
import { powerTable, type Response } from './response.js';

/** Measured responses by library sound, and by the keys of sounds in another colour than they were made. */
export type Responses = ReadonlyMap<string, Response>;

/** The response of the sound that a layer plays: in its colour, or while that is not measured, as it was made. */
export function responseOf(layer: CompiledLayer, responses: Responses): Response | undefined {
  return responses.get(layer.loudnessKey) ?? responses.get(layer.librarySoundId);
}

/** Loudness against velocity at one key: index 0 is velocity 1. −∞ where nothing sounds. */
export interface PlumbLine {
  key: number;
  layers: { layer: CompiledLayer; loudness: Float64Array }[];
  sum: Float64Array;
}

/** A stretch of velocities over which the sum does something a player would stumble over. */
export interface Unevenness {
  kind: 'dip' | 'leap';
  /** First and last velocity. */
  from: number;
  to: number;
  /** dB by which it falls or leaps. */
  size: number;
}

/** The sum falls by this much while velocity rises: a dip. */
const DIP_DB = 1.5;
/** The sum rises by this much within four velocities: a leap. */
const LEAP_DB = 6;
const LEAP_VELOCITIES = 4;

/** A key of a keyboard as the layers hear it. */
export interface PlayedKey {
  device: number;
  channel: number;
  key: number;
}

/** Adds the power that a layer contributes at each velocity (index 0 is velocity 1) of a key. */
function addPowers(
  layer: CompiledLayer,
  responses: Responses,
  { device, channel, key }: PlayedKey,
  into: Float64Array,
  decibels = layer.source.level,
): void {
  const response = responseOf(layer, responses);
  if (!response) return;
  const byVelocity = powerTable(response);
  const level = 10 ** (decibels / 10);
  for (let velocity = layer.velocityLow; velocity <= layer.velocityHigh; velocity++) {
    if (judge(layer, device, channel, key, velocity) !== VERDICT.sounds) continue;
    const gain = rangeGainOf(layer, key, velocity);
    into[velocity - 1] += byVelocity[layer.touch[velocity]] * level * gain * gain;
  }
}

/** Loudness of all layers together against velocity at one key; −∞ where nothing sounds. */
export function summedLoudness(
  patch: CompiledPatch,
  responses: Responses,
  place: PlayedKey,
): Float64Array {
  const powers = new Float64Array(127);
  for (const layer of patch.layers) addPowers(layer, responses, place, powers);
  return powers.map(lufsOf);
}

/**
 * The vertical reading at one key: every layer’s loudness against velocity, and the sum in power. `levelOf` tells where a layer
 * stands that something has moved since.
 */
export function plumbLine(
  patch: CompiledPatch,
  responses: Responses,
  device: number,
  channel: number,
  key: number,
  levelOf: (layerId: string) => number | undefined = () => undefined,
): PlumbLine {
  const powers = new Float64Array(127);
  const layers = patch.layers.map((layer) => {
    const own = new Float64Array(127);
    addPowers(layer, responses, { device, channel, key }, own, levelOf(layer.id));
    for (let i = 0; i < own.length; i++) powers[i] += own[i];
    return { layer, loudness: own.map(lufsOf) };
  });
  return { key, layers, sum: powers.map(lufsOf) };
}

/** Dips and leaps of a plumb line’s sum, softest first. Silence is neither: it is told as silence. */
export function unevenness(sum: Float64Array): Unevenness[] {
  return [...dips(sum), ...leaps(sum)].sort((a, b) => a.from - b.from);
}

function dips(sum: Float64Array): Unevenness[] {
  const found: Unevenness[] = [];
  let peak = 0;
  let bottom = 0;
  const close = () => {
    const size = sum[peak] - sum[bottom];
    if (size >= DIP_DB && Number.isFinite(size))
      found.push({ kind: 'dip', from: peak + 1, to: bottom + 1, size });
  };
  for (let i = 1; i < sum.length; i++) {
    if (sum[i] >= sum[peak] || !Number.isFinite(sum[i])) {
      close();
      peak = i;
      bottom = i;
    } else if (sum[i] < sum[bottom]) bottom = i;
  }
  close();
  return found;
}

function leaps(sum: Float64Array): Unevenness[] {
  const found: Unevenness[] = [];
  for (let i = 0; i + LEAP_VELOCITIES < sum.length;) {
    const size = sum[i + LEAP_VELOCITIES] - sum[i];
    if (size >= LEAP_DB && Number.isFinite(size)) {
      found.push({ kind: 'leap', from: i + 1, to: i + 1 + LEAP_VELOCITIES, size });
      i += LEAP_VELOCITIES;
    } else i++;
  }
  return found;
}
