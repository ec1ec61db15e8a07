import { EFFECT_NAMES, type EffectName } from '../model/patch/effects.js';
import type { Pattern } from '../model/library/pattern.js';
import type { Patch, PatchSound } from '../model/patch/patch.js';
import { SILENCE_DB } from '../units/decibels.js';
import { bandVoices } from './band-voices.js';

/** A share of one processor core, 0–1: seconds of rendering per second of sound. */
export type CoreShare = number;

/** What was measured on this machine. */
export interface MeasuredCosts {
  /** One voice, by library sound. */
  voices: ReadonlyMap<string, CoreShare>;
  /** Each shared effect, however much is sent to it. */
  effects: Readonly<Record<EffectName, CoreShare>>;
}

/** Voices that a sound is reckoned to play at once: one for each finger. */
export const FINGERS = 10;

/** What a patch costs while all fingers are down and its accompanists play all that they can. */
export interface PatchCost {
  total: CoreShare;
  /** By patch sound: once, however many layers share it. */
  sounds: ReadonlyMap<string, CoreShare>;
  /** By layer: its even part of its sound. */
  layers: ReadonlyMap<string, CoreShare>;
  effects: Readonly<Record<EffectName, CoreShare>>;
}

/** What one sound of a patch costs: as many voices as it may play, at most one for each finger and those of accompanists. */
export function soundCost(
  { librarySoundId, polyphony }: PatchSound,
  costs: MeasuredCosts,
  ofBand = 0,
): CoreShare {
  const played = FINGERS + ofBand;
  const voices = polyphony === 'many' ? played : Math.min(played, polyphony);
  return voices * (costs.voices.get(librarySoundId) ?? 0);
}

/** What a patch costs, and where. Sounds that are not measured yet cost nothing so far. */
export function patchCost(
  patch: Patch,
  costs: MeasuredCosts,
  patterns: ReadonlyMap<string, Pattern> = new Map(),
): PatchCost {
  const band = bandVoices(patch, patterns);
  const ofBand = (soundId: string) =>
    patch.layers.reduce(
      (sum, layer) => sum + (layer.soundId === soundId ? (band.get(layer.id) ?? 0) : 0),
      0,
    );
  const sounds = new Map(
    patch.sounds.map((sound) => [sound.id, soundCost(sound, costs, ofBand(sound.id))]),
  );
  const players = new Map<string, number>();
  for (const { soundId } of patch.layers) players.set(soundId, (players.get(soundId) ?? 0) + 1);
  const layers = new Map(
    patch.layers.map(({ id, soundId }) => [
      id,
      (sounds.get(soundId) ?? 0) / (players.get(soundId) ?? 1),
    ]),
  );
  const effects = { reverb: 0, delay: 0, chorus: 0 };
  for (const name of EFFECT_NAMES)
    if (patch.layers.some((layer) => layer.sends[name] > SILENCE_DB))
      effects[name] = costs.effects[name];
  const total =
    [...sounds.values()].reduce((sum, cost) => sum + cost, 0) +
    EFFECT_NAMES.reduce((sum, name) => sum + effects[name], 0);
  return { total, sounds, layers, effects };
}

/** Two sounds of a patch that could be one. */
export interface SharingAdvice {
  /** The sound to stay, and the one whose layers would play it. */
  keep: string;
  drop: string;
  /** Names of one layer of each. */
  layerNames: [string, string];
  saves: CoreShare;
}

/** Sounds that are taken twice with the same colour, and what sharing them would save; the most saving first. */
export function sharingAdvice(patch: Patch, costs: MeasuredCosts): SharingAdvice[] {
  const found: SharingAdvice[] = [];
  const nameOf = (soundId: string) => patch.layers.find((l) => l.soundId === soundId)?.name ?? '';
  patch.sounds.forEach((keep, i) => {
    for (const drop of patch.sounds.slice(i + 1))
      if (couldShare(keep, drop))
        found.push({
          keep: keep.id,
          drop: drop.id,
          layerNames: [nameOf(keep.id), nameOf(drop.id)],
          saves: soundCost(drop, costs),
        });
  });
  return found.sort((a, b) => b.saves - a.saves);
}

/** True when two sounds of a patch differ in nothing that is heard. */
export function couldShare(a: PatchSound, b: PatchSound): boolean {
  return (
    a.librarySoundId === b.librarySoundId &&
    a.polyphony === b.polyphony &&
    a.glideSeconds === b.glideSeconds &&
    JSON.stringify(a.timbre) === JSON.stringify(b.timbre)
  );
}
