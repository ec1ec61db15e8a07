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

/** Adds one partial to a stereo recording. From `loopStart` on its strength stays as it is there. */
export function addPartial(
  left: Float32Array,
  right: Float32Array,
  partial: PartialTone,
  sampleRate: number,
  loopStart: number,
  loopSamples: number,
): void {
  const step = (2 * Math.PI * partial.cycles) / loopSamples;
  const angle = ((partial.pan + 1) * Math.PI) / 4;
  const dies = Number.isFinite(partial.decay);
  const fall = dies ? Math.exp(-1 / (partial.decay * sampleRate)) : 1;
  const whole: Destination = {
    left,
    right,
    toLeft: left === right ? 1 : Math.cos(angle) * Math.SQRT2,
    toRight: Math.sin(angle) * Math.SQRT2,
    step,
  };
  const size = Math.abs(partial.amplitude);
  const heard = dies ? Math.ceil(Math.log(size / OVER) / -Math.log(fall)) : left.length;
  const dying = Math.min(left.length, loopStart, Math.max(0, heard));
  const rising = Math.min(dying, Math.ceil(Math.max(1, partial.attack * sampleRate)));
  // One sine through the recursion y[n] = 2·r·cos(w)·y[n−1] − r²·y[n−2]: two multiplications a sample.
  addRising(whole, partial, fall, rising, partial.attack * sampleRate);
  addRun(whole, partial, fall, rising, dying);
  if (dying < loopStart) return;
  const held = { ...partial, amplitude: partial.amplitude * fall ** loopStart };
  addRun(whole, held, 1, loopStart, left.length);
}

/** Where a partial is added to, how much of it to each side, and radians a sample. */
interface Destination {
  left: Float32Array;
  right: Float32Array;
  toLeft: number;
  toRight: number;
  step: number;
}

/** The first samples, while it rises from silence. */
function addRising(
  { left, right, toLeft, toRight, step }: Destination,
  { amplitude, phase }: PartialTone,
  fall: number,
  to: number,
  attackSamples: number,
): void {
  let strength = amplitude;
  for (let i = 0; i < to; i++) {
    const rise = i < attackSamples ? 0.5 - 0.5 * Math.cos((Math.PI * i) / attackSamples) : 1;
    const sample = Math.sin(phase + step * i) * strength * rise;
    left[i] += sample * toLeft;
    if (right !== left) right[i] += sample * toRight;
    strength *= fall;
  }
}

/** From one sample to another at full strength, which falls by a factor a sample. */
function addRun(
  { left, right, toLeft, toRight, step }: Destination,
  { amplitude, phase }: PartialTone,
  fall: number,
  from: number,
  to: number,
): void {
  const strength = fall === 1 ? amplitude : amplitude * fall ** from;
  const twice = 2 * fall * Math.cos(step);
  const square = fall * fall;
  let now = strength * Math.sin(phase + step * from);
  let before = (strength / fall) * Math.sin(phase + step * (from - 1));
  if (left === right) {
    for (let i = from; i < to; i++) {
      left[i] += now;
      const next = twice * now - square * before;
      before = now;
      now = next;
    }
    return;
  }
  for (let i = from; i < to; i++) {
    left[i] += now * toLeft;
    right[i] += now * toRight;
    const next = twice * now - square * before;
    before = now;
    now = next;
  }
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
