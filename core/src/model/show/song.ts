import * as z from 'zod';
import { musicalKeySchema, songShift, type MusicalKey } from '../../pitch/musical-keys.js';
import { idSchema, nameSchema, textSchema } from '../identity.js';
import { freeTieSchema, MOST_CONTROLS } from '../patch/tie.js';

/** Beats in a bar and the note value that counts as one. */
export const metreSchema = z.strictObject({
  beats: z.number().int().min(1).max(32),
  unit: z.union([z.literal(2), z.literal(4), z.literal(8), z.literal(16)]),
});
export type Metre = z.infer<typeof metreSchema>;

/** The metre where nobody says otherwise. */
export const FOUR_FOUR: Metre = { beats: 4, unit: 4 };

/** Slowest and fastest a song can be, beats per minute. */
export const SLOWEST_TEMPO = 20;
export const FASTEST_TEMPO = 400;
export const tempoSchema = z.number().min(SLOWEST_TEMPO).max(FASTEST_TEMPO);

/** The longest a song can be, or time between songs, in seconds. */
export const LONGEST_SECONDS = 7200;
export const songLengthSchema = z.number().int().min(0).max(LONGEST_SECONDS);

/** The most characters of a song's notes. */
export const LONGEST_SONG_NOTES = 4000;

/** The highest number a song can bear. */
export const MOST_SONG_NUMBER = 999;

/** A song of the player's repertoire. Its patches and cues point to it, and the running orders of shows. */
export const songSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  lengthSeconds: songLengthSchema,
  /** Beats per minute. */
  tempo: tempoSchema,
  metre: metreSchema,
  /** The key the player's hands are in. */
  fingered: musicalKeySchema,
  /** The key that sounds. */
  sounding: musicalKeySchema,
  /** Octaves added to the way from the one key to the other. */
  octaves: z.number().int().min(-3).max(3),
  /** Words and notes to self, as many lines as are wanted. */
  notes: textSchema(LONGEST_SONG_NOTES),
  /** The player's own number for it, by which it is found while playing; null where its place in the night counts. */
  number: z.number().int().min(1).max(MOST_SONG_NUMBER).nullable(),
  /** Controls that move something in whichever of its patches is played. */
  ties: z.array(freeTieSchema).max(MOST_CONTROLS).default([]),
});
export type Song = z.infer<typeof songSchema>;

const C_MAJOR: MusicalKey = { tonic: 0, spelling: 'usual', mode: 'major' };

/** A song of which only the name is known. */
export function newSong(id: string, name: string): Song {
  return {
    id,
    name,
    lengthSeconds: 240,
    tempo: 100,
    metre: FOUR_FOUR,
    fingered: C_MAJOR,
    sounding: C_MAJOR,
    octaves: 0,
    notes: '',
    number: null,
    ties: [],
  };
}

/** Semitones from what is fingered in a song to what sounds: by the nearer way, and its octaves. */
export function shiftOfSong({
  fingered,
  sounding,
  octaves,
}: Pick<Song, 'fingered' | 'sounding' | 'octaves'>): number {
  return songShift(fingered, sounding) + octaves * 12;
}

/**
 * What changes of a song whose hands go into another key: the sounding key follows them as long as both are the same, until it is
 * set by itself.
 */
export function withHandsIn(
  { fingered, sounding }: Pick<Song, 'fingered' | 'sounding'>,
  key: MusicalKey,
): Partial<Pick<Song, 'fingered' | 'sounding'>> {
  const follows = fingered.tonic === sounding.tonic && fingered.mode === sounding.mode;
  return follows ? { fingered: key, sounding: key } : { fingered: key };
}
