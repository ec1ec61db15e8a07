import type { Cue } from '../model/show/cue.js';
import { shiftOfSong, type Song } from '../model/show/song.js';
import type { Sound } from '../model/library/sound.js';
import type { Pattern } from '../model/library/pattern.js';
import type { Patch } from '../model/patch/patch.js';
import { withCue } from '../setlist/recall.js';
import { compilePatch, type CompiledPatch, type CompiledRig } from './compile.js';

/** What decides how a patch is played. */
export interface PlayedWith {
  rig: CompiledRig;
  /** The song it is played in; its keys shift what sounds. */
  song: Song | null;
  /** The cue whose balance it has; null for the patch as it is written. */
  cue: Cue | null;
  soloed: ReadonlySet<string>;
  /** The patterns of the library; none if left out. */
  patterns?: ReadonlyMap<string, Pattern>;
  /** The sounds of the library, for kits; none if left out. */
  sounds?: ReadonlyMap<string, Sound>;
  /** Layers that hands have muted or brought back, by id; none if left out. */
  muted?: ReadonlyMap<string, boolean>;
}

/** A patch made ready for playing, and the patch with its cue's balance that it was made from. */
export interface PatchInPlay {
  patch: Patch;
  compiled: CompiledPatch;
}

interface Remembered extends PatchInPlay {
  rig: CompiledRig;
  fingered: Song['fingered'] | null;
  sounding: Song['sounding'] | null;
  shift: number;
  patterns: ReadonlyMap<string, Pattern>;
  sounds: ReadonlyMap<string, Sound> | undefined;
  cue: Cue | null;
  soloed: string;
  muted: string;
}

const NO_PATTERNS: ReadonlyMap<string, Pattern> = new Map();
const NOBODY: ReadonlyMap<string, boolean> = new Map();

/** Ways of playing one patch that are remembered: as on the desk, and with the cues gone through lately. */
const MOST_WAYS = 6;
const remembered = new WeakMap<Patch, Remembered[]>();

/**
 * The patch as it is played. Asked again with the same things it gives the same objects, so that the desk, Showtime and
 * the player compile it once between them.
 */
export function patchInPlay(
  patch: Patch,
  { rig, song, cue, soloed, patterns = NO_PATTERNS, sounds, muted = NOBODY }: PlayedWith,
): PatchInPlay {
  const ways = remembered.get(patch) ?? [];
  remembered.set(patch, ways);
  const fingered = song?.fingered ?? null;
  const sounding = song?.sounding ?? null;
  const shift = song ? shiftOfSong(song) : 0;
  const own = cue?.patchId === patch.id ? cue : null;
  const solo = [...soloed].sort().join();
  const mutes = [...muted].sort().join();
  const known = ways.find(
    (way) =>
      way.rig === rig &&
      way.fingered === fingered &&
      way.sounding === sounding &&
      way.shift === shift &&
      ((way.patterns === patterns && way.sounds === sounds) || patch.accompanists.length === 0) &&
      way.cue === own &&
      way.soloed === solo &&
      way.muted === mutes,
  );
  if (known) return known;
  const played = withMutes(withCue(patch, own), muted);
  const compiled = compilePatch(played, {
    rig,
    songShift: shift,
    fingered: song?.fingered,
    sounding: song?.sounding,
    ...{ patterns, sounds, soloed },
  });
  const way = {
    patch: played,
    compiled,
    rig,
    fingered,
    sounding,
    shift,
    ...{ patterns, sounds },
    cue: own,
    soloed: solo,
    muted: mutes,
  };
  ways.unshift(way);
  ways.length = Math.min(ways.length, MOST_WAYS);
  return way;
}

function withMutes(patch: Patch, muted: ReadonlyMap<string, boolean>): Patch {
  if (muted.size === 0) return patch;
  const layers = patch.layers.map((layer) => {
    const otherwise = muted.get(layer.id) ?? layer.muted;
    return otherwise === layer.muted ? layer : { ...layer, muted: otherwise };
  });
  return { ...patch, layers };
}
