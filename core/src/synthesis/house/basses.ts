import type { PartialTone } from '../partials.js';
import { house } from '../house-played.js';
import type { SoundRecipe } from '../recipe.js';
import { ensemble, ringsFor, struck } from './shaping.js';

export const uprightBass: SoundRecipe = {
  ...house('round-upright-bass'),
  category: 'basses',
  tags: ['plucked', 'woody', 'acoustic'],
  natural: { low: 23, high: 67 },
  sampleRate: 32000,
  spacing: 5,
  strengths: [80, 127],
  stereo: false,
  loopAfter: 1.2,
  loopSeconds: 1.2,
  ringing: (key) => ringsFor(0.75, key),
  partials({ key, frequency, strength, cycles }) {
    const tones: PartialTone[] = [];
    const ring = ringsFor(0.75, key);
    for (let n = 1; n <= 18; n++) {
      const pluck = Math.abs(Math.sin((Math.PI * n) / 4.6)) + 0.05;
      const body = 1 + 1.2 * Math.exp(-(((n * frequency - 110) / 60) ** 2));
      const amplitude =
        ((pluck * body) / n ** 1.25) * Math.exp((-(n - 1) * frequency) / (420 + 620 * strength));
      tones.push(struck(cycles(n * frequency), amplitude, ring / n ** 0.7));
    }
    return tones;
  },
  noise: ({ key, strength }) => ({
    amplitude: 0.35 + 0.4 * strength,
    decay: 0.014,
    cutoff: 700,
    seed: 900 + key,
  }),
};

export const fingerBass: SoundRecipe = {
  ...house('finger-bass'),
  category: 'basses',
  tags: ['electric', 'firm', 'even'],
  natural: { low: 23, high: 67 },
  sampleRate: 32000,
  spacing: 5,
  strengths: [84, 127],
  stereo: false,
  loopAfter: 1.2,
  loopSeconds: 1.2,
  ringing: (key) => ringsFor(1.6, key),
  partials({ key, frequency, strength, cycles }) {
    const tones: PartialTone[] = [];
    for (let n = 1; n <= 22; n++) {
      const pickup = Math.abs(Math.sin((Math.PI * n) / 5.4)) * 0.9 + 0.1;
      const amplitude =
        (pickup / n ** 0.95) * Math.exp((-(n - 1) * frequency) / (700 + 900 * strength));
      tones.push(struck(cycles(n * frequency), amplitude, ringsFor(1.6, key) / n ** 0.6));
    }
    return tones;
  },
  noise: ({ key, strength }) => ({
    amplitude: 0.15 + 0.3 * strength,
    decay: 0.008,
    cutoff: 1600,
    seed: 4000 + key,
  }),
};

export const keelBass: SoundRecipe = {
  ...house('keel-bass'),
  category: 'basses',
  tags: ['synthetic', 'deep', 'sustained'],
  natural: { low: 23, high: 64 },
  sampleRate: 32000,
  spacing: 6,
  strengths: [127],
  stereo: false,
  loopAfter: 0.1,
  loopSeconds: 2,
  ringing: () => Infinity,
  partials: (request) => ensemble(request, 16, (n, f) => Math.exp(-f / 900) / n, 2, 4),
};
