import type { Pattern } from '../../model/library/pattern.js';
import type { Sound } from '../../model/library/sound.js';
import type { Patch } from '../../model/patch/patch.js';
import type { Tie } from '../../model/patch/tie.js';
import type { Device } from '../../model/rig/rig.js';
import type { Cue } from '../../model/show/cue.js';
import type { Show } from '../../model/show/show.js';
import type { Song } from '../../model/show/song.js';
import type { CompiledRig } from '../../routing/compile.js';
import type { Step } from '../../setlist/running-order.js';

/** Everything that can be played, as it stands now. Replaced as a whole when anything changes. */
export interface ShowPlan {
  show: Show;
  devices: readonly Device[];
  rig: CompiledRig;
  songs: ReadonlyMap<string, Song>;
  patches: Readonly<Record<string, Patch>>;
  cues: Readonly<Record<string, Cue>>;
  sounds: ReadonlyMap<string, Sound>;
  patterns: ReadonlyMap<string, Pattern>;
  steps: readonly Step[];
  /** Controls that the rig ties. */
  ties: readonly Tie[];
}

/** Where the player is, and how the desk or Showtime wants it played. */
export interface NowPlaying {
  /** The place in the running order; null for a song that is open outside of it. */
  entryId: string | null;
  songId: string | null;
  cueId: string | null;
  /** The patch on the desk. */
  patchId: string | null;
  soloed: ReadonlySet<string>;
  /** Whether cues are played with their balance, as in Showtime; otherwise patches are played as they are written. */
  asCue: boolean;
  /** True in Showtime, where what is moved holds for the night: trims, transposition, a tapped tempo. */
  showtime: boolean;
}

/** The patch that a step plays: its cue’s, or the first of its song where that is gone, so that there is no silence. */
export function patchOfStep(plan: ShowPlan, { cueId, songId }: Step): string | null {
  const cue = cueId === null ? undefined : (plan.cues[cueId] as Cue | undefined);
  return cue && cue.patchId in plan.patches ? cue.patchId : firstPatchOf(plan, songId);
}

/** The patch that is played at a place, with its cue or without; null when there is none. */
export function patchAt(plan: ShowPlan, place: NowPlaying, cue: Cue | null): Patch | null {
  const id = cue?.patchId ?? place.patchId;
  if (id === null) return null;
  const patch = plan.patches[id] as Patch | undefined;
  if (patch || !cue) return patch ?? null;
  const other = firstPatchOf(plan, cue.songId);
  return other === null ? null : plan.patches[other];
}

/** The first patch of a song. */
function firstPatchOf({ patches }: ShowPlan, songId: string): string | null {
  let first: Patch | null = null;
  for (const patch of Object.values(patches))
    if (patch.songId === songId && patch.position < (first?.position ?? Infinity)) first = patch;
  return first?.id ?? null;
}
