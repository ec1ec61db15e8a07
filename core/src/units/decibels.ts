/** A level in decibels; at and below {@link SILENCE_DB} it is silence. */
export type Decibels = number;

/** The level that counts as silence. */
export const SILENCE_DB: Decibels = -60;
/** The highest level a layer can be set to. */
export const LOUDEST_DB: Decibels = 12;

/** Linear gain of a level; silence at −60 dB and below. */
export function gainFromDb(level: Decibels): number {
  return level <= SILENCE_DB ? 0 : 10 ** (level / 20);
}

/** Level of a linear gain, −∞ for 0. */
export function dbFromGain(gain: number): Decibels {
  return 20 * Math.log10(gain);
}

/** How a level is written: `−4.0 dB`, with a true minus sign. */
export function formatDb(level: Decibels, digits = 1): string {
  if (level <= SILENCE_DB || Number.isNaN(level)) return '−∞ dB';
  const rounded = level.toFixed(digits);
  const plain = Number(rounded) === 0 ? (0).toFixed(digits) : rounded;
  return `${plain.replace('-', '−')} dB`;
}
