import type { Patch } from '../model/patch/patch.js';
import { comparePlaces, partsOfPlace, type Place } from '../model/rig/place.js';
import { deviceAtPlace, isKeyboard, type Device } from '../model/rig/rig.js';
import { sentBy } from '../model/show/sent.js';
import { controlInWords } from '../model/show/show-control.js';
import type { ShowMessage } from '../model/show/show-message.js';
import type { Show } from '../model/show/show.js';
import type { Song } from '../model/show/song.js';
import type { Sound } from '../model/library/sound.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import { intersection, type Span } from '../range/range.js';

/** Keys that a layer answers somewhere. */
export interface PlayedGround extends Span {
  /** The layer, by its name and its patch’s. */
  layer: string;
  patch: string;
}

/** What of a show speaks of a place. */
export interface PlaceUse {
  place: Place;
  /** Keys that layers answer there, at most those of the keyboard that stands there now. */
  ground: readonly PlayedGround[];
  /** Controls that are tied there. */
  controls: readonly ShowMessage[];
  /** Where it is spoken of, in words. */
  by: readonly string[];
}

/** A place in use for which a rig has not what is needed. */
export interface PlaceMissing extends PlaceUse {
  /** What is wanting: no device, some of the keys, some of the controls. */
  wanting: 'device' | 'keys' | 'controls';
  words: string;
  /** Where it would best be played there instead; null where nothing is fit. */
  proposal: Place | null;
}

/** Everything of a show that speaks of places. */
export interface ShowParts {
  show: Show;
  /** Songs of the show, and their patches. */
  songs: readonly Pick<Song, 'name' | 'ties'>[];
  patches: readonly Patch[];
  sounds: ReadonlyMap<string, Sound>;
}

/** The places that a show uses, in the order of a rig. */
export function placesUsed(
  { show, songs, patches, sounds }: ShowParts,
  devices: readonly Device[],
): PlaceUse[] {
  const uses = new Map<
    Place,
    { ground: PlayedGround[]; controls: ShowMessage[]; by: Set<string> }
  >();
  const use = (place: Place) => {
    const known = uses.get(place) ?? { ground: [], controls: [], by: new Set<string>() };
    uses.set(place, known);
    return known;
  };
  for (const patch of patches) {
    for (const { name, keyboards, keys } of patch.layers)
      for (const place of keyboards === 'any' ? [] : keyboards) {
        const keyboard = deviceAtPlace(devices.filter(isKeyboard), place);
        const own = keyboard && { low: keyboard.lowestKey, high: keyboard.highestKey };
        const ground = own ? intersection(keys, own) : keys;
        if (ground) {
          const { low, high } = ground;
          use(place).ground.push({ low, high, layer: name, patch: patch.name });
        }
        use(place).by.add(patch.name);
      }
    for (const { place, message } of patch.controls) {
      use(place).controls.push(message);
      use(place).by.add(patch.name);
    }
    for (const { librarySoundId } of patch.sounds) {
      const origin = sounds.get(librarySoundId)?.origin;
      if (origin?.kind === 'outside' && origin.place) use(origin.place).by.add(patch.name);
    }
  }
  for (const { name, ties } of songs)
    for (const { place, message } of ties) {
      use(place).controls.push(message);
      use(place).by.add(name);
    }
  for (const { place, message } of show.controls) {
    use(place).controls.push(message);
    use(place).by.add('controls of the show');
  }
  return [...uses]
    .map(([place, { ground, controls, by }]) => ({ place, ground, controls, by: [...by] }))
    .sort((a, b) => comparePlaces(a.place, b.place));
}

/** Layers that are told by name; more are counted. */
const MOST_TOLD = 3;

/** What a show needs and another rig does not have, each with the place of the same kind that covers most of it. */
export function missingAt(
  uses: readonly PlaceUse[],
  rig: readonly Device[],
  middleC: NoteNaming = 4,
): PlaceMissing[] {
  return uses.flatMap((use): PlaceMissing[] => {
    const device = deviceAtPlace(rig, use.place);
    const proposal = proposalFor(use, rig);
    if (!device) return [{ ...use, wanting: 'device', proposal, words: 'nothing stands there' }];
    const losses = use.ground.flatMap((ground) => lossInWords(ground, device, middleC));
    if (losses.length > 0) {
      const more = losses.length - MOST_TOLD;
      const words = [
        ...losses.slice(0, MOST_TOLD),
        ...(more > 0 ? [`${more} more ${more === 1 ? 'layer loses' : 'layers lose'} keys`] : []),
      ].join('; ');
      return [{ ...use, wanting: 'keys', proposal, words }];
    }
    const gone = use.controls.filter((message) => !sentBy(message, device));
    if (gone.length === 0) return [];
    const names = gone.map((message) => controlInWords({ place: use.place, message }, rig));
    const words = `it has no ${[...new Set(names)].join(', ')}`;
    return [{ ...use, wanting: 'controls', proposal, words }];
  });
}

/** Which keys a layer loses on a device: `Left-hand bass of Tide loses E1–B1`; nothing where it loses none. */
function lossInWords(ground: PlayedGround, device: Device, middleC: NoteNaming): string[] {
  const own = isKeyboard(device) ? { low: device.lowestKey, high: device.highestKey } : null;
  const parts: Span[] = [];
  if (!own || own.low > ground.high || own.high < ground.low) parts.push(ground);
  else {
    if (ground.low < own.low) parts.push({ low: ground.low, high: own.low - 1 });
    if (ground.high > own.high) parts.push({ low: own.high + 1, high: ground.high });
  }
  if (parts.length === 0) return [];
  const names = parts.map(({ low, high }) =>
    low === high ? noteName(low, middleC) : `${noteName(low, middleC)}–${noteName(high, middleC)}`,
  );
  return [`${ground.layer} of ${ground.patch} loses ${names.join(' and ')}`];
}

/** The place of the same kind whose keys, or controls, cover most of what is in use; null for none but where it is now. */
function proposalFor({ place, ground, controls }: PlaceUse, rig: readonly Device[]): Place | null {
  const { kind, number } = partsOfPlace(place);
  let best: { place: Place; fit: number } | null = null;
  const nearness = (other: Place) => -Math.abs(partsOfPlace(other).number - number) / 1000;
  for (const device of rig) {
    if (!alike(kind, partsOfPlace(device.place).kind)) continue;
    const fit =
      covered(ground, device) +
      controls.filter((message) => sentBy(message, device)).length +
      nearness(device.place);
    if (!best || fit > best.fit) best = { place: device.place, fit };
  }
  return best && best.place !== place ? best.place : null;
}

/** Keys stand in for pedals of a board, and pads for knobs: their kinds are played alike. */
function alike(a: string, b: string): boolean {
  const group = (kind: string) =>
    kind === 'pedalboard' ? 'keys' : kind === 'knobs' ? 'pads' : kind;
  return group(a) === group(b);
}

function width({ low, high }: Span): number {
  return high - low + 1;
}

function covered(ground: readonly Span[], device: Device): number {
  if (!isKeyboard(device)) return 0;
  const own = { low: device.lowestKey, high: device.highestKey };
  return ground.reduce((sum, span) => {
    const both = intersection(span, own);
    return sum + (both ? width(both) : 0);
  }, 0);
}

/** What stands in for places at a rig: the device, and the places that it is to be taken for too. */
export function standingIn(
  chosen: ReadonlyMap<Place, Place>,
  rig: readonly Device[],
): Record<string, Place[]> {
  const alsoAt: Record<string, Place[]> = {};
  for (const [place, by] of chosen) {
    const device = deviceAtPlace(rig, by);
    if (!device) continue;
    const known = alsoAt[device.id] ?? device.alsoAt;
    if (!known.includes(place)) alsoAt[device.id] = [...known, place];
  }
  return alsoAt;
}
