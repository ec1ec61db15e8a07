import { createHash, randomUUID } from 'node:crypto';
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { MOST_RECORDING_BYTES, recordingIdSchema } from '@pentachord/core/model';

/** Ending of files that are still being brought in. */
const PART = '.part';

/** What came in is not what it was said to be; in words. */
export class NotAsSaid extends Error {}

/**
 * The bytes of recordings, one file each, under their SHA-256. A file stands under its name only when it is whole: it comes in under
 * another one, is checked, written through to the disk and renamed.
 */
export class RecordingFiles {
  /** What was found of files, as long as they stay as they were when they were looked at. */
  private readonly checked = new Map<
    string,
    { size: number; changed: number; isWhole: Promise<boolean> | boolean }
  >();

  /** @param folder made when the first one comes in */
  constructor(readonly folder: string) {}

  /** Clears away what was left of recordings that were coming in when the program ended. */
  clearParts(): void {
    for (const name of this.names().filter((one) => one.endsWith(PART)))
      try {
        rmSync(join(this.folder, name), { force: true });
      } catch {
        // Where nothing can be written it stays, and is nobody's recording.
      }
  }

  /** The ids of all there are. */
  ids(): string[] {
    return this.names().filter((name) => this.file(name) !== null);
  }

  /** The file of a recording; null when it is not there. */
  file(id: string): string | null {
    if (!recordingIdSchema.safeParse(id).success) return null;
    const file = join(this.folder, id);
    return statSync(file, { throwIfNoEntry: false })?.isFile() ? file : null;
  }

  /**
   * Takes in the bytes of a recording. Whatever ends it early leaves nothing behind.
   * @throws NotAsSaid when they are another recording’s, or too many
   */
  async take(id: string, bytes: Readable): Promise<void> {
    mkdirSync(this.folder, { recursive: true, mode: 0o700 });
    const part = join(this.folder, `${id.slice(0, 16)}-${randomUUID()}${PART}`);
    const hash = createHash('sha256');
    let size = 0;
    const counting = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        size += chunk.length;
        if (size > MOST_RECORDING_BYTES)
          done(new NotAsSaid('it is larger than a recording can be'));
        else {
          hash.update(chunk);
          done(null, chunk);
        }
      },
    });
    try {
      await pipeline(bytes, counting, createWriteStream(part, { mode: 0o600 }));
      if (hash.digest('hex') !== id)
        throw new NotAsSaid('its bytes are not those that it was announced with');
      await throughToDisk(part);
      const file = join(this.folder, id);
      renameSync(part, file);
      this.checked.set(id, { size, changed: statSync(file).mtimeMs, isWhole: true });
    } catch (error) {
      rmSync(part, { force: true });
      throw error;
    }
  }

  /** True when the bytes of a recording are what its name says; looked at anew only when its file has changed. */
  async isWhole(id: string): Promise<boolean> {
    const file = this.file(id);
    if (!file) return false;
    const { size, mtimeMs } = statSync(file);
    const known = this.checked.get(id);
    if (known?.size === size && known.changed === mtimeMs) return known.isWhole;
    // Whoever asks meanwhile waits for the same.
    const isWhole = hashOf(file).then((hash) => hash === id);
    this.checked.set(id, { size, changed: mtimeMs, isWhole });
    return isWhole;
  }

  remove(id: string): void {
    if (recordingIdSchema.safeParse(id).success) rmSync(join(this.folder, id), { force: true });
  }

  private names(): string[] {
    try {
      return existsSync(this.folder) ? readdirSync(this.folder) : [];
    } catch {
      // A file in the folder’s place: there are no recordings.
      return [];
    }
  }
}

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  try {
    for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer);
  } catch {
    return '';
  }
  return hash.digest('hex');
}

async function throughToDisk(file: string): Promise<void> {
  const handle = await open(file, 'r+');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}
