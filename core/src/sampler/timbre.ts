import type { Timbre } from '../model/patch/timbre.js';
import type { Voicing } from '../synthesis/zone.js';

/** Octaves by which brightness −1 closes and 1 opens the low-pass. */
const BRIGHTNESS_OCTAVES = 3;
/** Seconds that attack 1 adds. */
const SLOWEST_ATTACK = 2;

/** Factor on the low-pass’s cut-off for a brightness of −1…1. */
export function brightnessFactor(brightness: number): number {
  return 2 ** (BRIGHTNESS_OCTAVES * brightness);
}

/** Seconds of attack: down to a sixteenth below 0; above 0 up to two seconds are added, slowly at first. */
export function attackSeconds(voicing: Voicing, attack: Timbre['attack']): number {
  return attack <= 0
    ? voicing.attack * 16 ** attack
    : voicing.attack + SLOWEST_ATTACK * attack * attack;
}

/** Seconds of release: from an eighth to eight times as long. */
export function releaseSeconds(voicing: Voicing, release: Timbre['release']): number {
  return voicing.release * 8 ** release;
}
