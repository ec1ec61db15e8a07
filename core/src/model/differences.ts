import type { NoteNaming } from '../pitch/note-names.js';
import { fieldInUnits, labelOfField } from './units-of-fields.js';

/** One difference between two versions of a thing. */
export interface Difference {
  /** The part that differs: `layers · Felt piano · level`. */
  what: string;
  mine: string;
  theirs: string;
}

/** What differs between two versions of a thing, by the names of the parts, in a player's words and units. */
export function differencesOf(
  mine: unknown,
  theirs: unknown,
  middleC: NoteNaming = 4,
): Difference[] {
  const found: Difference[] = [];
  const compare = (labels: readonly string[], path: readonly string[], a: unknown, b: unknown) => {
    if (JSON.stringify(a) === JSON.stringify(b)) return;
    const field = path.at(-1) ?? '';
    if (field === 'id') return;
    // Which one it is has a name elsewhere: an id says nothing to a player.
    if (/Ids?$/.test(field))
      found.push({ what: labels.join(' · '), mine: 'one', theirs: 'another' });
    else if (isPlain(a) && isPlain(b) && !isKey(a) && !isListOfValues(a) && !isListOfValues(b)) {
      for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
        compare([...labels, labelOf(key in a ? a : b, key, field)], [...path, key], a[key], b[key]);
    } else
      found.push({
        what: labels.join(' · '),
        mine: a === undefined ? '—' : fieldInUnits(path, a, middleC),
        theirs: b === undefined ? '—' : fieldInUnits(path, b, middleC),
      });
  };
  compare([], [], mine, theirs);
  return found;
}

function isPlain(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null;
}

/** A list of words or numbers is one value to a player. */
function isListOfValues(value: unknown): boolean {
  return Array.isArray(value) && value.length > 0 && !isPlain(value[0]);
}

/** A musical key is one value to a player, though it has parts. */
function isKey(value: Record<string, unknown>): boolean {
  return 'tonic' in value;
}

/** What stands under its id in these: an id says nothing to a player. */
const BY_ID: Record<string, string> = { balance: 'a layer', treatments: 'a treatment' };

/** The name of a list's member where it has one, else its place or the word for its key. */
function labelOf(parent: Record<string, unknown>, key: string, within: string): string {
  const child = parent[key];
  if (isPlain(child) && typeof child['name'] === 'string') return child['name'];
  if (Array.isArray(parent)) return `place ${Number(key) + 1}`;
  return BY_ID[within] ?? labelOfField(key);
}
