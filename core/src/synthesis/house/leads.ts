import { house } from '../house-played.js';
import type { SoundRecipe } from '../recipe.js';
import { ensemble, hump } from './shaping.js';

export const lanternLead: SoundRecipe = {
  ...house('lantern-lead'),
  category: 'leads and brass',
  tags: ['synthetic', 'hollow', 'singing'],
  natural: { low: 43, high: 96 },
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
  ...house('quay-brass'),
  category: 'leads and brass',
  tags: ['section', 'soft to blaring', 'warm'],
  natural: { low: 36, high: 88 },
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
