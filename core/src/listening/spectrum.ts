import FFT from 'fft.js';

/** A sine that stands out of a spectrum. */
export interface Partial {
  /** Hz, between the bins. */
  frequency: number;
  /** Amplitude, on a scale of its own that is the same within one spectrum. */
  strength: number;
}

/** Magnitudes of a stretch of sound, with how far apart its bins are. */
export interface Spectrum {
  magnitudes: Float64Array;
  /** Hz from bin to bin. */
  binWidth: number;
}

const transforms = new Map<
  number,
  { fft: FFT; window: Float64Array; input: number[]; output: number[] }
>();

function transformOf(size: number) {
  let found = transforms.get(size);
  if (!found) {
    const fft = new FFT(size);
    const window = Float64Array.from({ length: size }, (_, i) => blackmanHarris(i / size));
    found = {
      fft,
      window,
      input: new Array<number>(size).fill(0),
      output: fft.createComplexArray(),
    };
    transforms.set(size, found);
  }
  return found;
}

/** Four-term window of Blackman and Harris: side lobes 92 dB down, so that a loud partial hides no faint one. */
function blackmanHarris(t: number): number {
  const x = 2 * Math.PI * t;
  return 0.35875 - 0.48829 * Math.cos(x) + 0.14128 * Math.cos(2 * x) - 0.01168 * Math.cos(3 * x);
}

/** Bins that the main lobe of that window is wide to either side. */
export const LOBE = 4;

/** The spectrum of `size` samples (a power of two) from a place on; silence behind the end. */
export function spectrumAt(
  samples: Float32Array,
  from: number,
  size: number,
  sampleRate: number,
): Spectrum {
  const { fft, window, input, output } = transformOf(size);
  for (let i = 0; i < size; i++) input[i] = (samples[from + i] ?? 0) * window[i];
  fft.realTransform(output, input);
  const magnitudes = new Float64Array(size / 2);
  for (let bin = 0; bin < size / 2; bin++)
    magnitudes[bin] = Math.hypot(output[2 * bin], output[2 * bin + 1]);
  return { magnitudes, binWidth: sampleRate / size };
}

/** Peaks of a spectrum that stand above a share of its highest, by frequency; found between bins by a parabola in dB. */
export function partialsOf({ magnitudes, binWidth }: Spectrum, share: number): Partial[] {
  let highest = 0;
  for (const magnitude of magnitudes) highest = Math.max(highest, magnitude);
  const partials: Partial[] = [];
  for (let bin = 2; bin < magnitudes.length - 2; bin++) {
    const here = magnitudes[bin];
    if (here < highest * share || here < magnitudes[bin - 1] || here <= magnitudes[bin + 1])
      continue;
    if (here < magnitudes[bin - 2] || here < magnitudes[bin + 2]) continue;
    const before = Math.log(magnitudes[bin - 1] + 1e-30);
    const at = Math.log(here + 1e-30);
    const after = Math.log(magnitudes[bin + 1] + 1e-30);
    const off = (before - after) / (2 * (before - 2 * at + after));
    partials.push({ frequency: (bin + off) * binWidth, strength: here });
  }
  return partials;
}
