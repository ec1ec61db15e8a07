/** The most and the least that a trim can move a level, dB. */
export const MOST_TRIM_DB = 12;
export const LEAST_TRIM_DB = -24;
