import type { Timbre } from '../model/patch/timbre.js';
import type { Voicing, Zone } from '../synthesis/zone.js';
import { gainFromDb, SILENCE_DB } from '../units/decibels.js';
import { attackSeconds, releaseSeconds } from './timbre.js';
import type { VoiceStart } from './voices.js';

/**
 * Puts into `start` how a voice goes that is struck with a velocity (1–127) at a linear gain: its strength, envelope and
 * low-pass.
 */
export function strike(
  start: VoiceStart,
  voicing: Voicing,
  zone: Zone,
  velocity: number,
  gain: number,
  attack: Timbre['attack'],
  release: Timbre['release'],
  sampleRate: number,
): void {
  const softer = velocity / 127 - 1;
  start.velocity = velocity;
  start.zone = zone;
  start.gain = gain * gainFromDb(Math.max(SILENCE_DB + 1, softer * voicing.dynamics));
  start.attackFrames = attackSeconds(voicing, attack) * sampleRate;
  start.releaseFrames = releaseSeconds(voicing, release) * sampleRate;
  start.loopFall = 10 ** (-zone.loopDecay / 20 / sampleRate);
  start.cutoff = voicing.brightness * 2 ** (softer * voicing.darkening);
}
