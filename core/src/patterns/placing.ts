import type { Accompanist, BandKey } from '../model/patch/accompanist.js';
import type { Span } from '../range/range.js';

/** The next key of a place on which nothing is started yet, after the last of an accompanist’s own; null where none is left. */
export function nextFreeKey(
  accompanist: Pick<Accompanist, 'id' | 'place' | 'patterns' | 'stopKey'>,
  all: readonly Accompanist[],
  bandKeys: readonly BandKey[],
  { low, high }: Span,
): number | null {
  const taken = new Set([
    ...all
      .filter(({ place }) => place === accompanist.place)
      .flatMap(({ patterns, stopKey }) => [...patterns.map(({ key }) => key), stopKey ?? -1]),
    ...bandKeys.filter(({ place }) => place === accompanist.place).map(({ key }) => key),
  ]);
  const last = Math.max(...accompanist.patterns.map(({ key }) => key), low - 1);
  for (let key = last + 1; key <= high; key++) if (!taken.has(key)) return key;
  for (let key = low; key <= last; key++) if (!taken.has(key)) return key;
  return null;
}
