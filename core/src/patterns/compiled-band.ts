import type { Pattern } from '../model/library/pattern.js';
import type { Accompanist, BandKey, PlacedPattern } from '../model/patch/accompanist.js';
import type { Patch } from '../model/patch/patch.js';
import { MOST_DEVICES } from '../model/rig/rig.js';
import type { Place } from '../model/rig/place.js';
import type { MusicalKey } from '../pitch/musical-keys.js';
import { readyPattern, type ReadyPattern } from './ready-pattern.js';

/** An accompanist made ready for playing. */
export interface ReadyAccompanist {
  readonly id: string;
  /** Its place among those of the patch, 0 first. */
  readonly index: number;
  readonly source: Accompanist;
  readonly layerIds: ReadonlySet<string>;
  /** In the order of their keys; those whose pattern is gone are left out. */
  readonly patterns: readonly ReadyPattern[];
}

/** What a key starts. */
export type Trigger =
  | { kind: 'pattern'; accompanist: number; pattern: ReadyPattern }
  | { kind: 'stop'; accompanist: number }
  | { kind: 'band'; bandKey: BandKey };

/** The accompanists of a patch made ready, and what every key starts. */
export interface CompiledBand {
  readonly accompanists: readonly ReadyAccompanist[];
  /** By device index × 128 + key as it is heard: place in the list, from 1; 0 for keys that are played as usual. */
  readonly triggerAt: Uint16Array;
  readonly triggers: readonly (readonly Trigger[])[];
}

const NO_BAND: CompiledBand = {
  accompanists: [],
  triggerAt: new Uint16Array(MOST_DEVICES * 128),
  triggers: [],
};

const ready = new WeakMap<PlacedPattern, ReadyPattern & { madeOf: readonly unknown[] }>();

/** Asked again for the same it gives the same, so that an edit elsewhere disturbs nothing that plays. */
function remembered(
  placed: PlacedPattern,
  pattern: Pattern,
  accompanist: Accompanist,
  sounding: MusicalKey,
): ReadyPattern {
  const madeOf = [pattern, accompanist.transpose, sounding.tonic, sounding.mode];
  const known = ready.get(placed);
  if (known?.madeOf.every((one, i) => one === madeOf[i])) return known;
  const made = { ...readyPattern(placed, pattern, accompanist, sounding), madeOf };
  ready.set(placed, made);
  return made;
}

/** Makes the accompanists of a patch ready for playing in a key, on a rig of these places. */
export function compileBand(
  { accompanists, bandKeys }: Pick<Patch, 'accompanists' | 'bandKeys'>,
  patterns: ReadonlyMap<string, Pattern>,
  sounding: MusicalKey,
  places: readonly { place: Place; alsoAt: readonly Place[] }[],
): CompiledBand {
  if (accompanists.length === 0) return NO_BAND;
  const triggerAt = new Uint16Array(MOST_DEVICES * 128);
  const triggers: Trigger[][] = [];
  const enter = (place: Place, key: number, trigger: Trigger) => {
    places.forEach((one, device) => {
      if (one.place !== place && !one.alsoAt.includes(place)) return;
      const at = device * 128 + key;
      if (triggerAt[at] === 0) triggerAt[at] = triggers.push([]);
      triggers[triggerAt[at] - 1].push(trigger);
    });
  };
  const made = accompanists.map((accompanist, index): ReadyAccompanist => {
    const playable = accompanist.patterns
      .flatMap((placed) => {
        const pattern = patterns.get(placed.patternId);
        return pattern ? [remembered(placed, pattern, accompanist, sounding)] : [];
      })
      .sort((a, b) => a.key - b.key);
    for (const pattern of playable)
      enter(accompanist.place, pattern.key, { kind: 'pattern', accompanist: index, pattern });
    if (accompanist.stopKey !== null)
      enter(accompanist.place, accompanist.stopKey, { kind: 'stop', accompanist: index });
    return {
      ...{ id: accompanist.id, index, source: accompanist, patterns: playable },
      layerIds: new Set(accompanist.layerIds),
    };
  });
  for (const bandKey of bandKeys) enter(bandKey.place, bandKey.key, { kind: 'band', bandKey });
  return { accompanists: made, triggerAt, triggers };
}
