import type { PartialTone } from '../partials.js';
import { house } from '../house-played.js';
import type { SoundRecipe } from '../recipe.js';
import { ringsFor, struck } from './shaping.js';

export const tinePiano: SoundRecipe = {
  ...house('tine-piano'),
  category: 'electric pianos',
  tags: ['bell-like', 'mellow', 'bark'],
  natural: { low: 28, high: 103 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [58, 92, 127],
  stereo: false,
  loopAfter: 1.4,
  loopSeconds: 1,
  ringing: (key) => ringsFor(2.2, key),
  partials({ key, frequency, strength, cycles }) {
    const ring = ringsFor(2.2, key);
    const bark = 0.12 + 0.75 * strength ** 1.5;
    const harmonics = [
      1,
      bark * 0.85,
      bark * 0.5,
      bark * 0.3,
      bark * 0.17,
      bark * 0.09,
      bark * 0.05,
    ];
    const tones = harmonics.map((amplitude, i) =>
      struck(cycles((i + 1) * frequency), amplitude, ring / (1 + 0.45 * i)),
    );
    const tine = (0.1 + 0.16 * strength) * Math.min(1, 600 / frequency);
    tones.push(struck(cycles(6.27 * frequency), tine, 0.14));
    tones.push(struck(cycles(17.55 * frequency), tine * 0.35, 0.05));
    return tones;
  },
  noise: ({ key, strength }) => ({
    amplitude: 0.12 + 0.2 * strength,
    decay: 0.008,
    cutoff: 1400,
    seed: 500 + key,
  }),
};

export const reedPiano: SoundRecipe = {
  ...house('reed-piano'),
  category: 'electric pianos',
  tags: ['reedy', 'biting', 'hollow'],
  natural: { low: 33, high: 96 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [62, 96, 127],
  stereo: false,
  loopAfter: 1.2,
  loopSeconds: 1,
  ringing: (key) => ringsFor(1.3, key),
  partials({ key, frequency, strength, cycles }) {
    const tones: PartialTone[] = [];
    const edge = 0.56 + 0.34 * strength;
    for (let n = 1; n <= 14; n++) {
      const odd = n % 2 === 1 ? 1 : 0.38;
      const amplitude = (odd * edge ** (n - 1)) / n ** 0.35;
      tones.push(
        struck(cycles(n * frequency), amplitude, ringsFor(1.3, key) / (1 + 0.28 * (n - 1))),
      );
    }
    return tones;
  },
  noise: ({ key }) => ({ amplitude: 0.1, decay: 0.006, cutoff: 2200, seed: 2500 + key }),
};
