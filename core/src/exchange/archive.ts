import { unzipSync, zipSync } from 'fflate';
import { MOST_RECORDING_BYTES } from '../model/library/recording.js';
import { CannotRead } from './cannot-read.js';

/** Files of an archive at most, and bytes of all of them unpacked. */
export const MOST_ENTRIES = 20_000;
const MOST_UNPACKED = 2 * MOST_RECORDING_BYTES;
/** Bytes that one packed byte can become: more is a trick. */
const MOST_GROWTH = 1100;

/** A file in an archive. */
export interface ArchiveEntry {
  /** Its place among all, from 0. */
  index: number;
  /** With its folders. */
  name: string;
  /** Bytes when it is unpacked, as the archive says. */
  bytes: number;
  /** Why it is not taken; null for one that can be. */
  problem: string | null;
}

/** Whether bytes are those of a zip archive. */
export function isArchive(bytes: Uint8Array): boolean {
  return (
    bytes.length > 3 && bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] <= 7 && bytes[3] <= 8
  );
}

/** What lies in a zip archive, without unpacking it; folders and what systems leave beside files are left out. @throws CannotRead */
export function entriesOf(archive: Uint8Array): ArchiveEntry[] {
  const entries: ArchiveEntry[] = [];
  let index = 0;
  let unpacked = 0;
  reading(archive, ({ name, originalSize, size }) => {
    if (index >= MOST_ENTRIES)
      throw new CannotRead(
        `the archive holds more than ${MOST_ENTRIES.toLocaleString('en')} files`,
      );
    const at = index++;
    if (name.endsWith('/') || /(^|\/)(__MACOSX\/|\._|\.DS_Store)/.test(name)) return false;
    const problem = problemOf(name, originalSize, size);
    if (!problem) unpacked += originalSize;
    if (unpacked > MOST_UNPACKED)
      throw new CannotRead('the archive unpacks to more than there is room for');
    entries.push({ index: at, name, bytes: originalSize, problem });
    return false;
  });
  return entries;
}

function problemOf(name: string, bytes: number, packed: number): string | null {
  if (/(^|[/\\])\.\.([/\\]|$)|^[/\\]|^[a-z]:/i.test(name))
    return 'its path leads outside of the archive';
  if (/\.(zip|7z|rar|gz)$/i.test(name)) return 'it is an archive within an archive';
  if (bytes > MOST_RECORDING_BYTES || bytes > packed * MOST_GROWTH + 1024)
    return 'it unpacks to more than a recording can have';
  return null;
}

/** The bytes of one file of an archive. @throws CannotRead */
export function entryBytes(archive: Uint8Array, entry: ArchiveEntry): Uint8Array {
  let index = 0;
  const found = reading(archive, () => index++ === entry.index);
  const bytes = Object.values(found).at(0);
  if (!bytes) throw new CannotRead('it is not in the archive');
  return bytes;
}

type Filter = NonNullable<Parameters<typeof unzipSync>[1]>['filter'];

function reading(archive: Uint8Array, filter: NonNullable<Filter>): Record<string, Uint8Array> {
  try {
    return unzipSync(archive, { filter });
  } catch (error) {
    if (error instanceof CannotRead) throw error;
    throw new CannotRead(
      `the archive is damaged (${error instanceof Error ? error.message : String(error)})`,
    );
  }
}

/** Packs files into a zip archive; sound is stored as it is, since it hardly becomes smaller. */
export function archiveOf(files: Readonly<Record<string, Uint8Array>>): Uint8Array {
  return zipSync(files, { level: 0, mtime: new Date('2000-01-01T12:00:00') });
}
