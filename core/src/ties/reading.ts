import { CONTROL_CHANGE } from '../midi/messages.js';
import type { Reads } from '../model/patch/tie.js';

/** Ways in which endless knobs say how far they were turned. */
export type Relative = Extract<Reads, 'twos' | 'offset' | 'sign'>;

/** True for what says how far a knob was turned instead of where it stands. */
export function isRelative(reads: Reads): reads is Relative {
  return reads === 'twos' || reads === 'offset' || reads === 'sign';
}

/** Steps that an endless knob was turned by, to the right; `value` is 0–127. */
export function stepsOf(reads: Relative, value: number): number {
  switch (reads) {
    case 'twos':
      return value < 64 ? value : value - 128;
    case 'offset':
      return value - 64;
    case 'sign':
      return value < 64 ? value : 64 - value;
  }
}

/** Controllers that have a partner of finer numbers, which is 32 higher. */
export const FINE_FROM = 32;

/**
 * How the numbers are read that a tie finds at a rig: only controllers are endless, and of those only the first 32 have a partner;
 * everything else says where it stands.
 */
export function readingAt(reads: Reads, kind: number, controller: number): Reads {
  if (kind !== CONTROL_CHANGE) return 'position';
  return reads === 'fine' && controller >= FINE_FROM ? 'position' : reads;
}

/** The position (0–127, broken) that a pair of controllers says: 14 bits. */
export function finePosition(coarse: number, fine: number): number {
  return ((coarse * 128 + fine) * 127) / 16_383;
}

/** The fewest values from which is told how a knob speaks. */
const ENOUGH = 4;
/** The most steps that a hand turns an endless knob by at once. */
const QUICK = 12;

/**
 * How a control seems to speak, from values that came one after another while it was turned, both ways if it has no end; null
 * while they do not tell. A knob with ends goes from neighbour to neighbour, an endless one repeats small steps.
 */
export function guessedReading(values: readonly number[]): Reads | null {
  if (values.length < ENOUGH) return null;
  const lasts = values.slice(-32);
  // An endless knob says the same small number again and again; one with ends goes from neighbour to neighbour.
  const repeats = lasts.filter((value, at) => at > 0 && value === lasts[at - 1]).length;
  if (repeats * 3 < lasts.length) return 'position';
  const within = (ways: (value: number) => boolean) => lasts.every(ways);
  const swings = (reads: Relative) => {
    const steps = lasts.map((value) => stepsOf(reads, value));
    return (
      steps.every((step) => step !== 0 && Math.abs(step) <= QUICK) &&
      new Set(steps.map(Math.sign)).size === 2
    );
  };
  if (swings('offset')) return 'offset';
  if (swings('twos')) return 'twos';
  if (swings('sign')) return 'sign';
  if (within((value) => value >= 128 - QUICK)) return 'twos';
  if (within((value) => value > 64 && value <= 64 + QUICK)) return 'offset';
  if (within((value) => value > 0 && value <= QUICK)) return 'twos';
  return within((value) => value >= 64 - QUICK && value < 64) ? 'offset' : 'position';
}
