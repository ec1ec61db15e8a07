import * as z from 'zod';
import { idSchema } from '../identity.js';
import { tempoSchema } from './song.js';
import { LEAST_TRIM_DB, MOST_TRIM_DB } from './trim-limits.js';

/** Semitones by which a song can be transposed while playing, up or down. */
export const MOST_TRANSPOSED = 11;
/** Trims that a night remembers. */
const MOST_TRIMS = 400;

/** A level that was moved in Showtime: it holds wherever the song plays this layer, and is offered to the cue afterwards. */
export const trimSchema = z.strictObject({
  entryId: idSchema,
  /** The cue that was played when it was moved last; null for a song without cues. */
  cueId: idSchema.nullable(),
  patchId: idSchema,
  layerId: idSchema,
  /** dB added to the level. */
  by: z.number().min(LEAST_TRIM_DB).max(MOST_TRIM_DB),
});
export type Trim = z.infer<typeof trimSchema>;

/** What is moved while a song is played, for this night. */
const playedSongSchema = z.strictObject({
  entryId: idSchema,
  tempo: tempoSchema.nullable(),
  /** Semitones added to what sounds. */
  transposed: z.number().int().min(-MOST_TRANSPOSED).max(MOST_TRANSPOSED),
});
export type PlayedSong = z.infer<typeof playedSongSchema>;

/** A night as it is played: when it began, and what was moved since. It is no part of the show. */
export const nightSchema = z.strictObject({
  showId: idSchema,
  /** When the first song began, milliseconds of the day's clock (Unix time); null before. */
  begunAt: z.number().min(0).nullable(),
  trims: z.array(trimSchema).max(MOST_TRIMS),
  songs: z.array(playedSongSchema).max(MOST_TRIMS),
});
export type Night = z.infer<typeof nightSchema>;

/** A night on which nothing was moved yet. */
export function newNight(showId: string): Night {
  return { showId, begunAt: null, trims: [], songs: [] };
}
