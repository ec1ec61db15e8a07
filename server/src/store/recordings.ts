import { statSync } from 'node:fs';
import type { Readable } from 'node:stream';
import type { Recording, RecordingKeeping } from '@pentachord/core/model';
import type { Backups } from './backups.js';
import type { RecordingFiles } from './recording-files.js';
import type { RecordingRows } from './recording-rows.js';

/** Recordings: their bytes, what is known of them, who needs them. */
export class Recordings {
  constructor(
    readonly files: RecordingFiles,
    private readonly rows: RecordingRows,
    private readonly backups: Backups,
  ) {}

  async all(): Promise<Recording[]> {
    return this.rows.all();
  }

  /** Enters what is known of a recording whose bytes are there. Gives back how it ended. */
  async enter(recording: Recording): Promise<'taken' | 'already' | 'no-bytes' | 'other-size'> {
    const file = this.files.file(recording.id);
    // Bytes that are damaged have to come again like those that are missing.
    if (!file || !(await this.files.isWhole(recording.id))) return 'no-bytes';
    if (statSync(file).size !== recording.bytes) return 'other-size';
    return (await this.rows.enter([recording])) > 0 ? 'taken' : 'already';
  }

  /** Takes bytes in and enters what is known of them. */
  async take(recording: Recording, bytes: Readable): Promise<'taken' | 'already'> {
    if (!(await this.files.isWhole(recording.id))) await this.files.take(recording.id, bytes);
    return (await this.enter(recording)) === 'already' ? 'already' : 'taken';
  }

  /** What is wanting or damaged, and what nothing needs: no sound and no backup. */
  async keeping(): Promise<RecordingKeeping> {
    const [all, needed] = await Promise.all([this.rows.all(), this.rows.needed()]);
    const names = new Map(all.map(({ id, name }) => [id, name]));
    const missing: RecordingKeeping['missing'] = [];
    for (const { id, sounds } of needed) {
      const isThere = this.files.file(id) !== null;
      if (isThere && names.has(id) && (await this.files.isWhole(id))) continue;
      const why = !isThere ? 'missing' : names.has(id) ? 'damaged' : 'unknown';
      missing.push({ id, name: names.get(id) ?? '', why, sounds });
    }
    const inUse = new Set([...needed.map(({ id }) => id), ...this.backups.recordings]);
    const there = new Set([...this.files.ids(), ...names.keys()]);
    const sizes = new Map([...there].map((id) => [id, this.bytesOf(id)]));
    return {
      missing,
      unused: [...there]
        .filter((id) => !inUse.has(id))
        .map((id) => ({ id, name: names.get(id) ?? '', bytes: sizes.get(id) ?? 0 })),
      bytes: [...sizes.values()].reduce((sum, bytes) => sum + bytes, 0),
    };
  }

  /** Clears away those of some recordings that nothing needs; gives back how many went. */
  async clear(ids: readonly string[]): Promise<number> {
    const kept = this.backups.recordings;
    const there = new Set(this.files.ids());
    const known = new Set((await this.rows.all()).map(({ id }) => id));
    const wanted = [...new Set(ids)].filter((id) => there.has(id) || known.has(id));
    // What is known goes first: bytes of which nobody knows are cleared away the next time.
    const gone = await this.rows.forget(wanted.filter((id) => !kept.has(id)));
    for (const id of gone) this.files.remove(id);
    return gone.length;
  }

  private bytesOf(id: string): number {
    const file = this.files.file(id);
    return file ? statSync(file).size : 0;
  }
}
