import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { judge, rangeGainOf, VERDICT } from '../routing/judge.js';
import { dbFromGain } from '../range/decibels.js';
import { lufsOf, powerOf, type Lufs } from './bs1770.js';
import { loudnessAt, type Response } from './response.js';

/** Measured responses by library sound. */
export type Responses = ReadonlyMap<string, Response>;

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

/** Loudness that a layer contributes at a key and velocity as the layers hear them; −∞ when it does not sound. */
export function layerLoudness(
  layer: CompiledLayer,
  responses: Responses,
  where: { device: number; channel: number; key: number; velocity: number },
): Lufs {
  const { device, channel, key, velocity } = where;
  if (judge(layer, device, channel, key, velocity) !== VERDICT.sounds) return -Infinity;
  const response = responses.get(layer.librarySoundId);
  if (!response) return -Infinity;
  return (
    loudnessAt(response, layer.touch[velocity]) +
    layer.source.level +
    dbFromGain(rangeGainOf(layer, key, velocity))
  );
}

/** The vertical reading at one key: every layer’s loudness against velocity, and the sum in power. */
export function plumbLine(
  patch: CompiledPatch,
  responses: Responses,
  device: number,
  channel: number,
  key: number,
): PlumbLine {
  const powers = new Float64Array(127);
  const layers = patch.layers.map((layer) => {
    const loudness = new Float64Array(127).fill(-Infinity);
    for (let velocity = 1; velocity <= 127; velocity++) {
      const here = layerLoudness(layer, responses, { device, channel, key, velocity });
      loudness[velocity - 1] = here;
      if (here > -Infinity) powers[velocity - 1] += powerOf(here);
    }
    return { layer, loudness };
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
