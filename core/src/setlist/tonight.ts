import type { Cue } from '../model/show/cue.js';
import { LONGEST_SONG_NOTES, type Song } from '../model/show/song.js';
import { AS_WRITTEN, type Tonight } from '../model/show/tonight.js';
import { cutText } from '../model/identity.js';
import { musicalKeyName, type MusicalKey } from '../pitch/musical-keys.js';
import { clockTime } from '../units/times.js';

const made = new WeakMap<Song, WeakMap<Tonight, Song>>();

/** The song as it is played this night. The same song and night give the same object. */
export function songTonight(song: Song, tonight: Tonight | null): Song {
  if (!tonight) return song;
  const nights = made.get(song) ?? new WeakMap<Tonight, Song>();
  made.set(song, nights);
  let played = nights.get(tonight);
  if (!played) {
    const { tempo, fingered, sounding, lengthSeconds } = tonight;
    played = {
      ...song,
      tempo: tempo ?? song.tempo,
      fingered: fingered ?? song.fingered,
      sounding: sounding ?? song.sounding,
      lengthSeconds: lengthSeconds ?? song.lengthSeconds,
    };
    nights.set(tonight, played);
  }
  return played;
}

/** The cues that are gone through this night. */
export function cuesTonight(cues: readonly Cue[], tonight: Tonight | null): Cue[] {
  return cues.filter(({ id }) => !tonight?.leftOut.includes(id));
}

/**
 * What is otherwise this night after some more of it is: what is as the song has it is not otherwise. Null when nothing is.
 * A change to undefined takes that one back.
 */
export function changedTonight(
  song: Song,
  before: Tonight | null,
  changes: Partial<Tonight>,
): Tonight | null {
  const asked = { ...(before ?? AS_WRITTEN), ...changes };
  const tonight: Tonight = { leftOut: [...asked.leftOut] };
  if (asked.tempo !== undefined && asked.tempo !== song.tempo) tonight.tempo = asked.tempo;
  if (asked.fingered && !sameKey(asked.fingered, song.fingered)) tonight.fingered = asked.fingered;
  if (asked.sounding && !sameKey(asked.sounding, song.sounding)) tonight.sounding = asked.sounding;
  if (asked.lengthSeconds !== undefined && asked.lengthSeconds !== song.lengthSeconds)
    tonight.lengthSeconds = asked.lengthSeconds;
  if (asked.note) tonight.note = asked.note;
  return Object.keys(tonight).length > 1 || tonight.leftOut.length > 0 ? tonight : null;
}

/** The song as it is once what is otherwise tonight holds for good; a note is added to its own. Cues left out are the caller's. */
export function madePermanent(song: Song, tonight: Tonight): Song {
  const notes = [song.notes, tonight.note ?? ''].filter((text) => text !== '').join('\n');
  return { ...songTonight(song, tonight), notes: cutText(notes, LONGEST_SONG_NOTES) };
}

/** What is otherwise tonight, in a few words: `in F♯m, at 128, 1 cue left out`. */
export function tonightInWords(
  song: Song,
  { tempo, fingered, sounding, lengthSeconds, leftOut, note }: Tonight,
): string {
  const words: string[] = [];
  if (fingered) words.push(`hands in ${musicalKeyName(fingered)}`);
  if (sounding) words.push(`in ${musicalKeyName(sounding)}`);
  if (tempo !== undefined) words.push(`at ${tempo}`);
  if (lengthSeconds !== undefined)
    words.push(`${clockTime(lengthSeconds)} instead of ${clockTime(song.lengthSeconds)}`);
  if (leftOut.length > 0)
    words.push(`${leftOut.length} ${leftOut.length === 1 ? 'cue' : 'cues'} left out`);
  if (note) words.push(note);
  return words.join(', ');
}

function sameKey(a: MusicalKey, b: MusicalKey): boolean {
  return a.tonic === b.tonic && a.mode === b.mode && a.spelling === b.spelling;
}
