import { cutText, LONGEST_NAME } from '../model/identity.js';
import { LONGEST_PATTERN, MOST_PATTERN_NOTES } from '../model/library/pattern-limits.js';
import type { Pattern, PatternCategory, PatternNote } from '../model/library/pattern.js';
import { FOUR_FOUR, FASTEST_TEMPO, SLOWEST_TEMPO } from '../model/show/song.js';
import { guessKey } from '../patterns/key-guess.js';
import type { Beats } from '../units/times.js';
import { writeMidiFile } from './midi-file-writing.js';
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

/** Bars of a track that are taken, the first of the file being 0. */
export interface ChosenBars {
  from: number;
  count: number;
}

/** Beats of a bar of a file. */
export function barOfMidi({ metres }: Pick<MidiFile, 'metres'>): Beats {
  const { beats, unit } = metres.at(0)?.metre ?? FOUR_FOUR;
  return (beats * 4) / unit;
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
  const played = file.tracks.filter(({ notes }) => notes.length > 0);
  return played.map((track, at) => {
    const name = track.name || (played.length > 1 ? `${title} ${at + 1}` : title);
    return patternOfTrack(file, track, { id: idOf(at), name: name || `track ${at + 1}` });
  });
}

/** A track of a MIDI file as a pattern: all its bars, or those that were chosen. */
export function patternOfTrack(
  file: MidiFile,
  track: MidiTrack,
  { id, name }: Pick<Pattern, 'id' | 'name'>,
  bars?: ChosenBars,
): PatternOfTrack {
  const doubts: string[] = [];
  const { notes, length } = barsOf(track, barOfMidi(file), bars, doubts);
  const isDrums = track.channel === DRUM_CHANNEL;
  const told = file.keys.at(0)?.key;
  const guessed = told || isDrums || notes.length === 0 ? null : guessKey(notes);
  if (guessed && !guessed.isSure) doubts.push('its key is a guess: another fits nearly as well');
  const tempo = file.tempos.at(0)?.tempo ?? 120;
  return {
    channel: track.channel,
    doubts,
    pattern: {
      ...{ id, name: cutText(name, LONGEST_NAME) || 'track' },
      ...{ category: categoryOf(track), tags: ['midi'], favourite: false, length },
      metre: file.metres.at(0)?.metre ?? FOUR_FOUR,
      tempo: Math.min(FASTEST_TEMPO, Math.max(SLOWEST_TEMPO, tempo)),
      key: isDrums ? null : (told ?? guessed?.key ?? null),
      quantise: null,
      notes,
    },
  };
}

/** The notes counted from the first of the bars, by default that in which they begin, and the whole beats that they last. */
function barsOf(
  { notes }: MidiTrack,
  bar: Beats,
  bars: ChosenBars | undefined,
  doubts: string[],
): { notes: PatternNote[]; length: Beats } {
  const first = notes.reduce((least, { beat }) => Math.min(least, beat), Infinity);
  const from = (bars?.from ?? Math.floor(first / bar + 1e-9)) * bar;
  const last = notes.reduce((end, { beat }) => Math.max(end, beat - from), 0);
  // Whole beats, and bars where there is room for them.
  const most = Math.floor(LONGEST_PATTERN / bar) * bar;
  const wanted = bars ? bars.count * bar : (Math.floor(last / bar + 1e-9) + 1) * bar;
  const length = Math.max(1, Math.ceil(Math.min(most, wanted)));
  const moved = notes
    .map((note): PatternNote => ({ ...note, beat: note.beat - from }))
    .filter(({ beat }) => beat >= 0 && beat < length);
  const kept = moved.slice(0, MOST_PATTERN_NOTES);
  const beyond = bars ? moved.length - kept.length : notes.length - kept.length;
  if (beyond > 0)
    doubts.push(`${beyond} of its ${notes.length} notes are beyond what a pattern holds`);
  return {
    length,
    notes: kept.map((note) => ({ ...note, length: Math.min(note.length, LONGEST_PATTERN) })),
  };
}

/** A pattern as a MIDI file that says its tempo, metre and key, on the channel of drums where it has no key. */
export function midiOfPattern(pattern: Pattern): Uint8Array<ArrayBuffer> {
  const { name, notes, tempo, metre, key } = pattern;
  return writeMidiFile({
    tracks: [{ name, channel: key ? 1 : DRUM_CHANNEL, notes, programs: [] }],
    tempos: [{ beat: 0, tempo }],
    metres: [{ beat: 0, metre }],
    keys: key ? [{ beat: 0, key }] : [],
  });
}

function categoryOf({ channel, notes }: MidiTrack): PatternCategory {
  if (channel === DRUM_CHANNEL) return 'drums';
  if (notes.length === 0) return 'lines';
  const mean = notes.reduce((sum, { key }) => sum + key, 0) / notes.length;
  if (mean < LOW) return 'basses';
  const beginnings = new Set(notes.map(({ beat }) => beat.toFixed(3)));
  return notes.length > 1.5 * beginnings.size ? 'chords' : 'lines';
}
