import { house } from '../house-played.js';
import type { SoundRecipe } from '../recipe.js';
import { sustained } from './shaping.js';

/** Levels of the drawbars, from the sub-fundamental up; footages as organs have them. */
const DRAWBARS = [
  { ratio: 0.5, level: 0.8 },
  { ratio: 1.5, level: 0.55 },
  { ratio: 1, level: 1 },
  { ratio: 2, level: 0.5 },
  { ratio: 3, level: 0.18 },
  { ratio: 4, level: 0.26 },
];

export const drawbarOrgan: SoundRecipe = {
  ...house('ferry-organ'),
  category: 'organs',
  tags: ['drawbars', 'rolling', 'percussive'],
  natural: { low: 36, high: 96 },
  sampleRate: 32000,
  spacing: 6,
  strengths: [127],
  stereo: true,
  loopAfter: 0.5,
  loopSeconds: 2,
  ringing: () => Infinity,
  partials: ({ frequency, cycles }) => [
    ...DRAWBARS.flatMap(({ ratio, level }, i) => {
      const f = ratio * frequency;
      // The turning loudspeaker, frozen into the sound: a slow beat between left and right.
      return [
        sustained(cycles(f), level * 0.8, i % 2 === 0 ? -0.4 : 0.4),
        sustained(cycles(f + 0.9), level * 0.35, i % 2 === 0 ? 0.7 : -0.7),
      ];
    }),
    { cycles: cycles(3 * frequency), amplitude: 0.6, decay: 0.12, attack: 0.002, phase: 0, pan: 0 },
  ],
  noise: ({ key }) => ({ amplitude: 0.08, decay: 0.004, cutoff: 4000, seed: 3000 + key }),
};

export const chapelOrgan: SoundRecipe = {
  ...house('chapel-pipes'),
  category: 'organs',
  tags: ['pipes', 'solemn', 'wide'],
  natural: { low: 28, high: 96 },
  sampleRate: 32000,
  spacing: 6,
  strengths: [127],
  stereo: true,
  loopAfter: 0.2,
  loopSeconds: 2.6,
  ringing: () => Infinity,
  partials: ({ frequency, cycles }) =>
    [1, 2, 4, 8].flatMap((rank, r) =>
      [1, 2, 3, 4, 5].map((n) => {
        const f = rank * n * frequency * (1 + 0.0004 * r);
        const strength = (0.9 ** r / n ** (rank === 1 ? 1.8 : 2.3)) * Math.exp(-f / 5200);
        return sustained(cycles(f), strength, (r % 2 === 0 ? -0.5 : 0.5) * (n / 5), 0.03);
      }),
    ),
  noise: ({ key }) => ({ amplitude: 0.25, decay: 0.03, cutoff: 2600, seed: 3100 + key }),
};
