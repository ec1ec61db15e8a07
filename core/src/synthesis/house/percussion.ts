import { house } from '../house-played.js';
import type { KitRecipe } from '../recipe.js';
import type { KitStroke, StruckNoise, StruckTone } from '../strokes.js';

const tone = (from: number, to: number, slide: number, decay: number, amplitude: number) =>
  ({ from, to, slide, decay, amplitude }) satisfies StruckTone;
const noise = (
  amplitude: number,
  decay: number,
  lowCut: number,
  highCut: number,
  more: Partial<StruckNoise> = {},
): StruckNoise => ({ amplitude, attack: 0.0008, decay, lowCut, highCut, seed: 71, ...more });

/** A drum with a skin: two modes that slide down, and the stick. */
function skin(pitch: number, decay: number): KitStroke {
  return {
    seconds: decay * 5,
    tones: [
      tone(pitch * 1.6, pitch, 0.05, decay, 1),
      tone(pitch * 2.5, pitch * 1.59, 0.04, decay * 0.5, 0.35),
    ],
    noises: [noise(0.5, 0.02, 800, 6000, { seed: Math.round(pitch) })],
  };
}

/** A sheet of metal: many partials that no ear can name, under hiss. */
function metal(partials: number[], decay: number, hiss: number, highCut = 15000): KitStroke {
  return {
    seconds: Math.min(3.2, decay * 6),
    tones: partials.map((f, i) => tone(f, f, 1, decay / (1 + 0.25 * i), 0.18)),
    noises: [noise(hiss, decay * 0.8, 4500, highCut, { seed: Math.round(partials[0]) })],
  };
}

const SHEET = [3187, 4211, 5393, 6127, 7411, 8849];

export const docksideKit: KitRecipe = {
  ...house('dockside-kit'),
  category: 'drums and percussion',
  tags: ['drums', 'dry', 'one to a key'],
  natural: { low: 35, high: 71 },
  sampleRate: 44100,
  // The keys are those of the General MIDI percussion map, so that patterns from elsewhere fit.
  pieces: [
    {
      key: 35,
      name: 'low kick',
      stroke: {
        seconds: 0.9,
        tones: [tone(110, 42, 0.045, 0.22, 1)],
        noises: [noise(0.25, 0.008, 600, 4000)],
      },
    },
    {
      key: 36,
      name: 'kick',
      stroke: {
        seconds: 0.7,
        tones: [tone(170, 52, 0.03, 0.17, 1)],
        noises: [noise(0.5, 0.006, 1200, 7000)],
      },
    },
    {
      key: 37,
      name: 'rim',
      stroke: {
        seconds: 0.25,
        tones: [tone(1720, 1690, 0.01, 0.02, 0.8), tone(480, 470, 0.01, 0.035, 0.7)],
        noises: [noise(0.5, 0.012, 1500, 9000)],
      },
    },
    {
      key: 38,
      name: 'snare',
      stroke: {
        seconds: 0.7,
        tones: [tone(260, 186, 0.02, 0.09, 0.8), tone(430, 331, 0.02, 0.06, 0.4)],
        noises: [noise(1.3, 0.13, 1400, 12000), noise(0.7, 0.02, 3000, 14000, { seed: 5 })],
      },
    },
    {
      key: 39,
      name: 'claps',
      stroke: {
        seconds: 0.6,
        tones: [],
        noises: [0, 0.011, 0.022, 0.031].map((after, i) =>
          noise(1, i === 3 ? 0.11 : 0.012, 900, 5200, { after, seed: 300 + i }),
        ),
      },
    },
    { key: 41, name: 'floor tom', stroke: skin(82, 0.32) },
    { key: 42, name: 'closed hat', stroke: metal(SHEET, 0.05, 2.2) },
    { key: 43, name: 'low tom', stroke: skin(104, 0.28) },
    { key: 44, name: 'foot hat', stroke: metal(SHEET, 0.035, 1.6, 9000) },
    { key: 45, name: 'middle tom', stroke: skin(131, 0.25) },
    { key: 46, name: 'open hat', stroke: metal(SHEET, 0.36, 2) },
    { key: 48, name: 'high tom', stroke: skin(175, 0.21) },
    {
      key: 49,
      name: 'crash',
      stroke: metal([2411, 3163, 3907, 4871, 5639, 6581, 7793], 0.75, 1.7),
    },
    { key: 51, name: 'ride', stroke: metal([1187, 2203, 3571, 4523, 5987, 7103], 0.6, 0.5, 12000) },
    { key: 53, name: 'ride bell', stroke: metal([821, 1663, 2617, 3989], 0.55, 0.12, 9000) },
    { key: 54, name: 'tambourine', stroke: metal([5231, 6547, 8117, 9689], 0.12, 1.8) },
    {
      key: 56,
      name: 'tin bell',
      stroke: {
        seconds: 0.7,
        tones: [tone(562, 562, 1, 0.12, 0.8), tone(845, 845, 1, 0.1, 0.8)],
        noises: [],
      },
    },
    { key: 60, name: 'high hand drum', stroke: skin(310, 0.12) },
    { key: 62, name: 'low hand drum', stroke: skin(205, 0.17) },
    {
      key: 69,
      name: 'shaker',
      stroke: {
        seconds: 0.3,
        tones: [],
        noises: [noise(1, 0.045, 4500, 13000, { attack: 0.02 })],
      },
    },
  ],
};

/** A short knock on wood or tin: partials by their ratios to the first. */
function knock(pitch: number, decay: number, ratios: number[], stick: number): KitStroke {
  return {
    seconds: decay * 8 + 0.1,
    tones: ratios.map((ratio, i) =>
      tone(pitch * ratio, pitch * ratio, 1, decay / (1 + i), 1 / (1 + 0.8 * i)),
    ),
    noises: [noise(stick, 0.006, 900, 9000, { seed: Math.round(pitch) })],
  };
}

export const ropeAndTin: KitRecipe = {
  ...house('rope-and-tin'),
  category: 'drums and percussion',
  tags: ['percussion', 'wooden', 'found things', 'one to a key'],
  natural: { low: 48, high: 84 },
  sampleRate: 44100,
  pieces: [
    { key: 48, name: 'barrel', stroke: skin(96, 0.3) },
    { key: 50, name: 'crate', stroke: knock(190, 0.06, [1, 2.4, 3.9], 0.8) },
    {
      key: 52,
      name: 'rope slap',
      stroke: { seconds: 0.35, tones: [], noises: [noise(1.4, 0.05, 500, 4500)] },
    },
    { key: 53, name: 'low block', stroke: knock(640, 0.05, [1, 2.7], 0.4) },
    { key: 55, name: 'high block', stroke: knock(930, 0.04, [1, 2.7], 0.4) },
    { key: 57, name: 'sticks', stroke: knock(2250, 0.035, [1, 2.1], 0.5) },
    { key: 59, name: 'tin can', stroke: knock(740, 0.11, [1, 1.52, 2.61, 3.37, 4.9], 0.5) },
    { key: 60, name: 'tin lid', stroke: metal([1931, 2777, 3659, 5077, 6803], 0.2, 0.7) },
    { key: 62, name: 'bottle', stroke: knock(1320, 0.16, [1, 2.02, 3.3], 0.25) },
    { key: 64, name: 'chain', stroke: metal([4127, 5261, 6373, 7919, 9371], 0.16, 1.4) },
    {
      key: 65,
      name: 'sand, forth',
      stroke: { seconds: 0.4, tones: [], noises: [noise(1, 0.07, 3500, 12000, { attack: 0.04 })] },
    },
    {
      key: 67,
      name: 'sand, back',
      stroke: {
        seconds: 0.35,
        tones: [],
        noises: [noise(0.8, 0.05, 2500, 9000, { attack: 0.06 })],
      },
    },
    { key: 69, name: 'buoy bell', stroke: metal([523, 1097, 1579, 2203, 2861], 0.7, 0.05, 8000) },
  ],
};
