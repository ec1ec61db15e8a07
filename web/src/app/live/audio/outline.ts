/** Stretches of an outline. */
export const OUTLINE = 160;

/** How a recording looks from afar: lowest and highest sample of each of some stretches by turns, −128…127. */
export function outlineOf(
  samples: Float32Array | Int16Array,
  from = 0,
  to = samples.length,
  stretches = OUTLINE,
): Int8Array {
  const unit = samples instanceof Int16Array ? 1 / 256 : 127;
  const outline = new Int8Array(2 * stretches);
  const length = to - from;
  for (let i = 0; i < stretches; i++) {
    const begin = from + Math.floor((i * length) / stretches);
    const end = Math.max(begin + 1, from + Math.floor(((i + 1) * length) / stretches));
    let lowest = 0;
    let highest = 0;
    for (let at = Math.max(0, begin); at < Math.min(end, samples.length); at++) {
      lowest = Math.min(lowest, samples[at]);
      highest = Math.max(highest, samples[at]);
    }
    outline[2 * i] = Math.max(-128, Math.round(lowest * unit));
    outline[2 * i + 1] = Math.min(127, Math.round(highest * unit));
  }
  return outline;
}
