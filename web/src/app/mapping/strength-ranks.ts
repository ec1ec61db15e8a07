import type { SampleZone } from '@pentachord/core/model';

/** Which strength each zone is, 0 softest: zones that begin at one velocity are of one strength, wherever they lie. */
export function strengthRanks(zones: readonly SampleZone[]): ReadonlyMap<string, number> {
  const lows = [...new Set(zones.map(({ velocities }) => velocities.low))].sort((a, b) => a - b);
  // Strengths of different notes begin a little apart; what is nearer than some steps is one.
  const ranks = new Map<number, number>();
  let rank = -1;
  let last = -Infinity;
  for (const low of lows) {
    if (low - last > NEAR) rank++;
    ranks.set(low, rank);
    last = low;
  }
  return new Map(zones.map(({ id, velocities }) => [id, ranks.get(velocities.low) ?? 0]));
}

/** Velocities within which zones begin that are of one strength. */
const NEAR = 8;
