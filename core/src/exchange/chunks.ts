import { CannotRead } from './cannot-read.js';

/** A part of an IFF or RIFF file: what lies in it, without its head. */
export interface Chunk {
  id: string;
  /** Bytes that it says it has. */
  size: number;
  data: DataView;
}

/** Chunks of a file at most: real ones have a dozen. */
const MOST_CHUNKS = 4096;
const HEAD = 8;

/** Reads four characters. */
export function fourCharacters(view: DataView, at: number): string {
  return String.fromCharCode(...[0, 1, 2, 3].map((i) => view.getUint8(at + i)));
}

/**
 * The chunks of a file behind its head of twelve bytes, each within the file and none in another.
 * @param sizeOf what a chunk really has, where its own field is too small to say so
 * @throws CannotRead where a chunk reaches beyond the end
 */
export function chunksOf(
  view: DataView,
  littleEndian: boolean,
  sizeOf: (id: string, size: number, soFar: readonly Chunk[]) => number = (_id, size) => size,
): Chunk[] {
  const chunks: Chunk[] = [];
  let at = 12;
  while (at + HEAD <= view.byteLength) {
    const id = fourCharacters(view, at);
    const size = sizeOf(id, view.getUint32(at + 4, littleEndian), chunks);
    const room = view.byteLength - at - HEAD;
    // What hangs loose at the end is no sound.
    if (size > room && !isSound(id) && chunks.some((chunk) => isSound(chunk.id))) break;
    if (size > room)
      throw new CannotRead(
        `it is cut off or damaged: its part “${printable(id)}” should have ${size} bytes, and there are ${room}`,
      );
    if (chunks.length === MOST_CHUNKS) throw new CannotRead('it is damaged: it has too many parts');
    chunks.push({ id, size, data: new DataView(view.buffer, view.byteOffset + at + HEAD, size) });
    at += HEAD + size + (size % 2);
  }
  return chunks;
}

function isSound(id: string): boolean {
  return id === 'data' || id === 'SSND';
}

/** The one chunk of an id; undefined for none. Throws where there are two. */
export function only(chunks: readonly Chunk[], id: string): Chunk | undefined {
  const found = chunks.filter((chunk) => chunk.id === id);
  if (found.length > 1)
    throw new CannotRead(`it is damaged: its part “${printable(id)}” is there twice`);
  return found.at(0);
}

function printable(id: string): string {
  return id.replaceAll(/[^\x20-\x7e]/g, '?').trim();
}
