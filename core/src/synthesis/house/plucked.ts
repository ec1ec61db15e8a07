import type { PartialTone } from '../partials.js';
import { house } from '../house-played.js';
import type { SoundRecipe } from '../recipe.js';
import { hump, ringsFor, struck } from './shaping.js';

export const nylonGuitar: SoundRecipe = {
  ...house('nylon-strings'),
  category: 'plucked',
  tags: ['guitar', 'soft', 'fingers'],
  natural: { low: 40, high: 88 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [78, 127],
  stereo: false,
  loopAfter: 1,
  loopSeconds: 0.8,
  ringing: (key) => ringsFor(0.9, key),
  partials({ key, frequency, strength, cycles }) {
    const tones: PartialTone[] = [];
    for (let n = 1; n <= 24; n++) {
      const f = n * frequency;
      const pluck = Math.abs(Math.sin(Math.PI * n * 0.22)) + 0.04;
      const body = hump(f, 105, 40, 0.8) * hump(f, 210, 60, 0.9);
      const amplitude = ((pluck * body) / n ** 1.2) * Math.exp(-f / (2400 + 2400 * strength));
      tones.push(struck(cycles(f), amplitude, ringsFor(0.9, key) / n ** 0.75));
    }
    return tones;
  },
  noise: ({ key, strength }) => ({
    amplitude: 0.12 + 0.2 * strength,
    decay: 0.009,
    cutoff: 1800,
    seed: 5000 + key,
  }),
};

export const wireHarp: SoundRecipe = {
  ...house('wire-harp'),
  category: 'plucked',
  tags: ['harp', 'ringing', 'clear'],
  natural: { low: 28, high: 105 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [127],
  stereo: true,
  loopAfter: 1.2,
  loopSeconds: 0.9,
  ringing: (key) => ringsFor(1.7, key),
  partials({ key, frequency, cycles }) {
    const tones: PartialTone[] = [];
    for (let n = 1; n <= 20; n++) {
      const f = n * frequency * (1 + 0.00006 * n * n);
      const pluck = Math.abs(Math.sin(Math.PI * n * 0.38)) + 0.06;
      const amplitude = (pluck / n ** 1.35) * Math.exp(-f / 6500);
      const pan = n === 1 ? 0 : n % 2 === 0 ? 0.35 : -0.35;
      tones.push(struck(cycles(f), amplitude, ringsFor(1.7, key) / n ** 0.55, pan));
    }
    return tones;
  },
  noise: ({ key }) => ({ amplitude: 0.1, decay: 0.005, cutoff: 3500, seed: 5300 + key }),
};
