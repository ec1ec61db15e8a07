import type { SoundRecipe } from '../recipe.js';
import { ensemble, hump } from './shaping.js';

export const lanternLead: SoundRecipe = {
  id: 'lantern-lead',
  name: 'Lantern lead',
  category: 'leads and brass',
  tags: ['synthetic', 'hollow', 'singing'],
  natural: { low: 43, high: 96 },
  voicing: { attack: 0.006, release: 0.16, dynamics: 16, brightness: 8000, darkening: 1.6 },
  sampleRate: 44100,
  spacing: 6,
  strengths: [127],
  stereo: true,
  loopAfter: 0.1,
  loopSeconds: 1.6,
  ringing: () => Infinity,
  partials: (request) =>
    ensemble(request, 21, (n, f) => (n % 2 === 1 ? Math.exp(-f / 6000) / n : 0), 3, 4),
};

export const quayBrass: SoundRecipe = {
  id: 'quay-brass',
  name: 'Quay brass',
  category: 'leads and brass',
  tags: ['section', 'soft to blaring', 'warm'],
  natural: { low: 36, high: 88 },
  voicing: { attack: 0.07, release: 0.2, dynamics: 24, brightness: 9000, darkening: 3.2 },
  sampleRate: 32000,
  spacing: 6,
  strengths: [70, 127],
  stereo: true,
  loopAfter: 0.1,
  loopSeconds: 2.2,
  ringing: () => Infinity,
  partials: (request) =>
    ensemble(
      request,
      20,
      (n, f) =>
        (hump(f, 620, 300, 1.4) *
          hump(f, 1300, 500, 0.8) *
          Math.exp(-f / (1400 + 2600 * request.strength))) /
        n ** 0.6,
      3,
      6,
    ),
};
