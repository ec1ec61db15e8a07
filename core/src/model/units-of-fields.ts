import { musicalKeyName, musicalKeySchema } from '../pitch/musical-keys.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import { clockTime, formatDb } from '../units/index.js';

/** What a player calls the parts of saved things. */
const LABELS: Record<string, string> = {
  lengthSeconds: 'length',
  slotSeconds: 'slot',
  fadeSeconds: 'fade',
  defaultFadeSeconds: 'fade',
  glideSeconds: 'glide',
  followsSong: 'follows the song',
  fadeIn: 'fade in',
  fadeOut: 'fade out',
  low: 'lowest',
  high: 'highest',
  inLow: 'lowest velocity in',
  inHigh: 'highest velocity in',
  outLow: 'lowest velocity out',
  outHigh: 'highest velocity out',
  transpose: 'transposition',
  soundId: 'sound',
  patchId: 'patch',
  songId: 'song',
  librarySoundId: 'sound of the library',
  layerIds: 'layers',
  heldNotes: 'held notes',
  middleC: 'octave of middle C',
  atSeconds: 'time',
  leftOut: 'cues left out',
  putAway: 'put away',
  copiedFrom: 'copied from',
  rigId: 'rig',
};

/** The name of a part of a thing as a player says it. */
export function labelOfField(field: string): string {
  return LABELS[field] ?? field;
}

/** The value of a field in a player's units: `−4.0 dB`, `A3`, `30 % left`, `3:20`. The path names where it stands. */
export function fieldInUnits(path: readonly string[], value: unknown, middleC: NoteNaming): string {
  const field = path.at(-1) ?? '';
  const within = path.at(-2) ?? '';
  const key = musicalKeySchema.safeParse(value);
  if (key.success) return musicalKeyName(key.data);
  // Ids say nothing: how many there are does.
  if (field === 'leftOut' && Array.isArray(value)) return String(value.length);
  if (field === 'copiedFrom') return value === null ? '—' : 'another show';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') return numberInUnits(field, within, value, middleC);
  if (Array.isArray(value)) return value.length === 0 ? 'none' : value.map(textOf).join(', ');
  return textOf(value);
}

function numberInUnits(field: string, within: string, value: number, middleC: NoteNaming): string {
  if (field === 'level' || within === 'sends' || within === 'tone') return formatDb(value);
  if (field === 'pan') {
    const percent = Math.round(Math.abs(value) * 100);
    return percent === 0 ? 'centre' : `${percent} % ${value < 0 ? 'left' : 'right'}`;
  }
  const isNote = field === 'low' || field === 'high' ? within === 'keys' : NOTES.has(field);
  if (isNote) return noteName(value, middleC);
  if (field === 'fadeSeconds' || field === 'defaultFadeSeconds' || field === 'glideSeconds')
    return `${value} s`;
  if (field.endsWith('Seconds')) return clockTime(value);
  if (field === 'tempo') return `${value} beats a minute`;
  if (field === 'transpose') return value > 0 ? `+${value}` : String(value).replace('-', '−');
  return String(value).replace('-', '−');
}

const NOTES = new Set(['lowestKey', 'highestKey', 'lowestNote', 'highestNote']);

function textOf(value: unknown): string {
  if (typeof value === 'string') return value;
  if (value === undefined || value === null) return '—';
  const { name, kind } = value as { name?: unknown; kind?: unknown };
  if (typeof name === 'string') return name;
  return typeof kind === 'string' ? kind : JSON.stringify(value);
}
