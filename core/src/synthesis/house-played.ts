import type { Voicing } from './zone.js';

/** How a sound is played, wherever its zones come from. */
export interface PlayedAs {
  name: string;
  /** Whether its notes ring on and die away by themselves, as struck and plucked ones do. */
  ringsOn: boolean;
  voicing: Voicing;
}

/** How every house sound is played, by the id of its recipe. The recipes themselves are for those who make it. */
export const HOUSE_PLAYED = {
  'felt-piano': {
    name: 'Felt piano',
    ringsOn: true,
    voicing: { attack: 0.001, release: 0.35, dynamics: 34, brightness: 9000, darkening: 3 },
  },
  'parlour-piano': {
    name: 'Parlour piano',
    ringsOn: true,
    voicing: { attack: 0.001, release: 0.28, dynamics: 36, brightness: 15000, darkening: 2.4 },
  },
  'tine-piano': {
    name: 'Tine piano',
    ringsOn: true,
    voicing: { attack: 0.001, release: 0.22, dynamics: 32, brightness: 10000, darkening: 2.6 },
  },
  'reed-piano': {
    name: 'Reed piano',
    ringsOn: true,
    voicing: { attack: 0.002, release: 0.18, dynamics: 30, brightness: 9000, darkening: 2.2 },
  },
  'ferry-organ': {
    name: 'Ferry organ',
    ringsOn: false,
    voicing: { attack: 0.004, release: 0.06, dynamics: 4, brightness: 9000, darkening: 0.3 },
  },
  'chapel-pipes': {
    name: 'Chapel pipes',
    ringsOn: false,
    voicing: { attack: 0.05, release: 0.25, dynamics: 3, brightness: 12000, darkening: 0.2 },
  },
  'glass-bells': {
    name: 'Glass bells',
    ringsOn: true,
    voicing: { attack: 0.001, release: 1.1, dynamics: 30, brightness: 14000, darkening: 1.6 },
  },
  'wooden-bars': {
    name: 'Wooden bars',
    ringsOn: true,
    voicing: { attack: 0.001, release: 0.3, dynamics: 32, brightness: 8000, darkening: 2 },
  },
  'tin-music-box': {
    name: 'Tin music box',
    ringsOn: true,
    voicing: { attack: 0.001, release: 0.9, dynamics: 24, brightness: 15000, darkening: 1 },
  },
  'slow-tide-strings': {
    name: 'Slow tide strings',
    ringsOn: false,
    voicing: { attack: 0.32, release: 0.7, dynamics: 24, brightness: 9000, darkening: 1.8 },
  },
  'warm-pad': {
    name: 'Warm pad',
    ringsOn: false,
    voicing: { attack: 0.55, release: 1.3, dynamics: 20, brightness: 4200, darkening: 1.2 },
  },
  'fog-choir': {
    name: 'Fog choir',
    ringsOn: false,
    voicing: { attack: 0.25, release: 0.8, dynamics: 20, brightness: 7000, darkening: 1.2 },
  },
  'round-upright-bass': {
    name: 'Round upright bass',
    ringsOn: true,
    voicing: { attack: 0.002, release: 0.14, dynamics: 26, brightness: 5200, darkening: 2.4 },
  },
  'finger-bass': {
    name: 'Finger bass',
    ringsOn: true,
    voicing: { attack: 0.002, release: 0.1, dynamics: 24, brightness: 6500, darkening: 2 },
  },
  'keel-bass': {
    name: 'Keel bass',
    ringsOn: false,
    voicing: { attack: 0.005, release: 0.12, dynamics: 18, brightness: 2600, darkening: 1.8 },
  },
  'lantern-lead': {
    name: 'Lantern lead',
    ringsOn: false,
    voicing: { attack: 0.006, release: 0.16, dynamics: 16, brightness: 8000, darkening: 1.6 },
  },
  'quay-brass': {
    name: 'Quay brass',
    ringsOn: false,
    voicing: { attack: 0.07, release: 0.2, dynamics: 24, brightness: 9000, darkening: 3.2 },
  },
  'nylon-strings': {
    name: 'Nylon strings',
    ringsOn: true,
    voicing: { attack: 0.001, release: 0.18, dynamics: 28, brightness: 9000, darkening: 2 },
  },
  'wire-harp': {
    name: 'Wire harp',
    ringsOn: true,
    voicing: { attack: 0.001, release: 1.2, dynamics: 28, brightness: 13000, darkening: 1.8 },
  },
  'dockside-kit': {
    name: 'Dockside kit',
    ringsOn: true,
    voicing: { attack: 0.0005, release: 1.5, dynamics: 30, brightness: 18000, darkening: 1 },
  },
  'rope-and-tin': {
    name: 'Rope and tin',
    ringsOn: true,
    voicing: { attack: 0.0005, release: 1, dynamics: 28, brightness: 18000, darkening: 1 },
  },
} satisfies Record<string, PlayedAs>;

/** A house sound, by the id of its recipe. */
type House = keyof typeof HOUSE_PLAYED;

/** True for the id of a house sound's recipe. */
export function isHouse(id: string): id is House {
  return Object.hasOwn(HOUSE_PLAYED, id);
}

/** What a recipe has in common with how its sound is played. */
export function house(id: House): PlayedAs & { id: House } {
  return { id, ...HOUSE_PLAYED[id] };
}
