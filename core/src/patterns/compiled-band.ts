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
  /** The same by device index × 128 + controller. */
  readonly controllerAt: Uint16Array;
  /** An accompanist of this place made ready once more, as its settings are moved. */
  readonly remade: (index: number, source: Accompanist) => ReadyAccompanist;
  readonly triggers: readonly (readonly Trigger[])[];
}

type Starter = Pick<Accompanist, 'place' | 'starters'>;

const NO_BAND: CompiledBand = {
  accompanists: [],
  triggerAt: new Uint16Array(MOST_DEVICES * 128),
  controllerAt: new Uint16Array(MOST_DEVICES * 128),
  remade: () => {
    throw new RangeError('there is no accompanist');
  },
  triggers: [],
};

const NOTHING: readonly Trigger[] = [];

/** What a key starts, as it is heard, which may lie beyond 0–127; none for one that is played as usual. */
export function triggersOfKey(
  band: CompiledBand | null,
  device: number,
  heardKey: number,
): readonly Trigger[] {
  if (!band || device < 0 || heardKey < 0 || heardKey > 127) return NOTHING;
  const at = band.triggerAt[device * 128 + heardKey];
  return at > 0 ? band.triggers[at - 1] : NOTHING;
}

/** What a button starts, by the controller that it sends. */
export function triggersOfController(
  band: CompiledBand | null,
  device: number,
  controller: number,
): readonly Trigger[] {
  const at = band?.controllerAt[device * 128 + controller] ?? 0;
  return band && at > 0 ? band.triggers[at - 1] : NOTHING;
}

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
  const tables = {
    notes: new Uint16Array(MOST_DEVICES * 128),
    controllers: new Uint16Array(MOST_DEVICES * 128),
  };
  const triggers: Trigger[][] = [];
  const enter = ({ place, starters }: Starter, key: number, trigger: Trigger) => {
    const table = tables[starters];
    places.forEach((one, device) => {
      if (one.place !== place && !one.alsoAt.includes(place)) return;
      const at = device * 128 + key;
      if (table[at] === 0) table[at] = triggers.push([]);
      triggers[table[at] - 1].push(trigger);
    });
  };
  const remade = (index: number, source: Accompanist): ReadyAccompanist => ({
    ...{ id: source.id, index, source, layerIds: new Set(source.layerIds) },
    patterns: source.patterns
      .flatMap((placed) => {
        const pattern = patterns.get(placed.patternId);
        return pattern ? [remembered(placed, pattern, source, sounding)] : [];
      })
      .sort((a, b) => a.key - b.key),
  });
  const made = accompanists.map((accompanist, index) => {
    const ready = remade(index, accompanist);
    for (const pattern of ready.patterns)
      enter(accompanist, pattern.key, { kind: 'pattern', accompanist: index, pattern });
    if (accompanist.stopKey !== null)
      enter(accompanist, accompanist.stopKey, { kind: 'stop', accompanist: index });
    return ready;
  });
  for (const bandKey of bandKeys) enter(bandKey, bandKey.key, { kind: 'band', bandKey });
  const { notes: triggerAt, controllers: controllerAt } = tables;
  return { accompanists: made, triggerAt, controllerAt, triggers, remade };
}
