/** A MIDI note or key number, 0–127; 60 is middle C. */
export type MidiNote = number;

/** Which octave number middle C bears. Makers of instruments disagree; all three are in use. */
export type MiddleC = 3 | 4 | 5;

/** How notes are called: by what middle C is called alone, or also how black keys are spelled, and with numbers or without. */
export type NoteNaming =
  MiddleC | { readonly middleC: MiddleC; readonly spelling: Spelling; readonly numbers: boolean };

/** The outcome of reading a note name: the note, or in plain words why it could not be read. */
export type NoteReading = { ok: true; note: MidiNote } | { ok: false; problem: string };

const SHARP_NAMES = ['C', 'C♯', 'D', 'D♯', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'A♯', 'B'] as const;
const FLAT_NAMES = ['C', 'D♭', 'D', 'E♭', 'E', 'F', 'G♭', 'G', 'A♭', 'A', 'B♭', 'B'] as const;
/** The spelling players meet most often on a keyboard: E♭, A♭ and B♭, but C♯ and F♯. */
const USUAL_NAMES = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'] as const;
const LETTER_SEMITONES: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** How black keys are spelled. */
export type Spelling = 'usual' | 'sharps' | 'flats';

/** Octave number of a note: floor(n / 12) + middleC − 5. */
export function octaveOf(note: MidiNote, naming: NoteNaming = 4): number {
  return Math.floor(note / 12) + middleCOf(naming) - 5;
}

/** What middle C is called. */
export function middleCOf(naming: NoteNaming): MiddleC {
  return typeof naming === 'number' ? naming : naming.middleC;
}

/** The same naming without numbers, for where there is no room. */
export function withoutNumbers(naming: NoteNaming): NoteNaming {
  return typeof naming === 'number' ? naming : { ...naming, numbers: false };
}

/** Name of a pitch class (0 = C … 11 = B) without its octave. */
export function pitchClassName(pitchClass: number, spelling: Spelling = 'usual'): string {
  const names =
    spelling === 'sharps' ? SHARP_NAMES : spelling === 'flats' ? FLAT_NAMES : USUAL_NAMES;
  return names[((pitchClass % 12) + 12) % 12];
}

/** Name of a note with its octave, such as `E♭3`, or `E♭3 51` where numbers are wanted; `spelling` counts for more than the naming’s. */
export function noteName(note: MidiNote, naming: NoteNaming = 4, spelling?: Spelling): string {
  const own = typeof naming === 'number' ? null : naming;
  const name = pitchClassName(note, spelling ?? own?.spelling) + octaveOf(note, naming);
  return own?.numbers ? `${name} ${note}` : name;
}

/** True for the five black keys of an octave. */
export function isBlackKey(note: MidiNote): boolean {
  const pitchClass = ((note % 12) + 12) % 12;
  return (
    pitchClass === 1 ||
    pitchClass === 3 ||
    pitchClass === 6 ||
    pitchClass === 8 ||
    pitchClass === 10
  );
}

/**
 * Reads a typed note: `Eb3`, `E♭3`, `d#4`, `C-1`, `F##2`, or a bare MIDI number such as `51`.
 * Never throws; an unreadable text comes back with the reason.
 */
export function parseNote(text: string, naming: NoteNaming = 4): NoteReading {
  // A number beside the name is only its echo.
  const trimmed = text.trim().replace(/^([^\d\s-]\S*)\s+\d{1,3}$/u, '$1');
  if (trimmed === '') return { ok: false, problem: 'Type a note such as E♭3, or a number 0–127.' };
  if (/^[+-]?\d+$/.test(trimmed)) return withinMidi(Number(trimmed), trimmed);
  const match = /^([A-Ga-g])([#♯b♭]*|x|𝄪|𝄫)(-?\d{1,2})$/u.exec(trimmed.replace('−', '-'));
  if (!match) {
    if (/^[A-Ga-g][#♯b♭]*$/.test(trimmed))
      return { ok: false, problem: `“${trimmed}” has no octave. Add it, for example ${trimmed}3.` };
    return { ok: false, problem: `“${trimmed}” is not a note. Type E♭3, d#4 or a number 0–127.` };
  }
  const accidentals = match[2];
  let shift = 0;
  for (const sign of accidentals) {
    if (sign === '#' || sign === '♯') shift += 1;
    else if (sign === 'x' || sign === '𝄪') shift += 2;
    else if (sign === '𝄫') shift -= 2;
    else shift -= 1;
  }
  if (/[#♯]/.test(accidentals) && /[b♭]/.test(accidentals))
    return { ok: false, problem: `“${trimmed}” mixes sharps and flats.` };
  if (Math.abs(shift) > 2)
    return { ok: false, problem: `“${trimmed}” has more than two sharps or flats.` };
  const octave = Number(match[3]);
  const note =
    (octave - middleCOf(naming) + 5) * 12 + LETTER_SEMITONES[match[1].toUpperCase()] + shift;
  return withinMidi(note, trimmed);
}

function withinMidi(note: number, text: string): NoteReading {
  return note >= 0 && note <= 127
    ? { ok: true, note }
    : { ok: false, problem: `“${text}” is outside the MIDI notes 0–127.` };
}
