import { CannotRead } from './cannot-read.js';
import { fourCharacters } from './chunks.js';

/** Bytes of a MIDI file at most: real ones have some hundred thousand. */
export const MOST_MIDI_BYTES = 32 * 1024 * 1024;

/** How a MIDI file counts time: ticks in a quarter, or in a second. */
export type Division = { per: 'quarter'; ticks: number } | { per: 'second'; ticks: number };

/** The parts of a Standard MIDI File. */
export interface MidiChunks {
  format: number;
  division: Division;
  /** The bytes of each track. */
  tracks: Uint8Array[];
  doubts: string[];
}

const HEAD = 14;

/** Whether bytes are those of a Standard MIDI File, by themselves or in a RIFF file. */
export function isMidiFile(bytes: Uint8Array): boolean {
  return startOf(bytes) !== null;
}

/** The parts of a Standard MIDI File, as far as they are there. @throws CannotRead where it is none */
export function midiChunks(bytes: Uint8Array): MidiChunks {
  const start = startOf(bytes);
  if (start === null) throw new CannotRead('it is no Standard MIDI File');
  if (bytes.length > MOST_MIDI_BYTES)
    throw new CannotRead('it is larger than a MIDI file of music can be');
  if (bytes.length < start + HEAD) throw new CannotRead('it is cut off in its head');
  const view = new DataView(bytes.buffer, bytes.byteOffset + start, bytes.length - start);
  const doubts: string[] = [];
  const size = view.getUint32(4);
  const format = view.getUint16(8);
  const announced = view.getUint16(10);
  const division = divisionOf(view.getUint16(12));
  if (!division) throw new CannotRead('it does not say how it counts time');
  if (format > 2) doubts.push(`format ${format} is unknown: it is read like format 1`);
  const tracks: Uint8Array[] = [];
  let at = 8 + size;
  while (at + 8 <= view.byteLength) {
    const id = fourCharacters(view, at);
    const length = view.getUint32(at + 4);
    const room = view.byteLength - at - 8;
    if (id === 'MTrk') {
      if (length > room)
        doubts.push(`track ${tracks.length + 1} is cut off: ${room} of ${length} bytes are there`);
      tracks.push(new Uint8Array(view.buffer, view.byteOffset + at + 8, Math.min(length, room)));
    }
    at += 8 + length;
  }
  if (tracks.length !== announced)
    doubts.push(`it should have ${announced} tracks, and ${tracks.length} are there`);
  return { format, division, tracks, doubts };
}

/** Where a MIDI file begins in the bytes: at once, or behind the head of a RIFF file. */
function startOf(bytes: Uint8Array): number | null {
  const says = (at: number, id: string) =>
    [...id].every((character, i) => bytes[at + i] === character.charCodeAt(0));
  if (says(0, 'MThd')) return 0;
  return says(0, 'RIFF') && says(8, 'RMID') && says(20, 'MThd') ? 20 : null;
}

function divisionOf(division: number): Division | null {
  if ((division & 0x8000) === 0) return division > 0 ? { per: 'quarter', ticks: division } : null;
  const frames = 256 - (division >> 8);
  const ticks = division & 0xff;
  // What is called 29 is the 30 frames of television that lose some numbers.
  const perSecond = frames === 29 ? 29.97 : frames;
  return ticks > 0 ? { per: 'second', ticks: perSecond * ticks } : null;
}
