import type { CompiledLayer } from './compile.js';

/**
 * What a layer does with a played note. Numbers, because the live path asks 32 times a note; their order is the order in
 * which reasons apply.
 */
export const VERDICT = {
  otherKeyboard: 0,
  otherChannel: 1,
  belowKeys: 2,
  aboveKeys: 3,
  softer: 4,
  harder: 5,
  muted: 6,
  notSoloed: 7,
  notChosen: 8,
  touchSilences: 9,
  outsideMidi: 10,
  sounds: 11,
} as const;
export type Verdict = (typeof VERDICT)[keyof typeof VERDICT];

/**
 * The one verdict of a layer on a note as the layers hear it, that is after the keyboard's own touch and octave shift.
 * `device` is an index of the rig, `channel` 1–16, `key` −48…175 (a shifted key may leave MIDI), `velocity` 1–127, or 0
 * when the keyboard's touch silences the note.
 */
export function judge(
  layer: CompiledLayer,
  device: number,
  channel: number,
  key: number,
  velocity: number,
): Verdict {
  if (layer.hearsDevice[device] === 0) return VERDICT.otherKeyboard;
  if (layer.channel !== 0 && layer.channel !== channel) return VERDICT.otherChannel;
  if (key < layer.keyLow) return VERDICT.belowKeys;
  if (key > layer.keyHigh) return VERDICT.aboveKeys;
  if (velocity !== 0) {
    if (velocity < layer.velocityLow) return VERDICT.softer;
    if (velocity > layer.velocityHigh) return VERDICT.harder;
  }
  if (layer.muted) return VERDICT.muted;
  if (layer.soloedOut) return VERDICT.notSoloed;
  if (!layer.isChosen) return VERDICT.notChosen;
  if (velocity === 0 || layer.touch[velocity] === 0) return VERDICT.touchSilences;
  const note = key + layer.shift;
  if (note < 0 || note > 127) return VERDICT.outsideMidi;
  return VERDICT.sounds;
}

/** Whether a layer sounds a strength (1–127) of notes that are meant for it, on whichever key. */
export function answersStrength(layer: CompiledLayer, velocity: number): boolean {
  const isWithin = velocity >= layer.velocityLow && velocity <= layer.velocityHigh;
  const isHeard = !layer.muted && !layer.soloedOut && layer.isChosen;
  return isWithin && isHeard && layer.touch[velocity] > 0;
}

/** Linear gain that the ranges give a key and velocity that sound. */
export function rangeGainOf(layer: CompiledLayer, key: number, velocity: number): number {
  return layer.keyGain[key] * layer.velocityGain[velocity];
}
