/** A stretch of a recording that is played again and again, in frames: from `start` until before `end`. */
export interface HeardLoop {
  start: number;
  end: number;
  /** Frames before the end that go over into those before the start. */
  crossfade: number;
  /** How far what follows the seam differs from what would have followed, before the crossfade, dB against the sound there. */
  seam: number;
}

/** Where a loop may begin, as shares of the sounding part; tried in turn. */
const BEGINNINGS = [0.3, 0.4, 0.5, 0.6];
/** Seconds that a loop lasts: what is shorter buzzes, what is longer is not needed. */
const SHORTEST = 0.09;
const LONGEST = 1.6;
/** Seconds that are compared round the seam. */
const COMPARED = 0.012;
/** How much the level may fall or rise from a loop’s beginning to its end, dB. */
const MOST_DRIFT = 0.6;
/** Seconds over which levels are compared. */
const LEVEL_SECONDS = 0.06;
/** Periods that this takes in at least. */
const LEVEL_PERIODS = 4;
/** The most that the two sides of a seam may differ, dB: beyond it a crossfade would be heard as a swing. */
const MOST_SEAM = -24;
const CROSSFADE_SECONDS = 0.05;

/**
 * A loop in what sounds from `from` until before `to`, that neither clicks nor pulses; null where none is good: what decays
 * quickly or has no period has none. `period` is in frames, 0 where none is known.
 */
export function heardLoop(
  samples: Float32Array,
  from: number,
  to: number,
  sampleRate: number,
  period: number,
): HeardLoop | null {
  const length = to - from;
  let best: HeardLoop | null = null;
  for (const beginning of BEGINNINGS) {
    const start = risingZero(samples, Math.round(from + length * beginning), to);
    if (start === null) continue;
    const found = loopFrom(samples, start, to, sampleRate, period);
    if (found && (!best || found.seam < best.seam - 3)) best = found;
  }
  return best;
}

function loopFrom(
  samples: Float32Array,
  start: number,
  to: number,
  sampleRate: number,
  period: number,
): HeardLoop | null {
  const half = Math.round((COMPARED * sampleRate) / 2);
  const shortest = Math.round(SHORTEST * sampleRate);
  const longest = Math.min(Math.round(LONGEST * sampleRate), to - start - 2 * half);
  if (start < half || longest < shortest) return null;
  const window = Math.round(Math.max(LEVEL_SECONDS * sampleRate, LEVEL_PERIODS * period));
  const before = levelAt(samples, start, window);
  if (before === 0) return null;
  let best: HeardLoop | null = null;
  for (const end of endings(samples, start, shortest, longest, period)) {
    const drift = 20 * Math.log10(levelAt(samples, end, window) / before);
    if (!(Math.abs(drift) <= MOST_DRIFT)) continue;
    const seam = seamAt(samples, start, end, half);
    if (best && seam >= best.seam) continue;
    const crossfade = Math.min(
      Math.round(CROSSFADE_SECONDS * sampleRate),
      start,
      (end - start) >> 1,
    );
    best = { start, end, crossfade, seam };
  }
  return best && best.seam <= MOST_SEAM && isEven(samples, best, window) ? best : null;
}

/** Where a loop could end: a whole number of periods behind its start, or at any rising zero where none is known. */
function* endings(
  samples: Float32Array,
  start: number,
  shortest: number,
  longest: number,
  period: number,
): Iterable<number> {
  if (period > 0) {
    const most = 1200;
    const skip = Math.max(1, Math.floor((longest - shortest) / period / most));
    for (let n = Math.ceil(shortest / period); n * period <= longest; n += skip) {
      const near = start + Math.round(n * period);
      for (let off = -2; off <= 2; off++) if (near + off <= start + longest) yield near + off;
    }
    return;
  }
  let count = 0;
  for (let at = start + longest; at > start + shortest && count < 600; at--)
    if (samples[at - 1] < 0 && samples[at] >= 0) {
      count++;
      yield at;
    }
}

function risingZero(samples: Float32Array, from: number, to: number): number | null {
  for (let at = Math.max(1, from); at < to; at++)
    if (samples[at - 1] < 0 && samples[at] >= 0) return at;
  return null;
}

/** Root of the mean power of the frames round a place. */
function levelAt(samples: Float32Array, at: number, window: number): number {
  const from = Math.max(0, at - (window >> 1));
  const to = Math.min(samples.length, at + (window >> 1));
  let sum = 0;
  for (let i = from; i < to; i++) sum += samples[i] * samples[i];
  return to > from ? Math.sqrt(sum / (to - from)) : 0;
}

/** How far two places differ in what lies round them, dB against what lies round the first. */
function seamAt(samples: Float32Array, one: number, other: number, half: number): number {
  let difference = 0;
  let power = 1e-20;
  for (let i = -half; i < half; i++) {
    difference += (samples[one + i] - samples[other + i]) ** 2;
    power += samples[one + i] ** 2;
  }
  return 10 * Math.log10(difference / power + 1e-20);
}

/** Whether the level stays about the same all through: what swings inside a loop would be heard as a pulse. */
function isEven(samples: Float32Array, { start, end }: HeardLoop, window: number): boolean {
  let lowest = Infinity;
  let highest = 0;
  for (let at = start; at <= end; at += window >> 1) {
    const level = levelAt(samples, Math.min(at, end), window);
    lowest = Math.min(lowest, level);
    highest = Math.max(highest, level);
  }
  return 20 * Math.log10(highest / lowest) <= 1;
}
