import type { Span } from '../range/range.js';
import { splitEvenly } from '../range/splits.js';
import type { Lufs } from '../loudness/bs1770.js';

/** Velocities that each strength has at least. */
const LEAST_STEPS = 4;
/** Spread of loudness that strengths are placed by at least, dB. */
const LEAST_SPREAD = 12;
const SOFTEST = 1;
const HARDEST = 127;

/**
 * Shares keys out among roots, so that each lies in the middle of its own: boundaries lie half-way between neighbours, and a key
 * that is equally far from both goes to the higher one. Equal roots have the same keys.
 * @param roots MIDI keys, in any order
 * @param span the keys that are shared out
 * @returns spans in the order of the roots; null for a root whose keys all lie outside
 */
export function rootsInTheMiddle(roots: readonly number[], span: Span): (Span | null)[] {
  const sorted = [...new Set(roots)].sort((a, b) => a - b);
  return roots.map((root) => {
    const at = sorted.indexOf(root);
    const low = at === 0 ? span.low : Math.max(span.low, middleOf(sorted[at - 1], root));
    const high =
      at === sorted.length - 1
        ? span.high
        : Math.min(span.high, middleOf(root, sorted[at + 1]) - 1);
    return low <= high ? { low, high } : null;
  });
}

/** The lowest key that belongs to the higher of two roots. */
function middleOf(lower: number, higher: number): number {
  return Math.ceil((lower + higher) / 2);
}

/**
 * Velocities 1–127 shared out among strengths as equally as whole steps allow, the wider ones first.
 * @throws RangeError for less than one strength, or more than there are velocities
 */
export function strengthsEvenly(count: number): Span[] {
  if (!Number.isInteger(count) || count < 1 || count > HARDEST)
    throw new RangeError(`velocities cannot be shared out among ${count} strengths`);
  const all = { low: SOFTEST, high: HARDEST, fadeIn: 0, fadeOut: 0, law: 'equalPower' as const };
  return splitEvenly(all, count).map(({ low, high }) => ({ low, high }));
}

/**
 * Velocities 1–127 shared out among strengths by how loud their recordings are: vᵢ = 127 − 126 · (L_max − Lᵢ) / D, held to 1…127,
 * boundaries half-way between neighbours, rounded down; none has less than four steps.
 * @param loudness LUFS, in any order
 * @param spread dB between velocity 1 and 127; without it that of the recordings, at least 12
 * @returns spans in the order given
 * @throws RangeError for a spread of 0 or less, a loudness that is no number, or more strengths than velocities
 */
export function strengthsByLoudness(loudness: readonly Lufs[], spread?: number): Span[] {
  if (loudness.length === 0) return [];
  if (loudness.some((l) => Number.isNaN(l))) throw new RangeError('a loudness is no number');
  if (spread !== undefined && !(spread > 0))
    throw new RangeError(`a spread of ${spread} dB places nothing`);
  if (loudness.length > HARDEST)
    throw new RangeError(`velocities cannot be shared out among ${loudness.length} strengths`);
  const loudest = Math.max(...loudness);
  const d = spread ?? Math.max(LEAST_SPREAD, loudest - Math.min(...loudness));
  const velocityOf = (l: Lufs) => held(HARDEST - (126 * (loudest - l)) / d);
  const order = loudness.map((_, i) => i).sort((a, b) => loudness[a] - loudness[b] || a - b);
  const sorted = order.map((i) => velocityOf(loudness[i]));
  const highs = sorted.map((v, i) =>
    i === sorted.length - 1 ? HARDEST : Math.floor((v + sorted[i + 1]) / 2),
  );
  spreadOut(highs);
  const spans = new Array<Span>(loudness.length);
  order.forEach((given, i) => {
    spans[given] = { low: i === 0 ? SOFTEST : highs[i - 1] + 1, high: highs[i] };
  });
  return spans;
}

function held(velocity: number): number {
  // A recording of silence is as soft as can be.
  return Number.isFinite(velocity) ? Math.min(HARDEST, Math.max(SOFTEST, velocity)) : SOFTEST;
}

/** Moves boundaries apart until each strength has its least steps, from the softest up and then from the hardest down. */
function spreadOut(highs: number[]): void {
  const least = Math.min(LEAST_STEPS, Math.floor(HARDEST / highs.length));
  for (let i = 0; i < highs.length - 1; i++)
    highs[i] = Math.max(highs[i], (i === 0 ? 0 : highs[i - 1]) + least);
  for (let i = highs.length - 2; i >= 0; i--) highs[i] = Math.min(highs[i], highs[i + 1] - least);
}
