/** Beats that a pattern lasts at most, and notes that it holds. */
export const LONGEST_PATTERN = 256;
export const MOST_PATTERN_NOTES = 4096;
/** Length of the shortest note, beats. */
export const SHORTEST_NOTE = 1 / 960;

/** Note values that a pattern can be moved to or thinned to, in quarters: 1/4 … 1/32, triplets between them. */
export const GRID_STEPS = [1, 2 / 3, 1 / 2, 1 / 3, 1 / 4, 1 / 6, 1 / 8] as const;
