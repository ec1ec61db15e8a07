/** How a note is made that is listened to. */
export interface Note {
  key: number;
  cents: number;
  rate: number;
  seconds: number;
  partials: number;
  /** Partial n is 1 / n to this power as strong as the first. */
  tilt: number;
  /** Without its first partial. */
  isMissing: boolean;
  stretch: number;
  /** Cents to either side, at 5.5 Hz. */
  vibrato: number;
  /** dB against the note. */
  noise: number;
  /** Nepers a second. */
  decay: number;
  random: () => number;
}

/** A note of many partials. */
export function note(how: Note): Float32Array {
  const { rate, seconds, partials, tilt, isMissing, stretch, vibrato, noise, decay, random } = how;
  const samples = new Float32Array(Math.round(rate * seconds));
  const f0 = 440 * 2 ** ((how.key - 69 + how.cents / 100) / 12);
  for (let n = isMissing ? 2 : 1; n <= Math.max(2, partials); n++) {
    const frequency = n * f0 * Math.sqrt(1 + stretch * n * n);
    if (frequency > rate / 2.1) break;
    const phase = random() * 2 * Math.PI;
    const swing = ((vibrato / 1200) * Math.LN2 * frequency) / 5.5;
    for (let i = 0; i < samples.length; i++) {
      const t = i / rate;
      const turned =
        2 * Math.PI * (frequency * t) + phase + swing * Math.sin(2 * Math.PI * 5.5 * t);
      samples[i] += (Math.exp(-decay * t) / n ** tilt) * Math.sin(turned);
    }
  }
  const power = samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length;
  const size = Math.sqrt(12 * power) * 10 ** (noise / 20);
  const peak = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 1e-9);
  return samples.map((sample) => ((sample + size * (random() - 0.5)) / peak) * 0.5);
}
