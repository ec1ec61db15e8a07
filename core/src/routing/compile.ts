import { loudnessKey } from '../model/patch/colour.js';
import { listensTo, type Layer, type Lift } from '../model/patch/layer.js';
import { isChosen, type Chooser } from '../model/patch/chooser.js';
import type { Patch } from '../model/patch/patch.js';
import type { Place } from '../model/rig/place.js';
import { isKeyboard, MOST_DEVICES, type Device } from '../model/rig/rig.js';
import type { Pattern } from '../model/library/pattern.js';
import type { Sound } from '../model/library/sound.js';
import { compileBand, type CompiledBand } from '../patterns/compiled-band.js';
import { kitKeysOf, type KitKeys } from '../patterns/kit-keys.js';
import { PLAIN_TIMBRE } from '../model/patch/timbre.js';
import type { Treatment } from '../model/patch/treatment.js';
import { scaleOf, type MusicalKey } from '../pitch/musical-keys.js';
import { rangeGain, type Range } from '../range/range.js';
import { lifted, touchOut, type Touch } from '../touch/touch.js';

/** A rig made ready for playing: what each device does to a note before any layer hears it. */
export interface CompiledRig {
  /** Device ids; a device is spoken of by its index in here. */
  readonly ids: readonly string[];
  /** Where each of them stands, and the places it stands in for. */
  readonly places: readonly { place: Place; alsoAt: readonly Place[] }[];
  readonly names: readonly string[];
  /** Velocity out (0 = silenced) by device index × 128 + velocity in. */
  readonly touch: Uint8Array;
  /** Semitones added by device index. */
  readonly keyShift: Int8Array;
  /** 1 for every device index that is a keyboard. */
  readonly keyboards: Uint8Array;
}

/** A layer made ready for playing: every question of judging is one table look-up. */
export interface CompiledLayer {
  readonly id: string;
  readonly name: string;
  /** Its place in the patch, 0 = A. */
  readonly index: number;
  /** The patch's sound that it plays. */
  readonly patchSoundId: string;
  readonly librarySoundId: string;
  /** What its measured loudness is kept under. */
  readonly loudnessKey: string;
  /** 1 for every device index that it hears; any keyboard is none of the pads. */
  readonly hearsDevice: Uint8Array;
  /** MIDI channel 1–16, or 0 for any. */
  readonly channel: number;
  readonly keyLow: number;
  readonly keyHigh: number;
  readonly velocityLow: number;
  readonly velocityHigh: number;
  /** Linear gain by key. */
  readonly keyGain: Float32Array;
  /** Linear gain by velocity. */
  readonly velocityGain: Float32Array;
  /** Velocity out by velocity in; 0 = silenced. One of the two that follow; a control can switch it while playing. */
  touch: Uint8Array;
  readonly plainTouch: Uint8Array;
  readonly liftedTouch: Uint8Array;
  /** Semitones from key to sounding note: song shift, if followed, plus transposition. */
  readonly shift: number;
  readonly muted: boolean;
  readonly soloedOut: boolean;
  /** Whether choosers have picked it; a control can pick another while playing. */
  isChosen: boolean;
  readonly obeysSustain: boolean;
  readonly obeysPressure: boolean;
  /** Where its sound has the pieces of a kit; null for sounds that say nothing of it. */
  readonly kit: KitKeys | null;
  /** What is done to its notes before they sound, in order. */
  readonly treatments: readonly Treatment[];
  /** The layer it was made from, for everything that is set once and not asked per note. */
  readonly source: Layer;
}

/** A patch made ready for playing. */
export interface CompiledPatch {
  readonly id: string;
  readonly rig: CompiledRig;
  readonly layers: readonly CompiledLayer[];
  /** What picks among its layers. */
  readonly choosers: readonly Chooser[];
  /** 1 for each pitch class of the song's fingered key. */
  readonly scale: Uint8Array;
  /** Its accompanists, and the keys that start them. */
  readonly band: CompiledBand;
}

/** What a patch is played with. */
export interface CompileSettings {
  rig: CompiledRig;
  /** Semitones from fingered to sounding key of the song. */
  songShift: number;
  /** The key the player's hands are in; C major if left out. */
  fingered?: MusicalKey;
  /** The key that sounds, which patterns go into; as fingered if left out. */
  sounding?: MusicalKey;
  /** The patterns of the library; none if left out. */
  patterns?: ReadonlyMap<string, Pattern>;
  /** The sounds of the library, of which kits say where their pieces lie; none if left out. */
  sounds?: ReadonlyMap<string, Sound>;
  /** Ids of soloed layers; while there are any, the others are not heard. */
  soloed?: ReadonlySet<string>;
}

/** Makes a rig ready for playing. Devices beyond {@link MOST_DEVICES} are left out. */
export function compileRig(devices: readonly Device[]): CompiledRig {
  const used = devices.slice(0, MOST_DEVICES);
  const touch = new Uint8Array(MOST_DEVICES * 128);
  const keyShift = new Int8Array(MOST_DEVICES);
  const keyboards = new Uint8Array(MOST_DEVICES);
  for (let device = 0; device < MOST_DEVICES; device++) {
    const described = used[device];
    const keyboard = described && isKeyboard(described) ? described : null;
    if (keyboard) {
      keyShift[device] = keyboard.octaveShift * 12;
      keyboards[device] = 1;
    }
    for (let v = 1; v < 128; v++)
      touch[device * 128 + v] = keyboard ? touchOut(keyboard.touch, v) : v;
  }
  const ids = used.map((d) => d.id);
  const places = used.map(({ place, alsoAt }) => ({ place, alsoAt }));
  return { ids, places, names: used.map((d) => d.name), touch, keyShift, keyboards };
}

const NO_PATTERNS: ReadonlyMap<string, Pattern> = new Map();

/** Makes a patch ready for playing on a rig, in a song. */
export function compilePatch(patch: Patch, settings: CompileSettings): CompiledPatch {
  const { rig, songShift, soloed, fingered } = settings;
  const someoneSoloed = patch.layers.some((layer) => soloed?.has(layer.id));
  const soundOf = new Map(patch.sounds.map((sound) => [sound.id, sound]));
  const layers = patch.layers.map((layer, index): CompiledLayer => {
    const sound = soundOf.get(layer.soundId);
    const librarySoundId = sound?.librarySoundId ?? '';
    const librarySound = settings.sounds?.get(librarySoundId);
    const colour = { timbre: sound?.timbre ?? PLAIN_TIMBRE, tone: layer.tone };
    const plainTouch = touchTable(layer.touch);
    const liftedTouch = liftedTable(layer.touch, layer.lift);
    return {
      id: layer.id,
      name: layer.name,
      index,
      patchSoundId: layer.soundId,
      librarySoundId,
      loudnessKey: loudnessKey(librarySoundId, colour),
      hearsDevice: heardDevices(layer, rig),
      channel: layer.channel === 'any' ? 0 : layer.channel,
      keyLow: layer.keys.low,
      keyHigh: layer.keys.high,
      velocityLow: layer.velocities.low,
      velocityHigh: layer.velocities.high,
      keyGain: gainTable(layer.keys),
      velocityGain: gainTable(layer.velocities),
      touch: layer.lift.on ? liftedTouch : plainTouch,
      plainTouch,
      liftedTouch,
      shift: layer.transpose + (layer.followsSong ? songShift : 0),
      muted: layer.muted,
      soloedOut: someoneSoloed && !soloed?.has(layer.id),
      isChosen: isChosen(layer.id, patch.choosers),
      obeysSustain: layer.obeys.includes('sustain'),
      obeysPressure: layer.obeys.includes('aftertouch'),
      kit: librarySound ? kitKeysOf(librarySound) : null,
      treatments: patch.treatments.filter(({ layerIds }) => layerIds.includes(layer.id)),
      source: layer,
    };
  });
  const hands = fingered ?? { tonic: 0, spelling: 'usual', mode: 'major' };
  const { sounding = hands, patterns = NO_PATTERNS } = settings;
  const band = compileBand(patch, patterns, sounding, rig.places);
  return { id: patch.id, rig, layers, choosers: patch.choosers, scale: scaleOf(hands), band };
}

/** The patch as its choosers stand otherwise; itself where they pick the same. */
export function withPicks(
  patch: CompiledPatch,
  pickedBy: (chooser: Chooser) => number,
): CompiledPatch {
  if (patch.choosers.length === 0) return patch;
  const picked = patch.layers.map(({ id }) => isChosen(id, patch.choosers, pickedBy));
  if (picked.every((is, at) => is === patch.layers[at].isChosen)) return patch;
  return {
    ...patch,
    layers: patch.layers.map((layer, at) => ({ ...layer, isChosen: picked[at] })),
  };
}

// What an edit leaves alone stays the same object, so that its tables are made once and not with every movement of a hand.
const touchTables = new WeakMap<Touch, Uint8Array>();
const liftedTables = new WeakMap<Touch, Map<number, Uint8Array>>();
const gainTables = new WeakMap<Range, Float32Array>();

function touchTable(touch: Touch): Uint8Array {
  let table = touchTables.get(touch);
  if (!table) {
    table = Uint8Array.from({ length: 128 }, (_, n) => (n === 0 ? 0 : touchOut(touch, n)));
    touchTables.set(touch, table);
  }
  return table;
}

function liftedTable(touch: Touch, { floor }: Lift): Uint8Array {
  const byFloor = liftedTables.get(touch) ?? new Map<number, Uint8Array>();
  liftedTables.set(touch, byFloor);
  let table = byFloor.get(floor);
  if (!table) {
    table = touchTable(lifted(touch, floor));
    byFloor.set(floor, table);
  }
  return table;
}

function gainTable(range: Range): Float32Array {
  let table = gainTables.get(range);
  if (!table) {
    table = Float32Array.from({ length: 128 }, (_, n) => rangeGain(range, n));
    gainTables.set(range, table);
  }
  return table;
}

function heardDevices(layer: Layer, rig: CompiledRig): Uint8Array {
  if (layer.keyboards === 'any') return rig.keyboards;
  const hears = new Uint8Array(MOST_DEVICES);
  rig.places.forEach((places, index) => {
    if (listensTo(layer, places)) hears[index] = 1;
  });
  return hears;
}
