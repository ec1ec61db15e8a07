import type { PartialTone } from '../partials.js';
import { house } from '../house-played.js';
import type { SoundRecipe } from '../recipe.js';
import { ringsFor, struck } from './shaping.js';

export const feltPiano: SoundRecipe = {
  ...house('felt-piano'),
  category: 'pianos',
  tags: ['soft', 'close', 'acoustic'],
  natural: { low: 24, high: 105 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [74, 127],
  stereo: true,
  loopAfter: 1.6,
  loopSeconds: 1,
  ringing: (key) => ringsFor(2.6, key),
  partials(request) {
    const { key, frequency, strength, cycles } = request;
    const stiffness = 0.00025 * 2 ** ((key - 48) / 16);
    const darkness = 900 + 2100 * strength;
    const tones: PartialTone[] = [];
    for (let n = 1; n <= 28; n++) {
      const f = n * frequency * Math.sqrt(1 + stiffness * n * n);
      const hammer = Math.abs(Math.sin((Math.PI * n) / 7.3)) + 0.08;
      const amplitude = (hammer / n ** 1.1) * Math.exp(-(f - frequency) / darkness);
      const fast = ringsFor(0.5, key) / n ** 0.5;
      const slow = ringsFor(2.6, key) / n ** 0.75;
      const pan = n === 1 ? 0 : (n % 2 === 0 ? 0.25 : -0.25) * Math.min(1, n / 6);
      tones.push(struck(cycles(f), amplitude, fast, pan));
      tones.push(struck(cycles(f + 0.15 + 0.06 * n), amplitude * 0.45, slow, -pan));
    }
    return tones;
  },
  noise: ({ key, strength }) => ({
    amplitude: 0.5 + 0.3 * strength,
    decay: 0.018,
    cutoff: 320 + 260 * strength,
    seed: key,
  }),
};

export const parlourPiano: SoundRecipe = {
  ...house('parlour-piano'),
  category: 'pianos',
  tags: ['bright', 'open', 'acoustic'],
  natural: { low: 24, high: 105 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [66, 127],
  stereo: true,
  loopAfter: 1.5,
  loopSeconds: 1,
  ringing: (key) => ringsFor(3, key),
  partials({ key, frequency, strength, cycles }) {
    const stiffness = 0.0004 * 2 ** ((key - 48) / 15);
    const brilliance = 2200 + 3800 * strength;
    const tones: PartialTone[] = [];
    for (let n = 1; n <= 32; n++) {
      const f = n * frequency * Math.sqrt(1 + stiffness * n * n);
      const hammer = Math.abs(Math.sin((Math.PI * n) / 8.2)) + 0.12;
      const amplitude = (hammer / n ** 0.85) * Math.exp(-(f - frequency) / brilliance);
      const pan = n === 1 ? 0 : (n % 2 === 0 ? 0.3 : -0.3) * Math.min(1, n / 6);
      // Three strings of one choir: two together, one a little off, which gives the slow beating of the tail.
      tones.push(struck(cycles(f), amplitude, ringsFor(0.55, key) / n ** 0.4, pan));
      tones.push(
        struck(cycles(f + 0.15 + 0.08 * n), amplitude * 0.5, ringsFor(3, key) / n ** 0.65, -pan),
      );
    }
    return tones;
  },
  noise: ({ key, strength }) => ({
    amplitude: 0.3 + 0.35 * strength,
    decay: 0.012,
    cutoff: 900 + 700 * strength,
    seed: 2000 + key,
  }),
};
