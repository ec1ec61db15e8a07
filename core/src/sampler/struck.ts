import type { Timbre } from '../model/patch/timbre.js';
import type { Voicing, Zone } from '../synthesis/zone.js';
import { gainFromDb, SILENCE_DB } from '../units/decibels.js';
import { attackSeconds, releaseSeconds } from './timbre.js';
import type { VoiceStart } from './voices.js';

/** How a voice goes that is struck with a velocity (1–127) at a linear gain: its strength, envelope and low-pass. */
export function struck(
  voicing: Voicing,
  zone: Zone,
  velocity: number,
  gain: number,
  timbre: Pick<Timbre, 'attack' | 'release'>,
  sampleRate: number,
): Pick<VoiceStart, 'gain' | 'attackFrames' | 'releaseFrames' | 'loopFall' | 'cutoff'> {
  const softer = velocity / 127 - 1;
  return {
    gain: gain * gainFromDb(Math.max(SILENCE_DB + 1, softer * voicing.dynamics)),
    attackFrames: attackSeconds(voicing, timbre) * sampleRate,
    releaseFrames: releaseSeconds(voicing, timbre) * sampleRate,
    loopFall: 10 ** (-zone.loopDecay / 20 / sampleRate),
    cutoff: voicing.brightness * 2 ** (softer * voicing.darkening),
  };
}
