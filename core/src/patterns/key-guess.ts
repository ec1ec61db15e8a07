import type { PatternNote } from '../model/library/pattern.js';
import type { MusicalKey } from '../pitch/musical-keys.js';

/** How well each step above the tonic fits a key; from C. Krumhansl’s probe tone profiles (1990). */
const FIT = {
  major: [6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88],
  minor: [6.33, 2.68, 3.52, 5.38, 2.6, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17],
} as const;

/** How far the next best key may come near before nobody can say which it is. */
const CLEARLY = 0.03;

/** The key that notes seem to be in, by how long each pitch class sounds; and whether another fits nearly as well. Null for none. */
export function guessKey(
  notes: readonly Pick<PatternNote, 'key' | 'length'>[],
): { key: MusicalKey; isSure: boolean } | null {
  const sounding = new Array<number>(12).fill(0);
  for (const { key, length } of notes) sounding[key % 12] += Math.min(length, 4);
  if (sounding.filter((sum) => sum > 0).length < 3) return null;
  const fits = (['major', 'minor'] as const)
    .flatMap((mode) =>
      sounding.map((_sum, tonic) => ({
        key: { tonic, spelling: 'usual', mode } satisfies MusicalKey,
        fit: correlation(
          FIT[mode],
          sounding.map((_, step) => sounding[(tonic + step) % 12]),
        ),
      })),
    )
    .sort((a, b) => b.fit - a.fit);
  return { key: fits[0].key, isSure: fits[0].fit - fits[1].fit > CLEARLY };
}

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (list: readonly number[]) => list.reduce((sum, x) => sum + x, 0) / list.length;
  const [meanA, meanB] = [mean(a), mean(b)];
  let [both, squareA, squareB] = [0, 0, 0];
  a.forEach((x, i) => {
    both += (x - meanA) * (b[i] - meanB);
    squareA += (x - meanA) ** 2;
    squareB += (b[i] - meanB) ** 2;
  });
  return squareA * squareB === 0 ? 0 : both / Math.sqrt(squareA * squareB);
}
