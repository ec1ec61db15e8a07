import type { CompiledBand, Trigger } from './compiled-band.js';
import { GRID_STEPS } from '../model/library/pattern-limits.js';
import type { Begins } from '../model/patch/begins.js';
import type {
  Accompanist,
  Follows,
  Leaving,
  Starting,
  TakesOver,
} from '../model/patch/accompanist.js';

const STEP_WORDS = ['1/4', '1/4 triplet', '1/8', '1/8 triplet', '1/16', '1/16 triplet', '1/32'];
/** The note values that patterns are moved to or thinned to, in beats and in words. */
export const STEPS = GRID_STEPS.map((step, i) => ({ step, words: STEP_WORDS[i] }));

/** What a key of an accompanist does, in words. */
export const STARTING_WORDS: Readonly<Record<Starting, string>> = {
  whileHeld: 'while held',
  startStop: 'start and stop',
  once: 'once',
  untilNext: 'until the next',
};
/** When a pattern begins, in words. */
export const BEGINS_WORDS: Readonly<Record<Begins, string>> = {
  now: 'at once',
  beat: 'on the beat',
  bar: 'on the bar',
  fourBars: 'after four bars',
};
/** When the next takes over, in words. */
export const TAKES_OVER_WORDS: Readonly<Record<TakesOver, string>> = {
  atOnce: 'at once',
  bar: 'at the bar',
  through: 'when it is through',
};
/** What it follows, in words. */
export const FOLLOWS_WORDS: Readonly<Record<Follows, string>> = {
  stays: 'stays as it is',
  root: 'follows the bass',
  chord: 'follows the chord',
};
/** What it does when another song or patch comes, in words. */
export const LEAVING_WORDS: Readonly<Record<Leaving, string>> = {
  finishBar: 'finishes its bar',
  stop: 'stops',
  carryOn: 'carries on',
};

/** How an accompanist is played, in a few words: `start and stop, on the bar`. */
export function mannerInWords({
  starting,
  begins,
  follows,
  several,
}: Pick<Accompanist, 'starting' | 'begins' | 'follows' | 'several'>): string {
  return [
    STARTING_WORDS[starting],
    BEGINS_WORDS[begins],
    ...(several ? ['several at a time'] : []),
    ...(follows === 'stays' ? [] : [FOLLOWS_WORDS[follows]]),
  ].join(', ');
}

const BAND_KEY_WORDS = { start: 'all begin', stop: 'all stop', next: 'all go on to their next' };

/** What a key starts, by name alone: `half tide`, `Quay drums stops`. */
export function triggerName(trigger: Trigger, { accompanists }: CompiledBand): string {
  if (trigger.kind === 'band') return BAND_KEY_WORDS[trigger.bandKey.does];
  if (trigger.kind === 'pattern') return trigger.pattern.name;
  return `${accompanists[trigger.accompanist].source.name} stops`;
}

/** What a key starts, in words: `“half tide” of Quay drums, on the bar`. */
export function triggerInWords(trigger: Trigger, band: CompiledBand): string {
  const called = triggerName(trigger, band);
  if (trigger.kind !== 'pattern') return called;
  const { name, begins } = band.accompanists[trigger.accompanist].source;
  return `“${called}” of ${name}, ${BEGINS_WORDS[begins]}`;
}
