import type { Step } from '@pentachord/core/setlist';
import { cuesOfSong, patchesOfSong, type Things } from '../show/document';

/** Where the player is: an entry of the running order, its song, the cue and the patch. */
export interface Whereabouts {
  entryId: string | null;
  songId: string | null;
  cueId: string | null;
  patchId: string | null;
}

/** The place of a step of the show; nowhere when there is none. */
export function placeOfStep(things: Things, step: Step | undefined): Whereabouts {
  if (!step) return { entryId: null, songId: null, cueId: null, patchId: null };
  const { entryId, songId, cueId } = step;
  return { entryId, songId, cueId, patchId: patchOfCue(things, songId, cueId) };
}

/** The first cue of a song, and its patch: where a song is opened. */
export function placeInSong(things: Things, songId: string, entryId: string | null) {
  const cueId = cuesOfSong(things, songId).at(0)?.id ?? null;
  return { entryId, songId, cueId, patchId: patchOfCue(things, songId, cueId) };
}

/** The patch of a cue; where that is gone, or there is no cue, the first of the song. */
export function patchOfCue(things: Things, songId: string, cueId: string | null): string | null {
  const cue = cueId === null ? undefined : things.cues[cueId];
  if (cue && cue.patchId in things.patches) return cue.patchId;
  return patchesOfSong(things, songId).at(0)?.id ?? null;
}
