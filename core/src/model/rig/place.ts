import * as z from 'zod';

/** What can stand at a rig, each of which has places of its own. */
export const PLACE_KINDS = ['keys', 'pedalboard', 'pads', 'knobs', 'pedal', 'module'] as const;
export type PlaceKind = (typeof PLACE_KINDS)[number];

/**
 * Where at a rig something is played: `keys1` are the upper keys, `pedal3` is the right pedal. Layers, ties and show controls
 * speak of places; a rig says which device stands at each.
 */
export type Place = `${PlaceKind}${number}`;
const PATTERN = new RegExp(`^(${PLACE_KINDS.join('|')})[1-9]\\d?$`);
export const placeSchema = z.custom<Place>(
  (value) => typeof value === 'string' && PATTERN.test(value),
  'no such place',
);

/** A place by its kind and number, from 1. */
export function placeAt(kind: PlaceKind, number: number): Place {
  return `${kind}${number}`;
}

/** The kind of a place, and its number from 1. */
export function partsOfPlace(place: Place): { kind: PlaceKind; number: number } {
  const kind = place.replace(/\d+$/, '') as PlaceKind;
  return { kind, number: Number(place.slice(kind.length)) };
}

const WORDS: Record<PlaceKind, readonly string[]> = {
  keys: ['upper keys', 'lower keys', 'third keys', 'fourth keys'],
  pedalboard: ['pedalboard'],
  pads: ['pads'],
  knobs: ['knobs'],
  pedal: ['left pedal', 'middle pedal', 'right pedal'],
  module: [],
};

/** A place as a player says it: `upper keys`, `right pedal`, `module 1`, `pads 2`. */
export function placeInWords(place: Place): string {
  const { kind, number } = partsOfPlace(place);
  return WORDS[kind].at(number - 1) ?? `${kind} ${number}`;
}

/** Puts places in the order of a rig: keys from above, pedalboards, pads, knobs, pedals, modules. */
export function comparePlaces(a: Place, b: Place): number {
  const [one, other] = [partsOfPlace(a), partsOfPlace(b)];
  return (
    PLACE_KINDS.indexOf(one.kind) - PLACE_KINDS.indexOf(other.kind) || one.number - other.number
  );
}

/** The first place of a kind at which nothing stands. */
export function freePlace(kind: PlaceKind, taken: Iterable<Place>): Place {
  const there = new Set(taken);
  let number = 1;
  while (there.has(placeAt(kind, number))) number++;
  return placeAt(kind, number);
}
