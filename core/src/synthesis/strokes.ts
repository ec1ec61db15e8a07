import { seededRandom } from './partials.js';

/** A struck skin, bar or tube: a sine that slides from one pitch to another and dies away. */
export interface StruckTone {
  /** Hz at the stroke and after it. */
  from: number;
  to: number;
  /** Seconds in which the slide has gone to 1/e of its way. */
  slide: number;
  /** Seconds to 1/e. */
  decay: number;
  amplitude: number;
}

/** Rattling, hissing, scraping: noise between two frequencies. */
export interface StruckNoise {
  amplitude: number;
  /** Seconds to full, and from there to 1/e. */
  attack: number;
  decay: number;
  /** Hz. */
  lowCut: number;
  highCut: number;
  seed: number;
  /** Seconds after the stroke at which it begins. */
  after?: number;
}

/** One stroke on an instrument without keys. */
export interface KitStroke {
  tones: StruckTone[];
  noises: StruckNoise[];
  seconds: number;
}

/** Times its decay after which a part of a stroke is over (−121 dB). */
const OVER_AFTER = 14;
/** Seconds at the end over which what is left fades out. */
const TAIL = 0.03;

/** Renders a stroke; gentler ones (`strength` below 1) are darker and slide less. */
export function renderStroke(
  { tones, noises, seconds }: KitStroke,
  strength: number,
  sampleRate: number,
): Float32Array<ArrayBuffer> {
  const samples = new Float32Array(Math.ceil(seconds * sampleRate));
  for (const tone of tones) addTone(samples, tone, strength, sampleRate);
  for (const noise of noises) addRattle(samples, noise, strength, sampleRate);
  const tail = Math.round(TAIL * sampleRate);
  for (let i = 0; i < tail; i++) samples[samples.length - 1 - i] *= i / tail;
  return samples;
}

function addTone(
  samples: Float32Array,
  { from, to, slide, decay, amplitude }: StruckTone,
  strength: number,
  sampleRate: number,
): void {
  const fall = Math.exp(-1 / (decay * sampleRate));
  const settle = Math.exp(-1 / (slide * sampleRate));
  const rise = 0.0006 * sampleRate;
  const step = (2 * Math.PI * to) / sampleRate;
  let extra = (2 * Math.PI * (from - to) * (0.5 + 0.5 * strength)) / sampleRate;
  let phase = 0;
  let size = amplitude;
  const last = Math.min(samples.length, decay * OVER_AFTER * sampleRate);
  for (let i = 0; i < last; i++) {
    samples[i] += size * Math.sin(phase) * Math.min(1, i / rise);
    phase += step + extra;
    extra *= settle;
    size *= fall;
  }
}

function addRattle(
  samples: Float32Array,
  { amplitude, attack, decay, lowCut, highCut, seed, after = 0 }: StruckNoise,
  strength: number,
  sampleRate: number,
): void {
  const random = seededRandom(seed);
  const low = smoothing(highCut * (0.45 + 0.55 * strength), sampleRate);
  const high = smoothing(lowCut, sampleRate);
  let once = 0;
  let twice = 0;
  let belowOnce = 0;
  let belowTwice = 0;
  const fall = Math.exp(-1 / (decay * sampleRate));
  const begin = Math.round(after * sampleRate);
  const last = Math.min(samples.length, begin + decay * OVER_AFTER * sampleRate);
  let size = amplitude;
  for (let i = begin; i < last; i++) {
    once += low * (random() * 2 - 1 - once);
    twice += low * (once - twice);
    belowOnce += high * (twice - belowOnce);
    belowTwice += high * (belowOnce - belowTwice);
    samples[i] += size * (twice - belowTwice) * Math.min(1, (i - begin) / (attack * sampleRate));
    size *= fall;
  }
}

function smoothing(cutoff: number, sampleRate: number): number {
  return 1 - Math.exp((-2 * Math.PI * cutoff) / sampleRate);
}
