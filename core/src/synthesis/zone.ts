import type { Span } from '../range/range.js';

/** Samples of a recording: −1…1, or whole numbers of 16 bits, which take half the room. */
export type Samples = Float32Array | Int16Array;

/** A recording and the part of the field it serves. House sounds and sampled sounds both end as zones. */
export interface Zone<S extends Samples = Samples> {
  /** Key at which the recording sounds at its own pitch. */
  rootKey: number;
  keys: Span;
  velocities: Span;
  /** Samples per second of the recording. */
  sampleRate: number;
  left: S;
  /** The same array as `left` for a mono recording. */
  right: S;
  /** Factors on its samples, left and right; without them they are played as they are. */
  scale?: Float64Array;
  /** Cents by which each key further moves the pitch, 100 without it, and cents by which all of it is moved. */
  tracking?: number;
  tuning?: number;
  /** First sample of the loop, and the first behind it; both −1 when it plays once to its end. */
  loopStart: number;
  loopEnd: number;
  /** How fast it dies away once in the loop, dB per second; 0 for a sound that sustains. */
  loopDecay: number;
}

/** A zone as it is rendered. */
export type RenderedZone = Zone<Float32Array>;

/** How a sound's voices behave, whatever zone they play. */
export interface Voicing {
  /** Seconds from silence to full, linear. */
  attack: number;
  /** Seconds from letting go until it has fallen by 60 dB. */
  release: number;
  /** Seconds at full before it falls, and seconds of falling to the sustain level. */
  hold?: number;
  decay?: number;
  /** Level to which it falls while it is held, dB; without it, it does not fall, and at −60 and below it falls for good. */
  sustain?: number;
  /** How much softer velocity 1 is than 127, dB. */
  dynamics: number;
  /** Cut-off of the low-pass at velocity 127, Hz. */
  brightness: number;
  /** Octaves by which velocity 1 is darker. */
  darkening: number;
}

/** Whether what is heard of a zone differs left and right. */
export function isWide({ left, right, scale }: Pick<Zone, 'left' | 'right' | 'scale'>): boolean {
  return left !== right || (scale !== undefined && scale[0] !== scale[1]);
}

/** The zone for a key and velocity: one that holds both, else the one with the nearest root. Null for an empty list. */
export function zoneFor(zones: readonly Zone[], key: number, velocity: number): Zone | null {
  let best: Zone | null = null;
  let bestDistance = Infinity;
  for (let i = 0; i < zones.length; i++) {
    const zone = zones[i];
    const beyondKeys = outside(zone.keys, key);
    const beyondVelocities = outside(zone.velocities, velocity);
    const distance = beyondKeys * 1000 + beyondVelocities;
    if (distance < bestDistance) {
      best = zone;
      bestDistance = distance;
      if (distance === 0) break;
    }
  }
  return best;
}

function outside(span: Span, value: number): number {
  return value < span.low ? span.low - value : value > span.high ? value - span.high : 0;
}
