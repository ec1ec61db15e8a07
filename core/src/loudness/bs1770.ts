/** Loudness relative to full scale, in LUFS (ITU-R BS.1770-4). */
export type Lufs = number;

/** Two channels of the same length. */
export interface StereoSignal {
  left: Float32Array;
  right: Float32Array;
  /** Frames per second. */
  sampleRate: number;
}

interface Biquad {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

const BLOCK_SECONDS = 0.4;
/** Blocks overlap by three quarters. */
const STEPS_PER_BLOCK = 4;
const ABSOLUTE_GATE: Lufs = -70;
const RELATIVE_GATE = 10;
const OFFSET = -0.691;

/**
 * The two filters of the K weighting for any sample rate: a high shelf for the head, then a high-pass. The recommendation
 * gives them for 48 kHz; these are the analogue prototypes behind those numbers, brought over by the bilinear transform.
 */
export function kWeighting(sampleRate: number): [shelf: Biquad, highPass: Biquad] {
  const shelf = (() => {
    const k = Math.tan((Math.PI * 1681.974450955533) / sampleRate);
    const q = 0.7071752369554196;
    const high = 10 ** (3.999843853973347 / 20);
    const band = high ** 0.4996667741545416;
    const scale = 1 + k / q + k * k;
    return {
      b0: (high + (band * k) / q + k * k) / scale,
      b1: (2 * (k * k - high)) / scale,
      b2: (high - (band * k) / q + k * k) / scale,
      a1: (2 * (k * k - 1)) / scale,
      a2: (1 - k / q + k * k) / scale,
    };
  })();
  const k = Math.tan((Math.PI * 38.13547087602444) / sampleRate);
  const q = 0.5003270373238773;
  const scale = 1 + k / q + k * k;
  return [
    shelf,
    { b0: 1, b1: -2, b2: 1, a1: (2 * (k * k - 1)) / scale, a2: (1 - k / q + k * k) / scale },
  ];
}

/** Integrated loudness of a whole signal, gated as the recommendation says; −∞ for silence. */
export function integratedLoudness(signal: StereoSignal): Lufs {
  const powers = blockPowers(signal);
  const audible = powers.filter((power) => lufsOf(power) > ABSOLUTE_GATE);
  if (audible.length === 0) return -Infinity;
  const gate = lufsOf(mean(audible)) - RELATIVE_GATE;
  // The loudest block is never below their mean, so that some are left.
  return lufsOf(mean(audible.filter((power) => lufsOf(power) > gate)));
}

/** Loudness of the loudest 400 ms, wherever they begin: what a single note is heard as. −∞ for silence. */
export function momentaryMaximum(signal: StereoSignal): Lufs {
  const squares = weightedSquares(signal);
  const block = blockLength(squares, signal.sampleRate);
  let sum = 0;
  let most = 0;
  for (let i = 0; i < squares.length; i++) {
    sum += squares[i];
    if (i >= block) sum -= squares[i - block];
    if (sum > most) most = sum;
  }
  return lufsOf(most / Math.max(1, block));
}

/** Power that loudness stands for, so that loudnesses can be added. */
export function powerOf(loudness: Lufs): number {
  return 10 ** ((loudness - OFFSET) / 10);
}

/** Loudness of a power; −∞ for none, and for less than none, which differences of sums can come to. */
export function lufsOf(power: number): Lufs {
  return power <= 0 ? -Infinity : OFFSET + 10 * Math.log10(power);
}

/** Mean power, both channels together, of every 400 ms block; of the whole signal when it is shorter. */
function blockPowers(signal: StereoSignal): number[] {
  const squares = weightedSquares(signal);
  const block = blockLength(squares, signal.sampleRate);
  if (block === 0) return [];
  const step = Math.max(1, Math.round(block / STEPS_PER_BLOCK));
  const powers: number[] = [];
  for (let from = 0; from + block <= squares.length; from += step) {
    let sum = 0;
    for (let i = from; i < from + block; i++) sum += squares[i];
    powers.push(sum / block);
  }
  return powers;
}

function blockLength(squares: Float64Array, sampleRate: number): number {
  return Math.min(squares.length, Math.round(BLOCK_SECONDS * sampleRate));
}

/** Power of each frame, K-weighted, both channels together. */
function weightedSquares({ left, right, sampleRate }: StereoSignal): Float64Array {
  const squares = kWeighted(left, sampleRate);
  const other = kWeighted(right, sampleRate);
  for (let i = 0; i < squares.length; i++)
    squares[i] = squares[i] * squares[i] + other[i] * other[i];
  return squares;
}

/** One channel after the two filters of the K weighting. They are linear: what is weighted can be mixed afterwards. */
export function kWeighted(samples: Float32Array, sampleRate: number): Float64Array {
  const [shelf, highPass] = kWeighting(sampleRate);
  const weighted = new Float64Array(samples.length);
  let x1 = 0;
  let x2 = 0;
  let y1 = 0;
  let y2 = 0;
  let z1 = 0;
  let z2 = 0;
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i];
    const y = shelf.b0 * x + shelf.b1 * x1 + shelf.b2 * x2 - shelf.a1 * y1 - shelf.a2 * y2;
    const z =
      highPass.b0 * y + highPass.b1 * y1 + highPass.b2 * y2 - highPass.a1 * z1 - highPass.a2 * z2;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    z2 = z1;
    z1 = z;
    weighted[i] = z;
  }
  return weighted;
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}
