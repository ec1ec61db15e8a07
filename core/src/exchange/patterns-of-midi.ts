import { cutText, LONGEST_NAME } from '../model/identity.js';
import {
  LONGEST_PATTERN,
  MOST_PATTERN_NOTES,
  type Pattern,
  type PatternCategory,
  type PatternNote,
} from '../model/library/pattern.js';
import { FOUR_FOUR, FASTEST_TEMPO, SLOWEST_TEMPO } from '../model/show/song.js';
import { guessKey } from '../patterns/key-guess.js';
import type { MidiFile, MidiTrack } from './midi-file.js';

/** The channel of drums in General MIDI. */
const DRUM_CHANNEL = 10;
/** Keys below which a part counts as a bass. */
const LOW = 50;

/** A track of a MIDI file as a pattern, and what is worth knowing of how it was made. */
export interface PatternOfTrack {
  pattern: Pattern;
  /** 1–16. */
  channel: number;
  doubts: string[];
}

/**
 * Every track of a MIDI file that has notes as a pattern of whole bars, from the bar in which it begins; what is longer than a
 * pattern can be is cut off and told. `idOf` makes the id of a pattern from the place of its track.
 */
export function patternsOfMidi(
  file: MidiFile,
  title: string,
  idOf: (at: number) => string,
): PatternOfTrack[] {
  const metre = file.metres.at(0)?.metre ?? FOUR_FOUR;
  const bar = (metre.beats * 4) / metre.unit;
  const tempo = file.tempos.at(0)?.tempo ?? 120;
  return file.tracks
    .filter(({ notes }) => notes.length > 0)
    .map((track, at, all): PatternOfTrack => {
      const doubts: string[] = [];
      const { notes, length } = fromFirstBar(track, bar, doubts);
      const isDrums = track.channel === DRUM_CHANNEL;
      const told = file.keys.at(0)?.key;
      const guessed = told || isDrums ? null : guessKey(notes);
      if (guessed && !guessed.isSure)
        doubts.push('its key is a guess: another fits nearly as well');
      const own = track.name || (all.length > 1 ? `${title} ${at + 1}` : title);
      return {
        channel: track.channel,
        doubts,
        pattern: {
          ...{ id: idOf(at), name: cutText(own, LONGEST_NAME) || `track ${at + 1}` },
          ...{ category: categoryOf(track), tags: ['midi'], favourite: false, length, metre },
          tempo: Math.min(FASTEST_TEMPO, Math.max(SLOWEST_TEMPO, tempo)),
          key: isDrums ? null : (told ?? guessed?.key ?? null),
          quantise: null,
          notes,
        },
      };
    });
}

/** The notes counted from the bar in which they begin, and the whole bars that they last. */
function fromFirstBar({ notes }: MidiTrack, bar: number, doubts: string[]) {
  const first = Math.min(...notes.map(({ beat }) => beat));
  const from = Math.floor(first / bar + 1e-9) * bar;
  const last = notes.reduce((end, { beat }) => Math.max(end, beat - from), 0);
  // Whole beats, and bars where there is room for them.
  const most = Math.floor(LONGEST_PATTERN / bar) * bar;
  const length = Math.ceil(Math.min(most, (Math.floor(last / bar + 1e-9) + 1) * bar));
  const moved = notes
    .map((note): PatternNote => ({ ...note, beat: note.beat - from }))
    .filter(({ beat }) => beat < length);
  const kept = moved.slice(0, MOST_PATTERN_NOTES);
  if (kept.length < notes.length)
    doubts.push(
      `${notes.length - kept.length} of its ${notes.length} notes are beyond what a pattern holds`,
    );
  return {
    length,
    notes: kept.map((note) => ({ ...note, length: Math.min(note.length, LONGEST_PATTERN) })),
  };
}

function categoryOf({ channel, notes }: MidiTrack): PatternCategory {
  if (channel === DRUM_CHANNEL) return 'drums';
  const mean = notes.reduce((sum, { key }) => sum + key, 0) / notes.length;
  if (mean < LOW) return 'basses';
  const beginnings = new Set(notes.map(({ beat }) => beat.toFixed(3)));
  return notes.length > 1.5 * beginnings.size ? 'chords' : 'lines';
}
