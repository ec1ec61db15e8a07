/** Seconds that a click lasts. */
const LENGTH = 0.04;
/** Hertz of a click, and of the first of a bar. */
const PITCH = 1250;
const FIRST_PITCH = 1875;

/** A click of a metronome: a short sine that begins at a zero and dies away, peak near 1. */
export function renderClick(sampleRate: number, isFirst: boolean): Float32Array {
  const pitch = isFirst ? FIRST_PITCH : PITCH;
  return Float32Array.from({ length: Math.round(LENGTH * sampleRate) }, (_, i) => {
    const time = i / sampleRate;
    const attack = Math.min(1, time / 0.0005);
    return attack * Math.exp(-time / 0.008) * Math.sin(2 * Math.PI * pitch * time);
  });
}
