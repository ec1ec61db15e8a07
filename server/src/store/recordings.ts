import { statSync } from 'node:fs';
import type { Readable } from 'node:stream';
import type { Recording, RecordingKeeping } from '@pentachord/core/model';
import BetterSqlite3 from 'better-sqlite3';
import type { Backups } from './backups.js';
import { join } from 'node:path';
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

  /** Whether one is known and its bytes are there. */
  async has(id: string): Promise<boolean> {
    return this.files.file(id) !== null && (await this.rows.has(id));
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
    const inUse = new Set([...needed.map(({ id }) => id), ...this.neededByBackups()]);
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
    const { unused } = await this.keeping();
    const wanted = new Set(ids);
    const going = unused.filter(({ id }) => wanted.has(id)).map(({ id }) => id);
    // What is known goes first: bytes of which nobody knows are cleared away the next time.
    await this.rows.forget(going);
    for (const id of going) this.files.remove(id);
    return going.length;
  }

  private bytesOf(id: string): number {
    const file = this.files.file(id);
    return file ? statSync(file).size : 0;
  }

  /** The recordings that sounds of backups need. A backup that cannot be looked into is not there to be brought back. */
  private neededByBackups(): Set<string> {
    const needed = new Set<string>();
    for (const { name } of this.backups.list()) {
      let backup: BetterSqlite3.Database | null = null;
      try {
        backup = new BetterSqlite3(join(this.backups.folder, name), { readonly: true });
        const ids = backup.prepare('select distinct recording_id from sound_zones').pluck().all();
        for (const id of ids) needed.add(String(id));
      } catch {
        // From before there were recordings.
      } finally {
        backup?.close();
      }
    }
    return needed;
  }
}
