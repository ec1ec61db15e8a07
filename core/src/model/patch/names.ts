import { noteName, type NoteNaming } from '../../pitch/note-names.js';
import type { Range } from '../../range/range.js';
import { cutText, LONGEST_NAME } from '../identity.js';

/** What a patch is called before it has a sound. */
export const UNNAMED_PATCH = 'New patch';

/** A name with the next free number behind it: “Reed piano” has “Reed piano 2”, and that has “Reed piano 3”. */
export function nextName(name: string, taken: Iterable<string>): string {
  const names = new Set(taken);
  const base = name.replace(/ \d{1,4}$/, '');
  for (let number = 2; ; number++) {
    const end = ` ${number}`;
    const next = `${cutText(base, LONGEST_NAME - end.length)}${end}`;
    if (!names.has(next)) return next;
  }
}

/** A name as it is if nothing bears it, else with the next free number. */
export function freeName(name: string, taken: Iterable<string>): string {
  const names = new Set(taken);
  return names.has(name) ? nextName(name, names) : name;
}

/** What a part of a layer that is cut up is called: by its name and its keys, `Felt piano C4–B4`. */
export function partName(name: string, keys: Range, middleC: NoteNaming): string {
  const note = (key: number) => noteName(key, middleC);
  const where =
    keys.low === 0
      ? `up to ${note(keys.high)}`
      : keys.high === 127
        ? `from ${note(keys.low)}`
        : `${note(keys.low)}–${note(keys.high)}`;
  const key = '[A-G][♯♭]?-?\\d+';
  const before = new RegExp(` (up to ${key}|from ${key}|${key}–${key})$`);
  const base = name.replace(before, '');
  return `${cutText(base, LONGEST_NAME - where.length - 1)} ${where}`;
}

const COLLATOR = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });

/** Puts names in the order in which a person looks for them: L2 comes before L10. */
export function compareNames(a: string, b: string): number {
  return COLLATOR.compare(a, b);
}
