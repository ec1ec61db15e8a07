import type { CueLevel } from '../model/show/cue.js';
import type { CompiledPatch } from '../routing/compile.js';
import { gainFromDb, LOUDEST_DB, SILENCE_DB } from '../units/decibels.js';
import { lufsOf } from './bs1770.js';
import { powerOfMixture, type Mixture } from './mixture.js';
import type { PlayedKey, Responses } from './plumb-line.js';
import { partOf, sumOf, type Part } from './whole-loudness.js';

/** The three strengths that are made, and how far below the full one each is, dB. */
export const THREE_STRENGTHS = [
  { name: 'low', below: 9 },
  { name: 'middle', below: 4 },
  { name: 'full', below: 0 },
] as const;

/** One strength of a patch. */
export interface Strength {
  name: (typeof THREE_STRENGTHS)[number]['name'];
  /** Level and mute of every layer. */
  balance: Record<string, CueLevel>;
  /** How far below the full strength it is as measured, dB. */
  below: number;
}

/**
 * A low, a middle and a full strength from the layers there are, by measured loudness: the mean of power over all keys and a
 * few velocities, or what was rendered of it, where that is given. The thinnest layers come first: the loudest are left out as
 * long as every key still speaks and what is left is loud enough, and the rest is turned down to meet the mark. What is muted
 * stays so; layers whose sound is not measured are turned down with the others. Null when nothing measured sounds.
 */
export function threeStrengths(
  patch: CompiledPatch,
  responses: Responses,
  played: readonly PlayedKey[],
  mixtures: readonly Mixture[] = [],
): Strength[] | null {
  const parts = patch.layers
    .map((layer) => partOf(layer, responses, played))
    .filter(({ power }) => power > 0);
  const powerOf = (some: readonly Part[]) =>
    mixtures.length > 0 ? mixedPower(some, mixtures) : sumOf(some);
  const whole = powerOf(parts);
  if (whole === 0) return null;
  const choices = fewerAndFewer(parts);
  return THREE_STRENGTHS.map(({ name, below }) => {
    const target = whole / 10 ** (below / 10);
    // Each choice is a part of the one before, so the last that is loud enough is the thinnest; if none is, all are needed.
    const kept = choices.findLast((choice) => powerOf(choice) >= target * (1 - 1e-9)) ?? parts;
    const turned = Math.round(10 * (lufsOf(target) - lufsOf(powerOf(kept)))) / 10;
    const heard = new Set(kept.map(({ layer }) => layer.id));
    const measured = new Set(parts.map(({ layer }) => layer.id));
    const balance = Object.fromEntries(
      patch.layers.map((layer): [string, CueLevel] => {
        const out = layer.muted || (measured.has(layer.id) && !heard.has(layer.id));
        const level = Math.max(SILENCE_DB, Math.min(LOUDEST_DB, layer.source.level + turned));
        return [
          layer.id,
          out ? { level: layer.source.level, muted: true } : { level, muted: false },
        ];
      }),
    );
    return { name, balance, below: lufsOf(whole) - lufsOf(powerOf(kept)) - turned };
  });
}

/** The parts without the loudest that can be spared, then without the next, and so on: every place that sounded goes on sounding. */
function fewerAndFewer(parts: readonly Part[]): Part[][] {
  const choices: Part[][] = [];
  const answered = new Uint16Array(parts[0].sounds.length);
  for (const { sounds } of parts) for (let i = 0; i < sounds.length; i++) answered[i] += sounds[i];
  let left = [...parts];
  for (const part of [...parts].sort((a, b) => b.power - a.power)) {
    const isNeeded = part.sounds.some((sounds, i) => sounds === 1 && answered[i] === 1);
    if (isNeeded) continue;
    left = left.filter((other) => other !== part);
    for (let i = 0; i < answered.length; i++) answered[i] -= part.sounds[i];
    choices.push(left);
  }
  return choices;
}

/** Power of the probes with these layers at their levels, each by its weight. */
function mixedPower(parts: readonly Part[], mixtures: readonly Mixture[]): number {
  const gains = new Map(parts.map(({ layer }) => [layer.id, gainFromDb(layer.source.level)]));
  let power = 0;
  for (const mixture of mixtures)
    power += mixture.weight * powerOfMixture(mixture, (id) => gains.get(id) ?? 0);
  return power;
}
