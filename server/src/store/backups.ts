import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import { backupReasonSchema, KINDS, type Backup, type BackupReason } from '@pentachord/core/model';
import BetterSqlite3 from 'better-sqlite3';
import type { Knex } from 'knex';
import { keepPrivate, withConnection } from './database.js';
import { FAMILIES } from './families.js';

/** The last so many are kept. */
const LAST = 10;
/** And of each of so many days the last one. */
const DAYS = 30;
/** Bytes that all of them may take; the two newest stay in any case. */
const MOST_BYTES = 512 * 1024 * 1024;

const NAME = /^(\d{4}-\d\d-\d\dT)(\d\d)-(\d\d)-(\d\d)-(\d{3}Z)-([a-z-]+)\.sqlite$/;

/** The backups of a database: whole copies, made by SQLite itself, in a folder beside it. */
export class Backups {
  /** What the newest one holds, as far as it was made or looked at since the start. */
  private newest: number | null = null;

  constructor(
    readonly folder: string,
    private readonly now = () => new Date(),
  ) {}

  /** All there are, newest first. */
  list(): Backup[] {
    if (!existsSync(this.folder)) return [];
    return readdirSync(this.folder)
      .flatMap((name) => {
        const [, day, hour, minute, second, rest, reason] = NAME.exec(name) ?? [];
        const why = backupReasonSchema.safeParse(reason);
        if (!why.success) return [];
        const at = `${day}${hour}:${minute}:${second}.${rest}`;
        return [{ name, at, reason: why.data, bytes: statSync(join(this.folder, name)).size }];
      })
      .sort((a, b) => b.at.localeCompare(a.at));
  }

  /** The file of a backup; null when there is none of that name. */
  file(name: string): string | null {
    const file = join(this.folder, name);
    return NAME.test(name) && existsSync(file) ? file : null;
  }

  /**
   * Makes one, unless the newest holds the same already, and clears out those that are too many. Gives back the newest.
   * It stands under its name only when it is whole.
   */
  async make(knex: Knex, reason: BackupReason): Promise<Backup> {
    mkdirSync(this.folder, { recursive: true, mode: 0o700 });
    const at = this.now().toISOString();
    const name = `${at.replaceAll(':', '-').replace('.', '-')}-${reason}.sqlite`;
    const part = join(this.folder, 'making.part');
    rmSync(part, { force: true });
    const [last] = this.list();
    await withConnection(knex, async (connection) => {
      const print = fingerprintOf(connection);
      if (last && print !== null) {
        this.newest ??= fingerprintOfFile(join(this.folder, last.name));
        if (print === this.newest) return;
      }
      try {
        await connection.backup(part);
        finish(part);
        renameSync(part, join(this.folder, name));
        this.newest = print;
      } finally {
        rmSync(part, { force: true });
      }
    });
    this.clear();
    return this.list()[0];
  }

  private clear(): void {
    for (const { name } of superfluous(this.list(), this.now()))
      rmSync(join(this.folder, name), { force: true });
  }
}

/** Of backups, newest first, those that need not be kept. */
export function superfluous(backups: readonly Backup[], now: Date): Backup[] {
  const firstDay = new Date(now.getTime() - DAYS * 86_400_000).toISOString().slice(0, 10);
  const days = new Set<string>();
  let bytes = 0;
  return backups.filter((backup, index) => {
    const day = backup.at.slice(0, 10);
    const lastOfDay = !days.has(day);
    days.add(day);
    const wanted = index < LAST || (lastOfDay && day > firstDay);
    if (wanted) bytes += backup.bytes;
    return !wanted || (bytes > MOST_BYTES && index > 1);
  });
}

/** Checks that a copy is whole, and makes one file of it that needs no log beside it. */
function finish(file: string): void {
  const copy = new BetterSqlite3(file);
  try {
    copy.pragma('journal_mode = DELETE');
    const fault: unknown = copy.pragma('quick_check(1)', { simple: true });
    if (fault !== 'ok') throw new Error(`the copy is damaged: ${String(fault)}`);
  } finally {
    copy.close();
  }
  keepPrivate(file);
}

/** A number that changes with whatever is saved; null when the tables are not there or are of another version. */
function fingerprintOf(connection: BetterSqlite3.Database): number | null {
  try {
    return KINDS.reduce((print, kind) => {
      const { table } = FAMILIES[kind];
      const rows = connection.prepare(`select id, revision, checksum from ${table} order by id`);
      return crc32(JSON.stringify(rows.raw().all()), print);
    }, 0);
  } catch {
    return null;
  }
}

function fingerprintOfFile(file: string): number | null {
  try {
    const connection = new BetterSqlite3(file, { readonly: true });
    try {
      return fingerprintOf(connection);
    } finally {
      connection.close();
    }
  } catch {
    return null;
  }
}
