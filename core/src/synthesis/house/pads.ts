import { house } from '../house-played.js';
import type { SoundRecipe } from '../recipe.js';
import { ensemble, hump } from './shaping.js';

export const slowTideStrings: SoundRecipe = {
  ...house('slow-tide-strings'),
  category: 'strings and pads',
  tags: ['bowed', 'ensemble', 'swelling'],
  natural: { low: 36, high: 103 },
  sampleRate: 32000,
  spacing: 6,
  strengths: [127],
  stereo: true,
  loopAfter: 0.1,
  loopSeconds: 3.2,
  ringing: () => Infinity,
  partials: (request) =>
    ensemble(
      request,
      22,
      (n, f) => {
        const body =
          1 +
          0.9 * Math.exp(-(((f - 520) / 260) ** 2)) +
          0.7 * Math.exp(-(((f - 1500) / 500) ** 2));
        return (body / n ** 1.15) * Math.exp(-f / 5200);
      },
      5,
      7,
    ),
};

export const warmPad: SoundRecipe = {
  ...house('warm-pad'),
  category: 'strings and pads',
  tags: ['soft', 'wide', 'dark'],
  natural: { low: 27, high: 103 },
  sampleRate: 32000,
  spacing: 6,
  strengths: [127],
  stereo: true,
  loopAfter: 0.1,
  loopSeconds: 3.6,
  ringing: () => Infinity,
  partials: (request) => [
    ...ensemble(request, 12, (n, f) => Math.exp(-f / 1900) / n ** 1.5, 5, 7),
    ...ensemble(
      { ...request, frequency: request.frequency / 2, key: request.key + 31 },
      3,
      (n) => 0.3 / n ** 2,
      2,
      4,
    ),
  ],
};

export const fogChoir: SoundRecipe = {
  ...house('fog-choir'),
  category: 'strings and pads',
  tags: ['voices', 'breathy', 'wide'],
  natural: { low: 40, high: 88 },
  sampleRate: 32000,
  spacing: 6,
  strengths: [127],
  stereo: true,
  loopAfter: 0.1,
  loopSeconds: 3.4,
  ringing: () => Infinity,
  partials: (request) =>
    ensemble(
      request,
      18,
      (n, f) =>
        // The mouth open for “ah”: three formants over a soft source.
        (hump(f, 700, 130, 4) *
          hump(f, 1150, 160, 2.4) *
          hump(f, 2700, 300, 1.2) *
          Math.exp(-f / 2600)) /
        n ** 1.35,
      5,
      7,
    ),
};
