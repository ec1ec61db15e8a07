import {
  FASTEST_TEMPO,
  LONGEST_SECONDS,
  MOST_SONG_NUMBER,
  metreSchema,
  SLOWEST_TEMPO,
  type Metre,
} from '../model/show/song.js';
import { readMusicalKey, type MusicalKey } from '../pitch/musical-keys.js';
import type { BeatsPerMinute, Seconds } from '../units/times.js';

/** A whole number alone, as a length, is minutes up to here, and seconds from here on. */
const MOST_MINUTES_ALONE = 15;

/** Reads a key in any usual way: `Am`, `E♭`, `e flat major`, `F# minor`, `Bb-moll`, `cis-Moll`; null for anything else. */
export function readKeyCell(text: string): MusicalKey | null {
  const plain = text
    .trim()
    .replace(/[\s_-]*(sharp)\b/i, '#')
    .replace(/[\s_-]*(flat)\b/i, 'b')
    .replace(/[\s_-]*(moll|minor|min\.?|mi)$/i, 'm')
    .replace(/[\s_-]*(dur|major|maj\.?)$/i, '')
    .replace(/[\s_-]+m$/, 'm');
  const known = readMusicalKey(plain);
  if (known) return known;
  // German names: a sharp one ends in -is, a flat one in -es or -s, and B natural is H.
  const german = /^([a-h])(is|es|s)?(m?)$/i.exec(plain);
  if (!german) return null;
  const [, letter, sign = '', mode] = german;
  if (sign === 's' && !/[ae]/i.test(letter)) return null;
  const by = sign === '' ? '' : sign.toLowerCase() === 'is' ? '#' : 'b';
  return readMusicalKey(`${/h/i.test(letter) ? 'B' : letter}${by}${mode}`);
}

/** Reads a length: `4:30`, `1:02:30`, `4'30"`, `4m 30s`, `4 min`, `270 s`, `4.30` as some write 4:30, a number of seconds, or of minutes up to 15; null for else. */
export function readLengthCell(text: string): Seconds | null {
  const plain = text
    .trim()
    .toLowerCase()
    .replace(/[′’]/g, "'")
    .replace(/[″”“]/g, '"')
    .replace(/^(\d{1,2})[.,](\d\d)$/, '$1:$2');
  const clock = /^(?:(\d{1,2})[:.])?(\d{1,3}):([0-5]?\d)$/.exec(plain);
  const marked =
    /^(?:(\d{1,2})\s*(?:h|hours?))?\s*(?:(\d{1,3})\s*(?:'|m|min|mins|minutes?)\.?)?\s*(?:(\d{1,4})\s*(?:"|''|s|sec|secs|seconds?)?\.?)?$/.exec(
      plain,
    );
  const alone = /^\d+([.,]\d+)?$/.exec(plain);
  let seconds: number | null = null;
  if (clock) seconds = inSeconds(clock);
  else if (alone) {
    const number = Number(plain.replace(',', '.'));
    seconds = number <= MOST_MINUTES_ALONE ? Math.round(number * 60) : Math.round(number);
  } else if (marked && plain !== '') seconds = inSeconds(marked);
  return seconds !== null && seconds <= LONGEST_SECONDS ? seconds : null;
}

function inSeconds([, hours, minutes, seconds]: RegExpExecArray): Seconds {
  const of = (text: string | undefined) => Number(text ?? 0);
  return of(hours) * 3600 + of(minutes) * 60 + of(seconds);
}

/** Reads a tempo: `104`, `104.5`, `104,5 bpm`, `♩ = 104`; null for anything else, or what no song has. */
export function readTempoCell(text: string): BeatsPerMinute | null {
  const found = /^(?:[^\d=]*=)?\s*(\d{1,3}(?:[.,]\d+)?)\s*(?:bpm|beats.*)?$/i.exec(text.trim());
  const tempo = found ? Number(found[1].replace(',', '.')) : NaN;
  return tempo >= SLOWEST_TEMPO && tempo <= FASTEST_TEMPO ? tempo : null;
}

/** Reads a metre: `6/8`, `3 / 4`; null for anything else. */
export function readMetreCell(text: string): Metre | null {
  const found = /^\s*(\d{1,2})\s*\/\s*(\d{1,2})\s*$/.exec(text);
  const metre = metreSchema.safeParse(found && { beats: Number(found[1]), unit: Number(found[2]) });
  return metre.success ? metre.data : null;
}

/** Reads the player’s own number of a song; null for anything else. */
export function readNumberCell(text: string): number | null {
  const number = /^#?\s*(\d{1,3})\.?$/.exec(text.trim());
  const value = number ? Number(number[1]) : 0;
  return value >= 1 && value <= MOST_SONG_NUMBER ? value : null;
}
