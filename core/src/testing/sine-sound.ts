import type { LoadedSound } from '../sampler/zone-table.js';

const SAMPLE_RATE = 48_000;

/** A sound of one sine of 440 Hz at A4 that holds for ever, with its phase in turns. */
export function sineSound({
  phase = 0,
  amplitude = 0.25,
  attack = 0.001,
}: { phase?: number; amplitude?: number; attack?: number } = {}): LoadedSound {
  const left = Float32Array.from(
    { length: SAMPLE_RATE },
    (_, i) => amplitude * Math.sin(2 * Math.PI * ((i * 440) / SAMPLE_RATE + phase)),
  );
  return {
    voicing: { attack, release: 0.1, dynamics: 0, brightness: 22_000, darkening: 0 },
    zones: [
      {
        ...{ rootKey: 69, keys: { low: 0, high: 127 }, velocities: { low: 1, high: 127 } },
        ...{ sampleRate: SAMPLE_RATE, left, right: left },
        ...{ loopStart: 0, loopEnd: SAMPLE_RATE, loopDecay: 0 },
      },
    ],
  };
}
