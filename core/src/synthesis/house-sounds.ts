import { seededRandom, type PartialTone } from './partials.js';
import type { Recipe, Request } from './recipe.js';

/** Decay times of struck and plucked sounds halve about every 14 keys upwards. */
function ringsFor(atMiddleC: number, key: number): number {
  return atMiddleC * 2 ** ((60 - key) / 14);
}

/** A struck or plucked partial: at once, from zero crossing, dying away. */
function struck(cycles: number, amplitude: number, decay: number, pan = 0): PartialTone {
  return { cycles, amplitude, decay, attack: 0.002, phase: 0, pan };
}

/** Several voices a little apart, in and out of each other, spread across the stereo picture. */
function ensemble(
  request: Request,
  harmonics: number,
  amplitudeOf: (harmonic: number, frequency: number) => number,
  voices: number,
  cents: number,
): PartialTone[] {
  const random = seededRandom(request.key * 7919 + voices);
  const tones: PartialTone[] = [];
  for (let n = 1; n <= harmonics; n++) {
    const amplitude = amplitudeOf(n, n * request.frequency) / Math.sqrt(voices);
    for (let v = 0; v < voices; v++) {
      const place = voices === 1 ? 0 : (2 * v) / (voices - 1) - 1;
      const detune = 2 ** ((place * cents) / 1200);
      tones.push({
        cycles: request.cycles(n * request.frequency * detune),
        amplitude: amplitude * (0.8 + 0.4 * random()),
        decay: Infinity,
        attack: 0.004,
        phase: random() * 2 * Math.PI,
        pan: place * 0.9 * (n % 2 === 0 ? -1 : 1),
      });
    }
  }
  return tones;
}

const feltPiano: Recipe = {
  id: 'felt-piano',
  name: 'Felt piano',
  category: 'pianos',
  tags: ['soft', 'close', 'acoustic'],
  natural: { low: 24, high: 105 },
  voicing: { attack: 0.001, release: 0.35, dynamics: 34, brightness: 9000, darkening: 3 },
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
      tones.push(struck(cycles(f + 0.4 + 0.1 * n), amplitude * 0.45, slow, -pan));
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

const tinePiano: Recipe = {
  id: 'tine-piano',
  name: 'Tine piano',
  category: 'electric pianos',
  tags: ['bell-like', 'mellow', 'bark'],
  natural: { low: 28, high: 103 },
  voicing: { attack: 0.001, release: 0.22, dynamics: 32, brightness: 10000, darkening: 2.6 },
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

const glassBells: Recipe = {
  id: 'glass-bells',
  name: 'Glass bells',
  category: 'mallets and bells',
  tags: ['bright', 'clear', 'struck'],
  natural: { low: 48, high: 108 },
  voicing: { attack: 0.001, release: 1.1, dynamics: 30, brightness: 14000, darkening: 1.6 },
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

const uprightBass: Recipe = {
  id: 'round-upright-bass',
  name: 'Round upright bass',
  category: 'basses',
  tags: ['plucked', 'woody', 'acoustic'],
  natural: { low: 23, high: 67 },
  voicing: { attack: 0.002, release: 0.14, dynamics: 26, brightness: 5200, darkening: 2.4 },
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

const slowTideStrings: Recipe = {
  id: 'slow-tide-strings',
  name: 'Slow tide strings',
  category: 'strings and pads',
  tags: ['bowed', 'ensemble', 'swelling'],
  natural: { low: 36, high: 103 },
  voicing: { attack: 0.32, release: 0.7, dynamics: 24, brightness: 9000, darkening: 1.8 },
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

const warmPad: Recipe = {
  id: 'warm-pad',
  name: 'Warm pad',
  category: 'strings and pads',
  tags: ['soft', 'wide', 'dark'],
  natural: { low: 27, high: 103 },
  voicing: { attack: 0.55, release: 1.3, dynamics: 20, brightness: 4200, darkening: 1.2 },
  sampleRate: 32000,
  spacing: 6,
  strengths: [127],
  stereo: true,
  loopAfter: 0.1,
  loopSeconds: 3.6,
  ringing: () => Infinity,
  partials: (request) => [
    ...ensemble(request, 12, (n, f) => Math.exp(-f / 1900) / n ** 1.5, 4, 10),
    ...ensemble(
      { ...request, frequency: request.frequency / 2, key: request.key + 31 },
      3,
      (n) => 0.3 / n ** 2,
      2,
      4,
    ),
  ],
};

/** The house sounds, in the order in which they are offered. */
export const HOUSE_SOUNDS: readonly Recipe[] = [
  feltPiano,
  tinePiano,
  glassBells,
  uprightBass,
  slowTideStrings,
  warmPad,
];

/** The recipe of a house sound, or undefined for an id that is none. */
export function recipeOf(id: string): Recipe | undefined {
  return HOUSE_SOUNDS.find((recipe) => recipe.id === id);
}
