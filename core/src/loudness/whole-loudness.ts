import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { judge, rangeGainOf, VERDICT } from '../routing/judge.js';
import { lufsOf, type Lufs } from './bs1770.js';
import { STRENGTH_VELOCITIES } from './mixture.js';
import { responseOf, type PlayedKey, type Responses } from './plumb-line.js';
import { powerTable } from './response.js';

/** What is said of a key that a layer answers, whether it is let speak or not. */
const SPEAKING: ReadonlySet<number> = new Set([VERDICT.sounds, VERDICT.muted, VERDICT.notSoloed]);

/** A layer with what it contributes: mean power over everything that is played, and where it sounds. */
export interface Part {
  layer: CompiledLayer;
  power: number;
  /** 1 for every key and velocity at which it sounds, and at which it would if it were not muted. */
  sounds: Uint8Array;
  answers: Uint8Array;
}

/**
 * How loud a patch is as a whole: the mean of power over all keys and a few velocities that some layer answers, muted or not,
 * LUFS; −∞ when nothing measured sounds.
 */
export function wholeLoudness(
  patch: CompiledPatch,
  responses: Responses,
  played: readonly PlayedKey[],
): Lufs {
  const parts = patch.layers.map((layer) => partOf(layer, responses, played));
  const answered = new Uint8Array(played.length * STRENGTH_VELOCITIES.length);
  for (const { answers } of parts)
    for (let i = 0; i < answered.length; i++) answered[i] |= answers[i];
  const places = answered.reduce((sum, place) => sum + place, 0);
  return lufsOf((sumOf(parts) * answered.length) / Math.max(1, places));
}

/** What a layer contributes to everything that is played. */
export function partOf(
  layer: CompiledLayer,
  responses: Responses,
  played: readonly PlayedKey[],
): Part {
  const sounds = new Uint8Array(played.length * STRENGTH_VELOCITIES.length);
  const answers = new Uint8Array(sounds.length);
  const response = responseOf(layer, responses);
  const byVelocity = response ? powerTable(response) : null;
  const level = 10 ** (layer.source.level / 10);
  let power = 0;
  played.forEach(({ device, channel, key }, at) => {
    STRENGTH_VELOCITIES.forEach((velocity, nth) => {
      const verdict = judge(layer, device, channel, key, velocity);
      const place = at * STRENGTH_VELOCITIES.length + nth;
      if (SPEAKING.has(verdict)) answers[place] = 1;
      if (!byVelocity || verdict !== VERDICT.sounds) return;
      const gain = rangeGainOf(layer, key, velocity);
      sounds[place] = 1;
      power += byVelocity[layer.touch[velocity]] * level * gain * gain;
    });
  });
  return { layer, power: power / Math.max(1, sounds.length), sounds, answers };
}

/** The powers of layers together. */
export function sumOf(parts: readonly Part[]): number {
  return parts.reduce((sum, { power }) => sum + power, 0);
}
