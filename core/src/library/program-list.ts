import type { Bank, Sound } from '../model/library/sound.js';
import { cutText, LONGEST_NAME } from '../model/identity.js';
import type { Place } from '../model/rig/place.js';

/** A program of an outside instrument, as a list names it. */
export interface NamedProgram {
  bank: Bank | null;
  /** 0–127. */
  program: number;
  name: string;
}

/** A line that could not be read, and why. */
export interface OddLine {
  /** Counted from 1. */
  line: number;
  text: string;
  why: string;
}

/** What was understood of a list of programs, and what was not. */
export interface ProgramList {
  programs: NamedProgram[];
  odd: OddLine[];
}

/** The most programs that are read of one list. */
export const MOST_PROGRAMS = 2000;
const COLUMNS = 'bank msb, bank lsb, program, name';

/** The longest line that is looked at, and how many. */
const LONGEST_LINE = 400;
const MOST_LINES = 2 * MOST_PROGRAMS;

/** As much of a pasted text as a list can be, with lines of so many letters: whoever pastes something else must not wait for it. */
export function boundedList(text: string, longestLine = LONGEST_LINE): string {
  const lines = text.slice(0, longestLine * MOST_LINES).split('\n', MOST_LINES);
  return lines.map((line) => line.slice(0, longestLine)).join('\n');
}

/**
 * Reads the rows of a list of `bank msb, bank lsb, program, name`. Programs count from 0, as on the cable, or from 1, as most
 * lists do. Both bank numbers may be left empty: the module then stays in the bank it is in. A first row of words is a heading.
 */
export function readPrograms(
  rows: readonly (readonly string[])[],
  firstProgram: 0 | 1,
): ProgramList {
  const list: ProgramList = { programs: [], odd: [] };
  const seen = new Set<string>();
  rows.forEach((cells, index) => {
    const row = cells.map((cell) => cell.trim());
    if (row.every((cell) => cell === '')) return;
    if (index === 0 && row.slice(0, 3).every((cell) => !/\d/.test(cell))) return;
    const read = readRow(row, firstProgram);
    const odd = { line: index + 1, text: cutText(row.slice(0, 8).join(', ').slice(0, 200), 80) };
    const key = typeof read === 'string' ? '' : JSON.stringify([read.bank, read.program]);
    const why =
      typeof read === 'string' ? read : seen.has(key) ? 'that program stands above already' : '';
    if (list.programs.length >= MOST_PROGRAMS)
      list.odd.push({ ...odd, why: `more than ${MOST_PROGRAMS} programs` });
    else if (typeof read === 'string' || why !== '') list.odd.push({ ...odd, why });
    else {
      seen.add(key);
      list.programs.push(read);
    }
  });
  return list;
}

function readRow(row: readonly string[], firstProgram: 0 | 1): NamedProgram | string {
  if (row.length < 4) return `it has ${row.length} of four columns: ${COLUMNS}`;
  const [msb, lsb, program] = row.map((cell) => (/^\d{1,3}$/.test(cell) ? Number(cell) : null));
  const isEmpty = row[0] === '' && row[1] === '';
  if (!isEmpty && (msb === null || msb > 127))
    return `bank msb “${short(row[0])}” is no number from 0 to 127`;
  if (!isEmpty && (lsb === null || lsb > 127))
    return `bank lsb “${short(row[1])}” is no number from 0 to 127`;
  const number = program === null ? -1 : program - firstProgram;
  if (number < 0 || number > 127)
    return `program “${short(row[2])}” is no number from ${firstProgram} to ${127 + firstProgram}`;
  // A name may hold commas, even where nobody put quotes around it.
  const name = cutText(row.slice(3).join(', ').slice(0, LONGEST_LINE), LONGEST_NAME);
  if (name === '') return 'it has no name';
  const bank = msb !== null && lsb !== null ? { msb, lsb } : null;
  return { bank, program: number, name };
}

function short(cell: string): string {
  return cell.length > 24 ? `${cell.slice(0, 24)}…` : cell;
}

/** Programs as sounds of the library, played by the module at a place on a channel. */
export function soundsOfPrograms(
  programs: readonly NamedProgram[],
  place: Place,
  channel: number,
  newId: () => string,
): Sound[] {
  return programs.map(({ bank, program, name }) => ({
    id: newId(),
    name,
    category: 'outside',
    tags: [],
    favourite: false,
    origin: { kind: 'outside', place, channel, bank, program },
    lowestNote: 0,
    highestNote: 127,
  }));
}
