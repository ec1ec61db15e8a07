import type { Sound } from '../model/library/sound.js';
import type { MidiNote } from '../pitch/note-names.js';

/** Pieces that stand in for one another where a kit has not the one that is asked for, the nearest first. */
const RELATIVES: readonly (readonly MidiNote[])[] = [
  [36, 35],
  [38, 40, 37],
  [42, 44],
  [41, 43, 45, 47, 48, 50],
  [49, 57, 55, 52],
  [51, 59, 53],
  [63, 62, 64],
  [60, 61],
  [65, 66],
  [67, 68],
  [69, 70, 82],
  [76, 77],
  [81, 80],
];

/** By key of the General MIDI percussion map: the key of a kit on which that piece lies; −1 where the kit has none like it. */
export type KitKeys = Int8Array;

const known = new WeakMap<Sound, { keys: KitKeys | null }>();

/**
 * Where a kit of recordings has the pieces that drum patterns ask for, by what its zones are said to be: the piece itself, else the
 * nearest like it. Null for other sounds, and for kits whose zones say nothing, which lie as General MIDI has it.
 */
export function kitKeysOf(sound: Sound): KitKeys | null {
  let found = known.get(sound);
  if (!found) known.set(sound, (found = { keys: findKeys(sound) }));
  return found.keys;
}

function findKeys({ category, origin }: Sound): KitKeys | null {
  if (category !== 'drums and percussion' || origin.kind !== 'recordings') return null;
  const lies = new Map<MidiNote, MidiNote>();
  for (const { piece, root, keys } of origin.zones) {
    if (piece === null || lies.has(piece)) continue;
    lies.set(piece, Math.min(keys.high, Math.max(keys.low, root)));
  }
  if (lies.size === 0) return null;
  return Int8Array.from({ length: 128 }, (_, key) => {
    const like = RELATIVES.find((one) => one.includes(key)) ?? [key];
    const at = like.indexOf(key);
    const nearest = [...like].sort((a, b) => distance(like, at, a) - distance(like, at, b));
    const taken = [key, ...nearest].find((one) => lies.has(one));
    return taken === undefined ? -1 : (lies.get(taken) ?? -1);
  });
}

function distance(like: readonly MidiNote[], at: number, key: MidiNote): number {
  return Math.abs(like.indexOf(key) - at);
}
