/** A number from 0 to below 1, always the same ones in the same order. */
export function chance(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A note made of partials, as recordings are that are listened to. */
export interface Tone {
  key: number;
  cents?: number;
  sampleRate?: number;
  seconds?: number;
  partials?: number;
  /** Partial n is 1 / n to this power as strong as the first. */
  tilt?: number;
  /** Without its first partial. */
  isMissing?: boolean;
  /** Partials are stretched as those of a string. */
  stretch?: number;
  /** Cents to either side, at 5.5 Hz. */
  vibrato?: number;
  /** dB against the tone. */
  noise?: number;
  /** How fast it falls, nepers a second. */
  decay?: number;
  peak?: number;
  chance?: () => number;
}

/** Renders a note. */
export function tone({
  key,
  cents = 0,
  sampleRate = 48_000,
  seconds = 1,
  partials = 12,
  tilt = 1,
  isMissing = false,
  stretch = 0,
  vibrato = 0,
  noise,
  decay = 0,
  peak = 0.5,
  chance: next = chance(key),
}: Tone): Float32Array {
  const samples = new Float32Array(Math.round(seconds * sampleRate));
  const f0 = 440 * 2 ** ((key - 69 + cents / 100) / 12);
  const swing = (vibrato / 1200) * Math.LN2;
  for (let n = isMissing ? 2 : 1; n <= partials; n++) {
    const frequency = n * f0 * Math.sqrt(1 + stretch * n * n);
    if (frequency > sampleRate / 2.1) break;
    const phase = next() * 2 * Math.PI;
    for (let i = 0; i < samples.length; i++) {
      const t = i / sampleRate;
      const turned = 2 * Math.PI * frequency * t + phase;
      const swung = ((swing * frequency) / 5.5) * Math.sin(2 * Math.PI * 5.5 * t);
      samples[i] += (Math.exp(-decay * t * Math.sqrt(n)) / n ** tilt) * Math.sin(turned + swung);
    }
  }
  return scaledTo(peak, noise === undefined ? samples : withNoise(samples, noise, next));
}

function withNoise(samples: Float32Array, level: number, next: () => number): Float32Array {
  const power = samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length;
  const size = Math.sqrt(power) * 10 ** (level / 20) * Math.sqrt(12);
  return samples.map((sample) => sample + size * (next() - 0.5));
}

function scaledTo(peak: number, samples: Float32Array): Float32Array {
  const highest = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
  return samples.map((sample) => (sample / highest) * peak);
}
