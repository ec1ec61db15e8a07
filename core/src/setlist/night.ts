import { MOST_TRANSPOSED, type Night, type PlayedSong, type Trim } from '../model/show/night.js';
import { LEAST_TRIM_DB, MOST_TRIM_DB } from '../model/show/trim-limits.js';
import type { Patch } from '../model/patch/patch.js';
import type { Cue } from '../model/show/cue.js';
import { shiftOfSong, type Song } from '../model/show/song.js';
import { songShift, type MusicalKey } from '../pitch/musical-keys.js';
import { LOUDEST_DB, SILENCE_DB } from '../units/decibels.js';
import type { BeatsPerMinute } from '../units/times.js';
import { withCue } from './recall.js';

/** A layer as a trim knows it. */
export type TrimmedLayer = Omit<Trim, 'by' | 'cueId'>;

/** dB by which a layer is trimmed this night; 0 for not at all. */
export function trimOf(night: Night, { entryId, patchId, layerId }: TrimmedLayer): number {
  return (
    night.trims.find((t) => t.entryId === entryId && t.patchId === patchId && t.layerId === layerId)
      ?.by ?? 0
  );
}

/** The night with a layer trimmed by so many dB, held to what a trim can do; 0 takes a trim back. */
export function trimmed(night: Night, trim: Trim): Night {
  const by = Math.max(LEAST_TRIM_DB, Math.min(MOST_TRIM_DB, trim.by));
  const others = night.trims.filter((t) => !sameLayer(t, trim));
  return { ...night, trims: by === 0 ? others : [...others, { ...trim, by }] };
}

function sameLayer(a: TrimmedLayer, b: TrimmedLayer): boolean {
  return a.entryId === b.entryId && a.patchId === b.patchId && a.layerId === b.layerId;
}

/** The level that a trimmed layer has in a cue with its trim, dB; null when the cue plays no such layer. */
export function levelWithTrim(trim: Trim, cue: Cue, patch: Patch): number | null {
  if (cue.patchId !== patch.id || trim.patchId !== patch.id) return null;
  const layer = withCue(patch, cue).layers.find(({ id }) => id === trim.layerId);
  return layer ? Math.max(SILENCE_DB, Math.min(LOUDEST_DB, layer.level + trim.by)) : null;
}

/** What is moved in a song's place of the night. */
export function playedSong(night: Night, entryId: string | null): PlayedSong | null {
  return night.songs.find((song) => song.entryId === entryId) ?? null;
}

/** The night with something of a song's place moved. */
export function movedSong(
  night: Night,
  entryId: string,
  change: Partial<Omit<PlayedSong, 'entryId'>>,
): Night {
  const before = playedSong(night, entryId) ?? { entryId, tempo: null, transposed: 0 };
  const after = { ...before, ...change };
  const transposed = Math.max(-MOST_TRANSPOSED, Math.min(MOST_TRANSPOSED, after.transposed));
  const others = night.songs.filter((song) => song.entryId !== entryId);
  const isMoved = transposed !== 0 || after.tempo !== null;
  return { ...night, songs: isMoved ? [...others, { ...after, transposed }] : others };
}

const made = new WeakMap<Song, { transposed: number; tempo: BeatsPerMinute | null; song: Song }>();

/** A song as hands have moved it this night: the same song and movements give the same object. */
export function songAsMoved(song: Song, moved: PlayedSong | null): Song {
  if (!moved) return song;
  const { transposed, tempo } = moved;
  const known = made.get(song);
  if (known?.transposed === transposed && known.tempo === tempo) return known.song;
  const played = { ...transposedSong(song, transposed), tempo: tempo ?? song.tempo };
  made.set(song, { transposed, tempo, song: played });
  return played;
}

/** The song sounding so many semitones higher: its sounding key moves, and its octaves where the nearer way would leap. */
export function transposedSong(song: Song, semitones: number): Song {
  if (semitones === 0) return song;
  const sounding = movedKey(song.sounding, semitones);
  const shift = shiftOfSong(song) + semitones;
  return {
    ...song,
    sounding,
    octaves: Math.round((shift - songShift(song.fingered, sounding)) / 12),
  };
}

function movedKey(key: MusicalKey, semitones: number): MusicalKey {
  return { ...key, tonic: (((key.tonic + semitones) % 12) + 12) % 12 };
}
