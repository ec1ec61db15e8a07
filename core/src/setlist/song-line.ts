import {
  FASTEST_TEMPO,
  LONGEST_SECONDS,
  newSong,
  SLOWEST_TEMPO,
  type Song,
} from '../model/show/song.js';
import { musicalKeyName, readMusicalKey, type MusicalKey } from '../pitch/musical-keys.js';
import { clockTime } from '../units/times.js';

/** What a line says of a song; what it does not say is null. */
export interface SongLine {
  name: string;
  key: MusicalKey | null;
  /** Beats a minute. */
  tempo: number | null;
  lengthSeconds: number | null;
}

/**
 * Reads a song written in one line: its name, and behind it in any order a key, a tempo and a length, as in `Anchor Am 104 4:30`.
 * A key of one letter is taken beside a tempo only, since names end in letters too. Something is always left for the name.
 */
export function readSongLine(text: string): SongLine {
  const words = text.trim().split(/\s+/);
  const line = scanned(words, true);
  return line.tempo === null && line.key ? scanned(words, false) : line;
}

function scanned(words: readonly string[], takesLetters: boolean): SongLine {
  const line: SongLine = { name: '', key: null, tempo: null, lengthSeconds: null };
  let end = words.length;
  // Lists put commas between what belongs together.
  while (end > 1 && takes(line, words[end - 1].replace(/,$/, ''), takesLetters)) end--;
  return { ...line, name: words.slice(0, end).join(' ').replace(/,$/, '') };
}

/** Takes a word for what the line does not say yet; false when it is nothing of that. */
function takes(line: SongLine, word: string, takesLetters: boolean): boolean {
  const time = /^(\d{1,3}):([0-5]\d)$/.exec(word);
  if (time && line.lengthSeconds === null) {
    const seconds = Number(time[1]) * 60 + Number(time[2]);
    if (seconds > LONGEST_SECONDS) return false;
    line.lengthSeconds = seconds;
    return true;
  }
  if (/^\d{2,3}([.,]\d)?$/.test(word) && line.tempo === null) {
    const tempo = Number(word.replace(',', '.'));
    if (tempo < SLOWEST_TEMPO || tempo > FASTEST_TEMPO) return false;
    line.tempo = tempo;
    return true;
  }
  // Names have small letters too: a key is written with a great one.
  const key =
    /^[A-G]/.test(word) && (takesLetters || word.length > 1) ? readMusicalKey(word) : null;
  if (!key || line.key) return false;
  line.key = key;
  return true;
}

/** The song that a line says: hands and ears in its key; what it does not say is as in any new song. */
export function songOfLine(id: string, { name, key, tempo, lengthSeconds }: SongLine): Song {
  const song = newSong(id, name);
  return {
    ...song,
    fingered: key ?? song.fingered,
    sounding: key ?? song.sounding,
    tempo: tempo ?? song.tempo,
    lengthSeconds: lengthSeconds ?? song.lengthSeconds,
  };
}

/** `in Am, at 104, 4:30 long`; empty for a line that says a name alone. */
export function songLineInWords({ key, tempo, lengthSeconds }: SongLine): string {
  return [
    key ? `in ${musicalKeyName(key)}` : '',
    tempo === null ? '' : `at ${tempo}`,
    lengthSeconds === null ? '' : `${clockTime(lengthSeconds)} long`,
  ]
    .filter(Boolean)
    .join(', ');
}
