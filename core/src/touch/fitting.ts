import { EVEN_TOUCH, touchOut, type Touch } from './touch.js';

/** How hard a player means a stroke. */
export const STROKE_KINDS = ['soft', 'medium', 'hard'] as const;
export type StrokeKind = (typeof STROKE_KINDS)[number];

/** Strokes of each kind that are asked for. */
export const STROKES_ASKED = 5;

/** A stroke as it landed. */
export interface Stroke {
  meant: StrokeKind;
  /** 1–127. */
  velocity: number;
}

/** What a stroke of each kind is to give. */
export const WANTED: Readonly<Record<StrokeKind, number>> = { soft: 30, medium: 70, hard: 115 };

/** Two kinds of strokes whose middles are nearer than this are not told apart. */
const LEAST_APART = 3;

/** The middle one of numbers; of an even number the mean of the two in the middle. One slip does not move it far. */
export function median(numbers: readonly number[]): number {
  const sorted = [...numbers].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  if (sorted.length === 0) return 0;
  return sorted.length % 2 === 1 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}

/**
 * The touch under which the middles of a player’s soft, medium and hard strokes come nearest to {@link WANTED} (least squares
 * over the highest strength in, the lowest out and the bend); of several the one nearest to an even touch. It rises or stays,
 * as every touch does. Null when strokes of a kind are wanting, or the kinds are not told apart.
 */
export function fittedTouch(strokes: readonly Stroke[]): Touch | null {
  const middles = STROKE_KINDS.map((kind) =>
    Math.round(
      median(strokes.filter(({ meant }) => meant === kind).map(({ velocity }) => velocity)),
    ),
  );
  const [soft, medium, hard] = middles;
  if (soft < 1 || medium - soft < LEAST_APART || hard - medium < LEAST_APART) return null;
  let found = EVEN_TOUCH;
  let least = Infinity;
  for (let inHigh = hard; inHigh <= 127; inHigh++)
    for (let outLow = 1; outLow <= WANTED.soft; outLow++)
      for (let step = -20; step <= 20; step++) {
        const touch = { ...EVEN_TOUCH, inHigh, outLow, bend: step / 20 };
        const miss = STROKE_KINDS.reduce(
          (sum, kind, at) => sum + (touchOut(touch, middles[at]) - WANTED[kind]) ** 2,
          0,
        );
        const uneven = (127 - inHigh) / 127 + outLow / 127 + Math.abs(touch.bend);
        if (miss + uneven / 100 >= least) continue;
        least = miss + uneven / 100;
        found = touch;
      }
  return found;
}
