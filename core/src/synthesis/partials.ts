import { addUp, type Run } from './adding.js';

/** One sine in a sound. Its frequency is a whole number of cycles in the loop, so that the loop has no seam. */
export interface PartialTone {
  cycles: number;
  amplitude: number;
  /** Seconds to fall to 1/e; Infinity for a partial that sustains. */
  decay: number;
  /** Seconds from silence to full. */
  attack: number;
  /** Radians at the start. */
  phase: number;
  /** −1 left … 1 right. */
  pan: number;
}

/** A burst of filtered noise at the start: a hammer, a finger, a bow. */
export interface NoiseBurst {
  amplitude: number;
  /** Seconds to fall to 1/e. */
  decay: number;
  /** Hz. */
  cutoff: number;
  seed: number;
}

/** Equal temperament, A4 = 440 Hz. */
export function frequencyOf(key: number): number {
  return 440 * 2 ** ((key - 69) / 12);
}

/** Pseudo-random numbers in [0, 1) from a seed (mulberry32), so that a sound comes out the same every time. */
export function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/**
 * Length of a loop in samples, near the wanted seconds, that holds the fundamental a whole number of times with the
 * smallest error of pitch.
 */
export function loopLength(frequency: number, sampleRate: number, wantedSeconds: number): number {
  const wanted = Math.max(1, Math.round(frequency * wantedSeconds));
  let best = 0;
  let bestError = Infinity;
  for (let cycles = Math.max(1, wanted - 12); cycles <= wanted + 12; cycles++) {
    const exact = (cycles * sampleRate) / frequency;
    const error = Math.abs(Math.round(exact) / exact - 1);
    if (error < bestError - 1e-12) {
      bestError = error;
      best = Math.round(exact);
    }
  }
  return best;
}

/** Strength at which a partial that dies away is over (−120 dB). */
const OVER = 1e-6;

/** A recording that partials make up: its length and its loop in samples. */
interface Recording {
  stereo: boolean;
  sampleRate: number;
  loopStart: number;
  loopSamples: number;
}

/**
 * The two sides of a recording made of partials, one array for a mono one. From `loopStart` on their strength stays as it
 * is there.
 */
export function renderPartials(
  partials: readonly PartialTone[],
  recording: Recording,
): [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] {
  const length = recording.loopStart + recording.loopSamples;
  const runs = partials.flatMap((partial) => runsOf(partial, length, recording));
  return addUp(runs, length, recording.stereo);
}

/** The runs that make up one partial: rising, dying away, held in the loop. */
function runsOf(
  { cycles, amplitude, decay, attack, phase, pan }: PartialTone,
  length: number,
  { stereo, sampleRate, loopStart, loopSamples }: Recording,
): Run[] {
  const turning = (2 * Math.PI * cycles) / loopSamples;
  const angle = ((pan + 1) * Math.PI) / 4;
  const dies = Number.isFinite(decay);
  const fall = dies ? Math.exp(-1 / (decay * sampleRate)) : 1;
  const heard = Math.ceil(Math.log(Math.abs(amplitude) / OVER) / -Math.log(fall));
  const end = dies ? Math.min(loopStart, Math.max(0, heard)) : length;
  const attackSamples = Math.max(1, attack * sampleRate);
  const risen = Math.min(end, Math.ceil(attackSamples));
  const whole: Run = {
    from: risen,
    to: end,
    strength: amplitude,
    fall,
    phase,
    turning,
    toLeft: stereo ? Math.cos(angle) * Math.SQRT2 : 1,
    toRight: Math.sin(angle) * Math.SQRT2,
  };
  // sin(w)·(½ − ½·cos(v)) = ½·sin(w) − ¼·sin(w + v) − ¼·sin(w − v): a rise is made of sines as well.
  const rise = Math.PI / attackSamples;
  const rising = { ...whole, from: 0, to: risen };
  const runs = [
    { ...rising, strength: amplitude / 2 },
    { ...rising, strength: -amplitude / 4, turning: turning + rise },
    { ...rising, strength: -amplitude / 4, turning: turning - rise },
    whole,
  ];
  if (dies && heard >= loopStart)
    runs.push({
      ...whole,
      from: loopStart,
      to: length,
      strength: amplitude * fall ** loopStart,
      fall: 1,
    });
  return runs;
}

/** Adds a noise burst that is over before the loop begins. */
export function addNoise(
  left: Float32Array,
  right: Float32Array,
  burst: NoiseBurst,
  sampleRate: number,
  loopStart: number,
): void {
  const random = seededRandom(burst.seed);
  const smoothing = 1 - Math.exp((-2 * Math.PI * burst.cutoff) / sampleRate);
  const fall = Math.exp(-1 / (burst.decay * sampleRate));
  const rise = Math.max(1, 0.0015 * sampleRate);
  const last = Math.min(loopStart, Math.ceil(burst.decay * 9 * sampleRate));
  let once = 0;
  let twice = 0;
  let strength = burst.amplitude;
  for (let i = 0; i < last; i++) {
    once += smoothing * (random() * 2 - 1 - once);
    twice += smoothing * (once - twice);
    const fadeOut = Math.min(1, (last - i) / 64);
    const sample = twice * strength * Math.min(1, i / rise) * fadeOut;
    left[i] += sample;
    if (right !== left) right[i] += sample;
    strength *= fall;
  }
}
