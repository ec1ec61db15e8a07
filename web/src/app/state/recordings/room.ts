import { trimmable } from '@pentachord/core/mapping';
import { isSampled } from '@pentachord/core/model';
import { createSelector } from '@ngrx/store';
import { selectSounds, selectSteps, selectThings } from '../selectors';
import { selectRecordingsById } from './selectors';

/** What the recordings of the show take, and what of it nobody hears. */
export const selectRecordingRoom = createSelector(
  selectThings,
  selectSteps,
  selectSounds,
  selectRecordingsById,
  ({ patches }, steps, sounds, recordings) => {
    const songs = new Set(steps.map(({ songId }) => songId));
    const reached = new Map<string, { low: number; high: number }[]>();
    for (const patch of Object.values(patches)) {
      if (!songs.has(patch.songId)) continue;
      for (const { id, librarySoundId } of patch.sounds) {
        const spans = reached.get(librarySoundId) ?? [];
        for (const { soundId, keys, transpose } of patch.layers)
          if (soundId === id)
            spans.push({ low: keys.low + transpose, high: keys.high + transpose });
        reached.set(librarySoundId, spans);
      }
    }
    const sampled = [...reached.keys()].flatMap((id) => {
      const sound = sounds.get(id);
      return sound && isSampled(sound) ? [sound] : [];
    });
    return trimmable(sampled, recordings, (id) => reached.get(id) ?? null);
  },
);
