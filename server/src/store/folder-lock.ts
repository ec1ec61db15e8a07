import { readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import BetterSqlite3 from 'better-sqlite3';
import * as z from 'zod';
import { sqliteCode } from './disk-faults.js';
import { CannotStart, inWords, whyUnwritable } from './folder.js';

const LOCK = 'pentachord.lock';
const RUNNING = 'running.json';
const runningSchema = z.object({ address: z.string() });

/**
 * The lock of a folder: one program at a time. The system holds it for the process, so that it ends with it, however that
 * ends.
 */
export class FolderLock {
  private constructor(
    private readonly folder: string,
    private readonly held: BetterSqlite3.Database | null,
  ) {}

  /** Takes the lock; `taken` when another program has it. A folder that cannot be written needs none. */
  static take(folder: string): FolderLock | 'taken' {
    let held: BetterSqlite3.Database | null = null;
    try {
      held = new BetterSqlite3(join(folder, LOCK), { timeout: 0 });
      held.exec('BEGIN EXCLUSIVE');
      return new FolderLock(folder, held);
    } catch (error) {
      held?.close();
      if (sqliteCode(error).startsWith('SQLITE_BUSY')) return 'taken';
      if (whyUnwritable(folder, join(folder, LOCK))) return new FolderLock(folder, null);
      throw new CannotStart(
        `${join(folder, LOCK)} cannot be opened (${inWords(error)}), so another Pentachord could write here at the same time. Nothing was changed. Move it away, then start Pentachord again.`,
      );
    }
  }

  /** Where the program that has the lock answers, as far as it has said. */
  static addressOfOther(folder: string): string | null {
    try {
      return runningSchema.parse(JSON.parse(readFileSync(join(folder, RUNNING), 'utf8'))).address;
    } catch {
      return null;
    }
  }

  /** Says for others where this program answers. */
  say(address: string): void {
    if (!this.held) return;
    const file = join(this.folder, RUNNING);
    try {
      writeFileSync(`${file}.part`, JSON.stringify({ address }));
      renameSync(`${file}.part`, file);
    } catch {
      // Without room on the disk others are refused all the same, only without the address.
    }
  }

  release(): void {
    if (!this.held) return;
    try {
      rmSync(join(this.folder, RUNNING), { force: true });
    } catch {
      // Something else stands under that name: it is nobody's address.
    }
    this.held.close();
  }
}
