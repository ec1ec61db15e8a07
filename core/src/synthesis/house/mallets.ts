import { house } from '../house-played.js';
import type { SoundRecipe } from '../recipe.js';
import { ringsFor, struck } from './shaping.js';

export const glassBells: SoundRecipe = {
  ...house('glass-bells'),
  category: 'mallets and bells',
  tags: ['bright', 'clear', 'struck'],
  natural: { low: 48, high: 108 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [84, 127],
  stereo: true,
  loopAfter: 1.5,
  loopSeconds: 1,
  ringing: (key) => ringsFor(1.9, key),
  partials({ key, frequency, strength, cycles }) {
    const ring = ringsFor(1.9, key);
    const ratios = [1, 2, 2.76, 4.02, 5.4, 8.93];
    const weights = [1, 0.32, 0.3 + 0.2 * strength, 0.12, 0.14 + 0.22 * strength, 0.1 * strength];
    return ratios.flatMap((ratio, i) => {
      const decay = ring / (1 + 0.8 * i);
      const f = ratio * frequency;
      const pan = i === 0 ? 0 : i % 2 === 0 ? 0.5 : -0.5;
      return [
        struck(cycles(f), weights[i], decay, pan),
        struck(cycles(f + 0.7 + 0.3 * i), weights[i] * 0.5, decay * 1.1, -pan),
      ];
    });
  },
};

export const woodenBars: SoundRecipe = {
  ...house('wooden-bars'),
  category: 'mallets and bells',
  tags: ['warm', 'round', 'struck'],
  natural: { low: 41, high: 96 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [76, 127],
  stereo: false,
  loopAfter: 0.9,
  loopSeconds: 0.5,
  ringing: (key) => ringsFor(0.42, key),
  partials: ({ key, frequency, strength, cycles }) => [
    struck(cycles(frequency), 1, ringsFor(0.42, key)),
    struck(cycles(4 * frequency), 0.16 + 0.2 * strength, ringsFor(0.12, key)),
    struck(cycles(9.2 * frequency), 0.04 + 0.1 * strength, ringsFor(0.045, key)),
  ],
  noise: ({ key, strength }) => ({
    amplitude: 0.25 + 0.35 * strength,
    decay: 0.006,
    cutoff: 1500,
    seed: 3500 + key,
  }),
};

export const musicBox: SoundRecipe = {
  ...house('tin-music-box'),
  category: 'mallets and bells',
  tags: ['tiny', 'plucked', 'bright'],
  natural: { low: 60, high: 105 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [127],
  stereo: true,
  loopAfter: 1,
  loopSeconds: 0.6,
  ringing: (key) => ringsFor(1.1, key),
  partials: ({ key, frequency, cycles }) => [
    struck(cycles(frequency), 1, ringsFor(1.1, key)),
    struck(cycles(frequency + 0.8), 0.3, ringsFor(1.3, key), 0.6),
    struck(cycles(2 * frequency), 0.24, ringsFor(0.7, key), -0.4),
    struck(cycles(3.01 * frequency), 0.22, ringsFor(0.4, key), 0.4),
    struck(cycles(6.3 * frequency), 0.2, ringsFor(0.12, key), -0.5),
  ],
  noise: ({ key }) => ({ amplitude: 0.2, decay: 0.003, cutoff: 6000, seed: 3700 + key }),
};
