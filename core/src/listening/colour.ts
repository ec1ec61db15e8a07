import { spectrumAt } from './spectrum.js';

/** Middles of the octave bands that a colour is told by, Hz. */
const BANDS = [62.5, 125, 250, 500, 1000, 2000, 4000, 8000, 16_000];
const SIZE = 8192;
const STRETCHES = 4;
const FAINTEST = -90;

/** Level of each octave band against the whole, dB, over the first second of what sounds: what tells two strokes apart besides loudness. */
export function colourOf(
  samples: Float32Array,
  from: number,
  to: number,
  sampleRate: number,
): number[] {
  const powers = BANDS.map(() => 0);
  const last = Math.max(from, Math.min(to - SIZE, from + sampleRate));
  for (let i = 0; i < STRETCHES; i++) {
    const at = Math.round(from + ((last - from) * i) / (STRETCHES - 1));
    const { magnitudes, binWidth } = spectrumAt(samples, at, SIZE, sampleRate);
    magnitudes.forEach((magnitude, bin) => {
      const band = Math.round(Math.log2((bin * binWidth) / BANDS[0]));
      if (band >= 0 && band < BANDS.length) powers[band] += magnitude * magnitude;
    });
  }
  const whole = powers.reduce((sum, power) => sum + power, 0);
  return powers.map((power) =>
    whole > 0
      ? Number(Math.max(FAINTEST, 10 * Math.log10(power / whole + 1e-12)).toFixed(1)) + 0
      : FAINTEST,
  );
}
