import type { Partial } from './spectrum.js';

/** A fundamental and how far its partials are stretched: partial n lies at n · f0 · √(1 + B · n²). */
export interface Comb {
  f0: number;
  stretch: number;
  /** Share of the partials’ power that the comb explains, beyond what it would by chance. */
  explained: number;
  /** Share of the partials that it expects, up to the highest that it explains, which are there. */
  present: number;
}

/** As much as strings of any piano are stretched. */
const MOST_STRETCH = 2e-3;
/** Partials are taken in from the lowest up, since a fundamental that is a little off is far off for the thirtieth. */
const REACHES = [3, 6, 10, 16, 26, 42, 80];

/** Where a comb’s partial lies, Hz. */
export function partialAt(f0: number, stretch: number, n: number): number {
  return n * f0 * Math.sqrt(1 + stretch * n * n);
}

/**
 * Fits a comb to partials, from a fundamental that is roughly known: the fundamental and its stretching are found together by
 * weighted least squares of (fₙ / n)² = f0² · (1 + B · n²).
 * @param tolerance Hz that two partials may lie apart and still be told from each other
 */
export function fitComb(partials: readonly Partial[], roughly: number, tolerance: number): Comb {
  let f0 = roughly;
  let stretch = 0;
  for (const reach of REACHES) {
    const within = Math.max(tolerance, f0 * 0.06);
    const found = taken(partials, f0, stretch, within).filter(({ n }) => n <= reach);
    const fitted = leastSquares(found, reach < 10);
    if (fitted && Math.abs(Math.log2(fitted.f0 / roughly)) < 0.1) ({ f0, stretch } = fitted);
  }
  return judged(partials, f0, stretch, tolerance);
}

interface Taken {
  n: number;
  frequency: number;
  weight: number;
}

/** Partials that lie within some Hz of where the comb expects one, the strongest for each. */
function taken(partials: readonly Partial[], f0: number, stretch: number, within: number): Taken[] {
  const best = new Map<number, Taken>();
  for (const { frequency, strength } of partials) {
    const n = numberOf(frequency, f0, stretch);
    if (n < 1 || Math.abs(frequency - partialAt(f0, stretch, n)) > within) continue;
    const other = best.get(n);
    if (!other || other.weight < strength) best.set(n, { n, frequency, weight: strength });
  }
  return [...best.values()];
}

/** Which partial a frequency comes nearest to. */
function numberOf(frequency: number, f0: number, stretch: number): number {
  let n = Math.round(frequency / f0);
  // Stretched ones lie higher than their number says.
  for (let i = 0; i < 3; i++) n = Math.round(frequency / (f0 * Math.sqrt(1 + stretch * n * n)));
  return n;
}

function leastSquares(
  found: readonly Taken[],
  isEven: boolean,
): { f0: number; stretch: number } | null {
  if (found.length === 0) return null;
  let [w, x, y, xx, xy] = [0, 0, 0, 0, 0];
  for (const { n, frequency, weight } of found) {
    const square = (frequency / n) ** 2;
    // A place that is off by some Hz tells the more of the fundamental the higher its number is.
    const importance = weight * n ** 1.5;
    w += importance;
    x += importance * n * n;
    y += importance * square;
    xx += importance * n ** 4;
    xy += importance * n * n * square;
  }
  const spread = w * xx - x * x;
  // With few partials there is no telling what is stretched.
  const slope = !isEven && found.length > 2 && spread > 0 ? (w * xy - x * y) / spread : 0;
  const base = (y - slope * x) / w;
  const stretch = base > 0 ? slope / base : 0;
  if (stretch >= 0 && stretch <= MOST_STRETCH && base > 0) return { f0: Math.sqrt(base), stretch };
  return { f0: Math.sqrt(y / w), stretch: 0 };
}

function judged(
  partials: readonly Partial[],
  f0: number,
  stretch: number,
  tolerance: number,
): Comb {
  const within = Math.max(tolerance, f0 * 0.02);
  let power = 0;
  let explained = 0;
  const found = new Set<number>();
  let highest = 0;
  for (const { frequency, strength } of partials) {
    power += strength * strength;
    const n = numberOf(frequency, f0, stretch);
    if (n < 1 || Math.abs(frequency - partialAt(f0, stretch, n)) > within) continue;
    explained += strength * strength;
    found.add(n);
    highest = Math.max(highest, n);
  }
  if (power === 0) return { f0, stretch, explained: 0, present: 0 };
  const chance = Math.min(0.9, (2 * within) / f0);
  return {
    f0,
    stretch,
    explained: Math.max(0, (explained / power - chance) / (1 - chance)),
    present: highest > 0 ? found.size / highest : 0,
  };
}
