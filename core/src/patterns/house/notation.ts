import type {
  Pattern,
  PatternCategory,
  PatternNote,
  Quantise,
} from '../../model/library/pattern.js';
import { FOUR_FOUR, type Metre } from '../../model/show/song.js';
import { parseNote } from '../../pitch/note-names.js';
import { readMusicalKey } from '../../pitch/musical-keys.js';
import type { Beats, BeatsPerMinute } from '../../units/times.js';

/** Keys of the pieces of kits by short names, after the General MIDI percussion map. */
const PIECES = {
  ...{ kick: 36, rim: 37, snare: 38, claps: 39, floor: 41, hat: 42, low: 43, foot: 44, mid: 45 },
  ...{ open: 46, high: 48, crash: 49, ride: 51, bell: 53, tamb: 54, tin: 56, hand: 60, deep: 62 },
  ...{ shaker: 69 },
} as const;
type Piece = keyof typeof PIECES;

/** How hard each sign is struck. */
const STRENGTH: Readonly<Record<string, number>> = { X: 116, x: 96, o: 74, '-': 48 };
const USUAL = 84;

/** What is said of a pattern beside its notes. */
interface About {
  name: string;
  category: PatternCategory;
  tags: string[];
  tempo: BeatsPerMinute;
  metre?: Metre;
  /** As a chord sheet names it; left out for drums. */
  key?: string;
  quantise?: Quantise;
}

export const THREE_FOUR: Metre = { beats: 3, unit: 4 };
export const SIX_EIGHT: Metre = { beats: 6, unit: 8 };

/** A pattern that ships: its notes, in whole beats of so many. */
function house(about: About, length: Beats, notes: PatternNote[]): Pattern {
  const { name, category, tags, tempo, metre = FOUR_FOUR, key, quantise = null } = about;
  return {
    ...{ id: `house-pattern-${name.replaceAll(/[^a-z]+/g, '-')}`, name, category, tags },
    ...{ favourite: false, length, metre, tempo, quantise },
    key: key === undefined ? null : readMusicalKey(key),
    notes,
  };
}

/**
 * A pattern of strokes: one row a piece, one sign a step of so many beats. `X` is struck hardest, then `x`, `o`, `-`; anything
 * else is a rest. `swing` has every second step come later, percent of a pair.
 */
export function strokes(
  about: About,
  step: Beats,
  rows: Partial<Record<Piece, string>>,
  swing = 50,
): Pattern {
  const steps = Math.max(...Object.values(rows).map((row) => row.length));
  const notes = Object.entries(rows).flatMap(([piece, row]) =>
    [...row].flatMap((sign, at): PatternNote[] => {
      const velocity = STRENGTH[sign] as number | undefined;
      if (velocity === undefined) return [];
      const late = at % 2 === 1 ? (2 * swing) / 100 - 1 : 0;
      const beat = (at + late) * step;
      return [{ beat, length: step, key: PIECES[piece as Piece], velocity }];
    }),
  );
  return house(about, steps * step, notes);
}

/**
 * A pattern of notes, one word a step of so many beats: `C3` or several at once as `C3+E3`, `_` goes on, `.` rests; `!` behind a
 * word is harder, `,` softer. Rows sound together.
 */
export function tones(about: About, step: Beats, ...rows: string[]): Pattern {
  let steps = 0;
  const notes = rows.flatMap((row) => {
    const sounding: PatternNote[] = [];
    let last: PatternNote[] = [];
    const words = row.trim().split(/\s+/);
    steps = Math.max(steps, words.length);
    words.forEach((word, at) => {
      if (word === '_') for (const note of last) note.length += step;
      else if (word === '.') last = [];
      else {
        const harder = word.endsWith('!') ? 18 : word.endsWith(',') ? -24 : 0;
        last = word
          .replace(/[!,]$/, '')
          .split('+')
          .map((name) => ({
            ...{ beat: at * step, length: step, key: keyOf(name), velocity: USUAL + harder },
          }));
        sounding.push(...last);
      }
    });
    // Notes do not run into one another.
    return sounding.map((note) => ({ ...note, length: note.length * 0.92 }));
  });
  return house(about, steps * step, notes);
}

function keyOf(name: string): number {
  const read = parseNote(name);
  if (!read.ok) throw new Error(`${name}: ${read.problem}`);
  return read.note;
}
