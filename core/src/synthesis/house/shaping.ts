import { seededRandom, type PartialTone } from '../partials.js';
import type { AskedNote } from '../recipe.js';

/** Decay times of struck and plucked sounds halve about every 14 keys upwards. */
export function ringsFor(atMiddleC: number, key: number): number {
  return atMiddleC * 2 ** ((60 - key) / 14);
}

/** A struck or plucked partial: at once, from zero crossing, dying away. */
export function struck(cycles: number, amplitude: number, decay: number, pan = 0): PartialTone {
  return { cycles, amplitude, decay, attack: 0.002, phase: 0, pan };
}

/** Several voices a little apart, in and out of each other, spread across the stereo picture. */
export function ensemble(
  request: AskedNote,
  harmonics: number,
  amplitudeOf: (harmonic: number, frequency: number) => number,
  voices: number,
  cents: number,
): PartialTone[] {
  const random = seededRandom(request.key * 7919 + voices);
  const tones: PartialTone[] = [];
  for (let n = 1; n <= harmonics; n++) {
    const amplitude = amplitudeOf(n, n * request.frequency) / Math.sqrt(voices);
    for (let v = 0; v < voices; v++) {
      const place = voices === 1 ? 0 : (2 * v) / (voices - 1) - 1;
      const detune = 2 ** ((place * cents) / 1200);
      tones.push({
        cycles: request.cycles(n * request.frequency * detune),
        amplitude: amplitude * (0.9 + 0.2 * random()),
        decay: Infinity,
        attack: 0.004,
        phase: random() * 2 * Math.PI,
        pan: place * 0.9 * (n % 2 === 0 ? -1 : 1),
      });
    }
  }
  return tones;
}

/** A spectral hump, as a body or a mouth gives it: 1 far away, 1 + `height` at the centre. */
export function hump(frequency: number, centre: number, width: number, height: number): number {
  return 1 + height * Math.exp(-(((frequency - centre) / width) ** 2));
}

/** A pipe or drawbar: one sine that sustains, coming in over a few milliseconds. */
export function sustained(cycles: number, amplitude: number, pan = 0, attack = 0.006): PartialTone {
  return { cycles, amplitude, decay: Infinity, attack, phase: cycles % 6.283, pan };
}
