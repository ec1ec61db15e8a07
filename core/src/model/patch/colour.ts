import type { Tone } from './layer.js';
import { TIMBRE_PARTS, type Timbre } from './timbre.js';

/** What changes how a library sound sounds, apart from its level. */
export interface Colour {
  timbre: Timbre;
  tone: Tone;
}

/** What the loudness of a library sound in some colour is kept under: the sound’s id alone while it is as it was made. */
export function loudnessKey(librarySoundId: string, { timbre, tone }: Colour): string {
  const numbers = [...TIMBRE_PARTS.map((part) => timbre[part]), tone.low, tone.high];
  return numbers.every((number) => number === 0)
    ? librarySoundId
    : `${librarySoundId} ${numbers.join(' ')}`;
}
