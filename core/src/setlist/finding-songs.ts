import type { Song } from '../model/show/song.js';
import type { Step } from './running-order.js';

/**
 * The first step of the song that bears a number of its own, else of the one at that place in the night, counted from 1; −1
 * when there is none. A number that a song bears is that song's alone.
 */
export function stepOfNumber(
  steps: readonly Step[],
  songs: ReadonlyMap<string, Song>,
  number: number,
): number {
  const own = steps.findIndex(({ songId }) => songs.get(songId)?.number === number);
  if (own >= 0) return own;
  return steps.findIndex(
    ({ songId, songNumber }) =>
      songNumber === number - 1 && (songs.get(songId)?.number ?? null) === null,
  );
}

/** The number by which a song is found: its own, else its place in the night, counted from 1. */
export function numberOfSong(song: Song, songNumber: number): number {
  return song.number ?? songNumber + 1;
}

/** A song of the night, as it is looked for. */
export interface FoundSong {
  /** Its first step. */
  at: number;
  song: Song;
}

/**
 * Songs of the night by what is typed: a number, the first letters of the name, of its words or of each of them (`pl` finds
 * Paper Lighthouse), then any part of the name. Nothing typed finds all.
 */
export function songsByLetters(
  steps: readonly Step[],
  songs: ReadonlyMap<string, Song>,
  typed: string,
): FoundSong[] {
  const letters = typed.trim().toLocaleLowerCase();
  const firsts: FoundSong[] = [];
  steps.forEach(({ songId, entryId }, at) => {
    const song = songs.get(songId);
    if (song && (at === 0 || steps[at - 1].entryId !== entryId)) firsts.push({ at, song });
  });
  if (letters === '') return firsts;
  if (/^\d+$/.test(letters)) {
    const exact = stepOfNumber(steps, songs, Number(letters));
    const numbered = firsts.filter(({ at, song }) =>
      String(numberOfSong(song, steps[at].songNumber)).startsWith(letters),
    );
    return numbered.sort((a, b) => Number(b.at === exact) - Number(a.at === exact));
  }
  const ranked = firsts.map((found) => ({ found, rank: rankOf(found.song.name, letters) }));
  return ranked
    .filter(({ rank }) => rank < NOT_FOUND)
    .sort((a, b) => a.rank - b.rank)
    .map(({ found }) => found);
}

const NOT_FOUND = 4;

/** How well letters find a name: 0 at its beginning, 1 by its words' first letters, 2 at a word's beginning, 3 anywhere. */
function rankOf(name: string, letters: string): number {
  const lower = name.toLocaleLowerCase();
  const words = lower.split(/[^\p{Letter}\p{Number}]+/u).filter((word) => word !== '');
  if (lower.startsWith(letters)) return 0;
  if (
    words
      .map((word) => word[0])
      .join('')
      .startsWith(letters)
  )
    return 1;
  if (words.some((word) => word.startsWith(letters))) return 2;
  return lower.includes(letters) ? 3 : NOT_FOUND;
}
