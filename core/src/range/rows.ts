import type { Span } from './range.js';

/** On which row each span stands, from 0: the first on which it covers none of those before it. */
export function rowsOf(spans: readonly Span[]): number[] {
  const ends: number[] = [];
  return spans.map(({ low, high }) => {
    const free = ends.findIndex((end) => end < low);
    const row = free < 0 ? ends.length : free;
    ends[row] = high;
    return row;
  });
}
