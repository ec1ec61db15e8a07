import type { Patch } from '../model/patch/patch.js';
import type { Cue } from '../model/show/cue.js';
import type { Show } from '../model/show/show.js';

/** Why a patch of a song cannot be removed, in a few words; an empty text when it can. */
export function whyPatchStays(
  patchId: string,
  cuesOfSong: readonly Cue[],
  patchesOfSong: readonly Patch[],
): string {
  const users = cuesOfSong.filter((cue) => cue.patchId === patchId).map(({ name }) => name);
  if (users.length > 0) return `cues play it: ${users.join(', ')}`;
  return patchesOfSong.length < 2 ? 'the song has no other' : '';
}

/** The shows in whose running order a song stands. */
export function showsWith(songId: string, shows: readonly Show[]): Show[] {
  return shows.filter(({ order }) =>
    order.some((entry) => entry.kind === 'song' && entry.songId === songId),
  );
}
