import type { Span } from '../range/range.js';

/** A recording and the part of the field it serves. House sounds and sampled sounds both end as zones. */
export interface Zone {
  /** Key at which the recording sounds at its own pitch. */
  rootKey: number;
  keys: Span;
  velocities: Span;
  /** Samples per second of the recording. */
  sampleRate: number;
  left: Float32Array;
  /** The same array as `left` for a mono recording. */
  right: Float32Array;
  /** First sample of the loop, and the first behind it; both −1 when it plays once to its end. */
  loopStart: number;
  loopEnd: number;
  /** How fast it dies away once in the loop, dB per second; 0 for a sound that sustains. */
  loopDecay: number;
}

/** How a sound's voices behave, whatever zone they play. */
export interface Voicing {
  /** Seconds from silence to full, linear. */
  attack: number;
  /** Seconds from letting go until it has fallen by 60 dB. */
  release: number;
  /** How much softer velocity 1 is than 127, dB. */
  dynamics: number;
  /** Cut-off of the low-pass at velocity 127, Hz. */
  brightness: number;
  /** Octaves by which velocity 1 is darker. */
  darkening: number;
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
