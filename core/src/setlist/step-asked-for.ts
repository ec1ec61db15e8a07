import type { Going } from '../model/show/going.js';
import { stepIndex, type Step, type StepPlace } from './running-order.js';

/** The step after a place, or before it; behind the last one none, or the first, as the show has it. −1 for none. */
export function stepBeside(
  steps: readonly Step[],
  place: StepPlace,
  by: 1 | -1,
  atEnd: Going['atEnd'],
): number {
  const to = stepIndex(steps, place) + by;
  if (to < steps.length) return Math.max(-1, to);
  return atEnd === 'wrap' && steps.length > 0 ? 0 : -1;
}

/** The first step of the next song of the night, or of the one before; behind the last as with steps. −1 for none. */
export function songBeside(
  steps: readonly Step[],
  place: StepPlace,
  by: 1 | -1,
  atEnd: Going['atEnd'],
): number {
  const here = steps.at(Math.max(0, stepIndex(steps, place)));
  if (!here) return -1;
  const to = steps.findIndex(({ songNumber }) => songNumber === here.songNumber + by);
  return to < 0 && by > 0 && atEnd === 'wrap' ? 0 : to;
}

/**
 * The step of a cue of a song, or its first one (null), where the song is played already, else the next time that it comes,
 * else anywhere in the night. −1 for none.
 */
export function stepOfCue(
  steps: readonly Step[],
  place: StepPlace,
  songId: string,
  cueId: string | null,
): number {
  const isIt = (step: Step) => step.songId === songId && (cueId === null || step.cueId === cueId);
  const inEntry = steps.findIndex((step) => step.entryId === place.entryId && isIt(step));
  if (inEntry >= 0) return inEntry;
  const here = stepIndex(steps, place);
  const later = steps.findIndex((step, at) => at > here && isIt(step));
  return later >= 0 ? later : steps.findIndex(isIt);
}
