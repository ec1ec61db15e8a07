import {
  newAccompanist,
  placedPattern,
  type Accompanist,
  type Band,
  type BandKey,
} from '../model/patch/accompanist.js';
import { newLayer, type Layer } from '../model/patch/layer.js';
import { placeAt, type Place } from '../model/rig/place.js';
import { newPatch, newPatchSound, type Patch, type PatchSound } from '../model/patch/patch.js';
import { newTreatment, type Treatment } from '../model/patch/treatment.js';
import { keyRangeSchema, velocityRangeSchema } from '../range/range.js';

/** A ready patch by its role in a song, from which the player goes on. */
export interface StartingPoint {
  id: string;
  /** The role, as a band would say it. */
  name: string;
  /** What it is made of, in a few words. */
  words: string;
  patch: Patch;
}

/** Which keyboard of a rig a layer is meant for: the upper, the next one, or any. */
export type MeantFor = 'first' | 'second' | 'any';

type PartSettings = Partial<Omit<Layer, 'id' | 'soundId' | 'keyboards' | 'keys' | 'velocities'>> & {
  /** House sound. */
  sound: string;
  meant?: MeantFor;
  keys?: Limits;
  velocities?: Limits;
  polyphony?: PatchSound['polyphony'];
};

/** Middle C, and the highest key of the left hand below it. */
const MIDDLE = 60;
const LEFT = MIDDLE - 5;

type Limits = [low: number, high: number, fadeIn?: number, fadeOut?: number];

function range([low, high, fadeIn = 0, fadeOut = 0]: Limits) {
  return { low, high, fadeIn, fadeOut };
}

function point(
  id: string,
  name: string,
  words: string,
  parts: Record<string, PartSettings>,
  {
    treatments = () => [],
    band = () => ({ accompanists: [], bandKeys: [] }),
  }: {
    treatments?: (layerIds: readonly string[]) => Treatment[];
    band?: (layerIds: readonly string[]) => Band;
  } = {},
): StartingPoint {
  const layers: Layer[] = [];
  const sounds = new Map<string, PatchSound>();
  Object.entries(parts).forEach(([layerName, part], at) => {
    const { sound, meant = 'first', keys, velocities, polyphony = 'many', ...settings } = part;
    if (!sounds.has(sound))
      sounds.set(sound, { ...newPatchSound(`${id}-${sound}`, `house-${sound}`), polyphony });
    layers.push({
      ...newLayer(`${id}-${at + 1}`, layerName, `${id}-${sound}`),
      ...(keys ? { keys: keyRangeSchema.parse(range(keys)) } : {}),
      ...(velocities ? { velocities: velocityRangeSchema.parse(range(velocities)) } : {}),
      ...settings,
      keyboards: meant === 'any' ? 'any' : [placeAt('keys', meant === 'first' ? 1 : 2)],
    });
  });
  const patch = {
    ...newPatch(id, 'starting-points', 0, name),
    layers,
    sounds: [...sounds.values()],
    treatments: treatments(layers.map((layer) => layer.id)),
    ...band(layers.map((layer) => layer.id)),
  };
  return { id, name, words, patch };
}

/** Patterns that each part of a ready band has on its keys. */
const READY_PARTS: Readonly<Record<string, { name: string; first: number; patterns: string[] }>> = {
  drums: {
    name: 'Drums',
    first: 36,
    patterns: ['low tide', 'half tide', 'springs', 'short knock'],
  },
  bass: { name: 'Bass', first: 42, patterns: ['hold', 'push', 'walk', 'rests'] },
  pad: { name: 'Pad', first: 47, patterns: ['long', 'swell', 'two bars'] },
};

/** A band on the lowest keys: a run for each part that there is, then a key that has all begin and one that stops all. */
function oneHandBand(
  id: string,
  layers: Readonly<Record<string, string>>,
  place = placeAt('keys', 1),
): Band {
  const accompanists = Object.entries(layers).map(([part, layerId]): Accompanist => {
    const { name, first, patterns } = READY_PARTS[part];
    return {
      ...newAccompanist(`${id}-${part}-band`, name, place),
      layerIds: [layerId],
      patterns: patterns.map((pattern, i) =>
        placedPattern(
          `${id}-${part}-${i}`,
          `house-pattern-${pattern.replaceAll(' ', '-')}`,
          first + i,
        ),
      ),
      stopKey: part === 'drums' ? 40 : null,
      starting: part === 'pad' ? 'whileHeld' : 'startStop',
      follows: part === 'drums' ? 'stays' : 'root',
    };
  });
  const starts = Object.fromEntries(
    accompanists.map(({ id: whose, patterns }) => [whose, patterns[0].id]),
  );
  const key = (does: BandKey['does'], at: number): BandKey => ({
    ...{ id: `${id}-all-${does}`, does, place, starters: 'notes', key: at },
    starts: does === 'start' ? starts : {},
  });
  return { accompanists, bandKeys: [key('start', 50), key('stop', 51)] };
}

/** The starting points there are. */
export const STARTING_POINTS: readonly StartingPoint[] = [
  point('first-keys', 'First keys', 'piano, strings swelling in above', {
    Piano: { sound: 'felt-piano', level: -4 },
    'Swelling strings': {
      sound: 'slow-tide-strings',
      keys: [LEFT + 1, 127, 12],
      level: -14,
      pan: 0.2,
    },
  }),
  point('second-keys', 'Second keys', 'tine piano over a quiet pad, on the lower keys', {
    Tines: { sound: 'tine-piano', meant: 'second', level: -5 },
    'Quiet pad': { sound: 'warm-pad', meant: 'second', level: -18 },
  }),
  point('pads-only', 'Pads only', 'a wide pad, voices over it', {
    'Wide pad': { sound: 'warm-pad', meant: 'any', level: -8, pan: -0.2 },
    Voices: {
      sound: 'fog-choir',
      meant: 'any',
      keys: [MIDDLE - 12, 127, 12],
      level: -14,
      pan: 0.2,
    },
  }),
  point('bass-left', 'Bass left', 'upright bass in the left hand, piano in the right', {
    Bass: { sound: 'round-upright-bass', keys: [0, LEFT - 1], level: -4, polyphony: 1 },
    Piano: { sound: 'felt-piano', keys: [LEFT, 127], level: -4 },
  }),
  point('organ', 'Organ', 'drawbars above, pipes an octave down below', {
    Drawbars: { sound: 'ferry-organ', keys: [LEFT, 127], level: -7 },
    Pipes: { sound: 'chapel-pipes', keys: [0, LEFT - 1], level: -10, transpose: -12 },
  }),
  point(
    'strings-section',
    'Strings section',
    'strings, doubled an octave up',
    { Strings: { sound: 'slow-tide-strings', level: -7 } },
    {
      treatments: ([strings]) => [
        { ...newTreatment('doubling', 'strings-doubled', [strings]), level: -9 } as Treatment,
      ],
    },
  ),
  point('bells-on-top', 'Bells on top', 'piano, bells over its upper half', {
    Piano: { sound: 'felt-piano', level: -4 },
    Bells: { sound: 'glass-bells', keys: [MIDDLE + 7, 127, 7], level: -13 },
  }),
  point(
    'two-hand-electric',
    'Two-hand electric piano',
    'tines when played gently, reeds when dug in',
    {
      Tines: { sound: 'tine-piano', velocities: [1, 96, 0, 16], level: -5 },
      Reeds: { sound: 'reed-piano', velocities: [81, 127, 16], level: -7 },
    },
  ),
  point('big-ending', 'Big ending', 'everything there is, over all keys', {
    'Grand piano': { sound: 'parlour-piano', level: -9 },
    Strings: { sound: 'slow-tide-strings', level: -14, pan: 0.25 },
    Brass: { sound: 'quay-brass', keys: [LEFT, 127], level: -16, pan: -0.2 },
    Choir: { sound: 'fog-choir', keys: [LEFT, 127], level: -17 },
    'Low bass': { sound: 'keel-bass', keys: [0, LEFT - 1], level: -12, polyphony: 1 },
  }),
  point('quiet-duet', 'Quiet duet', 'soft piano left, nylon strings right', {
    Piano: { sound: 'felt-piano', keys: [0, MIDDLE - 1], level: -8 },
    Nylon: { sound: 'nylon-strings', keys: [MIDDLE, 127], level: -5 },
  }),
  point('lead-over-pad', 'Lead over a pad', 'a singing lead right, a pad under it', {
    Lead: { sound: 'lantern-lead', keys: [MIDDLE, 127], level: -8, polyphony: 1 },
    Pad: { sound: 'warm-pad', keys: [0, MIDDLE - 1], level: -11 },
  }),
  point('music-box', 'Music box', 'harp left, a music box right, a touch of room', {
    Harp: { sound: 'wire-harp', keys: [0, MIDDLE - 1], level: -6 },
    'Music box': { sound: 'tin-music-box', keys: [MIDDLE, 127], level: -7 },
  }),
  point(
    'one-hand-band',
    'Band at one hand',
    'drums, bass and a pad from single keys at the left, piano right',
    {
      Piano: { sound: 'felt-piano', keys: [LEFT - 3, 127], level: -5 },
      // What only the band plays answers the keys that start it, which no hand plays.
      Drums: { sound: 'dockside-kit', keys: [36, 41], level: -4 },
      Bass: { sound: 'round-upright-bass', keys: [0, 46], level: -4 },
      Pad: { sound: 'warm-pad', keys: [47, 49], level: -14 },
    },
    { band: ([, drums, bass, pad]) => oneHandBand('one-hand-band', { drums, bass, pad }) },
  ),
  point(
    'drums-below',
    'Drums below, tines above',
    'drums from single keys of the lower keyboard, tine piano on the upper',
    {
      Tines: { sound: 'tine-piano', level: -5 },
      Drums: { sound: 'dockside-kit', meant: 'second', keys: [36, 41], level: -4 },
      'Lower tines': { sound: 'tine-piano', meant: 'second', keys: [42, 127], level: -5 },
    },
    { band: ([, drums]) => oneHandBand('drums-below', { drums }, placeAt('keys', 2)) },
  ),
];

/**
 * A starting point’s patch for a rig: what is meant for the first keyboard or the second is laid on these, as they come; with
 * one keyboard it plays all, with none any does.
 */
export function forKeyboards(patch: Patch, keyboards: readonly Place[]): Patch {
  const [first, second = first] = keyboards as readonly (Place | undefined)[];
  const layers = patch.layers.map((layer): Layer => {
    if (layer.keyboards === 'any') return layer;
    const asked = layer.keyboards[0] === placeAt('keys', 1) ? first : second;
    return { ...layer, keyboards: asked === undefined ? 'any' : [asked] };
  });
  const standing = (place: Place) =>
    (place === placeAt('keys', 1) ? first : place === placeAt('keys', 2) ? second : place) ?? place;
  const moved = <T extends { place: Place }>(one: T): T => ({ ...one, place: standing(one.place) });
  return {
    ...patch,
    ...{ layers, accompanists: patch.accompanists.map(moved), bandKeys: patch.bandKeys.map(moved) },
  };
}
