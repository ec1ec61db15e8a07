import { contains } from '../range/range.js';
import { zoneFor, type Voicing, type Zone } from '../synthesis/zone.js';
import { START } from './command-ring.js';

/** Zones that one note begins at most. */
export const MOST_AT_ONCE = 16;
const KEYS = 128;

/** A zone of a sound, and what it says of its own; what it does not say is as it is with the whole sound. */
export interface SoundZone extends Zone {
  voicing?: Voicing;
  /** Linear gain by key and by velocity, 0–127 each; 0 where it is silent. Without them it is as loud wherever it reaches. */
  gains?: { keys: Float32Array; velocities: Float32Array };
  /** Which in turn it is of zones that answer one after the other, counted from 0, and how many they are. */
  turn?: { place: number; of: number };
  /** Plays to its end, whenever the key is let go. */
  oneShot?: boolean;
  /** Cuts off what else of the sound is in the same group, 1–255. */
  choke?: number;
}

/** A sound as the engine is given it. */
export interface LoadedSound {
  voicing: Voicing;
  zones: readonly SoundZone[];
  /**
   * Which zones a key sounds: the nearest alone, where none holds it too, as house sounds are made; or all that hold it.
   * Without it the nearest.
   */
  answering?: 'nearest' | 'all';
}

/** The zones of a sound in tables made beforehand, so that a note finds those that answer it without a search and without memory. */
export class ZoneTable {
  readonly zones: readonly Zone[];
  readonly voicings: readonly Voicing[];
  readonly oneShot: Uint8Array;
  readonly choke: Uint8Array;
  /** What {@link find} has found: indices of zones, and the linear gain of each for that note. */
  readonly found = new Int16Array(MOST_AT_ONCE);
  readonly gains = new Float64Array(MOST_AT_ONCE);
  /** Whether it is the nearest zone alone that answers. */
  readonly isNearest: boolean;
  private readonly keyGains: Float32Array;
  private readonly velocityGains: Float32Array;
  private readonly places: Int32Array;
  private readonly turns: Int32Array;
  /** Notes that each key has begun, so that zones which take turns do so key by key. */
  private readonly begun = new Int32Array(KEYS);
  /** Where in {@link answering} the zones of each key begin. */
  private readonly begins = new Int32Array(KEYS + 1);
  private readonly answering: Int16Array;

  constructor({ voicing, zones, answering = 'nearest' }: LoadedSound) {
    this.zones = zones.map(scaled);
    this.isNearest = answering === 'nearest';
    this.voicings = zones.map((zone) => zone.voicing ?? voicing);
    this.oneShot = Uint8Array.from(zones, (zone) => (zone.oneShot ? 1 : 0));
    this.choke = Uint8Array.from(zones, (zone) => zone.choke ?? 0);
    this.places = Int32Array.from(zones, ({ turn }) => turn?.place ?? 0);
    this.turns = Int32Array.from(zones, ({ turn }) => Math.max(1, turn?.of ?? 1));
    // Made on the audio thread: nothing that the nearest one does not need.
    const all = this.isNearest ? [] : zones;
    this.keyGains = table(all, ({ keys, gains }, key) =>
      contains(keys, key) ? (gains?.keys[key] ?? 1) : 0,
    );
    this.velocityGains = table(all, ({ velocities, gains }, velocity) =>
      contains(velocities, velocity) ? (gains?.velocities[velocity] ?? 1) : 0,
    );
    const byKey = Array.from({ length: KEYS }, (_, key) =>
      all.map((_zone, at) => at).filter((at) => this.keyGains[at * KEYS + key] > 0),
    );
    byKey.forEach((at, key) => (this.begins[key + 1] = this.begins[key] + at.length));
    this.answering = Int16Array.from(byKey.flat());
  }

  /** Finds the zones that answer the record of a start; gives how many there are, {@link MOST_AT_ONCE} at most. */
  find(start: Float64Array): number {
    const note = start[START.note];
    const count = this.findAt(note, start[START.velocity]);
    if (note >= 0 && note < KEYS) this.begun[note]++;
    return count;
  }

  /** Finds the zones that a key and velocity would begin next, without taking their turn. */
  findAt(note: number, velocity: number): number {
    const { found, gains } = this;
    if (this.isNearest) {
      const zone = zoneFor(this.zones, note, velocity);
      if (!zone) return 0;
      found[0] = this.zones.indexOf(zone);
      gains[0] = 1;
      return 1;
    }
    if (note < 0 || note >= KEYS) return 0;
    let count = 0;
    for (let i = this.begins[note]; i < this.begins[note + 1] && count < MOST_AT_ONCE; i++) {
      const at = this.answering[i];
      if (this.begun[note] % this.turns[at] !== this.places[at]) continue;
      const gain = this.keyGains[at * KEYS + note] * this.velocityGains[at * KEYS + velocity];
      if (gain <= 0) continue;
      found[count] = at;
      gains[count++] = gain;
    }
    return count;
  }
}

/** Samples of 16 bits are made −1…1 by their scale. */
const WHOLE = new Float64Array([1 / 32_768, 1 / 32_768]);

function scaled(zone: SoundZone): SoundZone {
  return zone.left instanceof Int16Array && !zone.scale ? { ...zone, scale: WHOLE } : zone;
}

function table(
  zones: readonly SoundZone[],
  gainAt: (zone: SoundZone, at: number) => number,
): Float32Array {
  const gains = new Float32Array(zones.length * KEYS);
  zones.forEach((zone, i) => {
    for (let at = 0; at < KEYS; at++) gains[i * KEYS + at] = gainAt(zone, at);
  });
  return gains;
}
