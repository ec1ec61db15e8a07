import { lstatSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import { backupReasonSchema, KINDS, type Backup, type BackupReason } from '@pentachord/core/model';
import BetterSqlite3 from 'better-sqlite3';
import type { Knex } from 'knex';
import { countOf, type Count } from './counting.js';
import { filesOf, keepPrivate, withConnection } from './database.js';
import { FAMILIES } from './families.js';

/** The last so many are kept. */
const LAST = 10;
/** And of each of so many days the last one. */
const DAYS = 30;
/** Bytes that all of them may take; the two newest stay in any case. */
const MOST_BYTES = 512 * 1024 * 1024;

const NAME = /^(\d{4}-\d\d-\d\dT)(\d\d)-(\d\d)-(\d\d)-(\d{3}Z)-([a-z-]+)\.sqlite$/;

/** What a whole backup holds: a number that changes with whatever is saved, and how far it had come. */
interface Held extends Count {
  print: number;
  /** The recordings that its sounds need. */
  recordings: readonly string[];
}

/**
 * The backups of a database: whole copies, made by SQLite itself, one at a time, in a folder beside it. What is no whole database
 * of ours is none of them, whatever it is called.
 */
export class Backups {
  private making: Promise<unknown> = Promise.resolve();
  /** What files hold, as long as they stay as they were when they were looked at. */
  private readonly known = new Map<string, { size: number; changed: number; held: Held | null }>();

  constructor(
    readonly folder: string,
    private readonly now = () => new Date(),
  ) {}

  /** All there are: what holds the latest changes first, whatever the clock said. */
  list(): Backup[] {
    return this.look().backups;
  }

  /** What lies in the folder and is no whole backup, by name. */
  get passedOver(): string[] {
    return this.look().others;
  }

  private look(): { backups: Backup[]; others: string[] } {
    const found: { backup: Backup; weight: number }[] = [];
    const others: string[] = [];
    for (const name of namesIn(this.folder)) {
      const [, day, hour, minute, second, rest, reason] = NAME.exec(name) ?? [];
      const why = backupReasonSchema.safeParse(reason);
      const held = why.success ? this.heldIn(name) : null;
      if (!why.success || !held) others.push(name);
      else {
        const at = `${day}${hour}:${minute}:${second}.${rest}`;
        const bytes = this.known.get(name)?.size ?? 0;
        found.push({ backup: { name, at, reason: why.data, bytes }, weight: held.weight });
      }
    }
    found.sort((a, b) => b.weight - a.weight || b.backup.at.localeCompare(a.backup.at));
    return { backups: found.map(({ backup }) => backup), others };
  }

  /** The file of a backup; null when there is none of that name. Throws when what bears it is no whole database of ours. */
  file(name: string): string | null {
    const file = join(this.folder, name);
    if (!NAME.test(name) || !lstatSync(file, { throwIfNoEntry: false })) return null;
    if (!this.heldIn(name)) throw new Error('it is no whole database of Pentachord');
    return file;
  }

  /** How far the backups have come that there are. */
  get furthest(): Count {
    const counts = this.list().map(({ name }) => this.heldIn(name));
    const most = (of: 'highest' | 'weight') => Math.max(0, ...counts.map((one) => one?.[of] ?? 0));
    return { highest: most('highest'), weight: most('weight') };
  }

  /** The recordings that some backup needs. */
  get recordings(): ReadonlySet<string> {
    return new Set(this.list().flatMap(({ name }) => this.heldIn(name)?.recordings ?? []));
  }

  /**
   * Makes one, unless the newest holds the same already, and clears out those that are too many. Gives back the newest.
   * It stands under its name only when it is whole.
   */
  async make(knex: Knex, reason: BackupReason): Promise<Backup> {
    const made = this.making.then(() => this.makeNext(knex, reason));
    this.making = made.catch(() => undefined);
    return made;
  }

  private async makeNext(knex: Knex, reason: BackupReason): Promise<Backup> {
    mkdirSync(this.folder, { recursive: true, mode: 0o700 });
    const at = this.now().toISOString();
    const name = `${at.replaceAll(':', '-').replace('.', '-')}-${reason}.sqlite`;
    const part = join(this.folder, 'making.part');
    const last = this.list().at(0);
    const same = await withConnection(knex, async (connection) => {
      // Tables of another version say nothing of what is the same.
      const isKnown = reason !== 'migration' && last;
      if (isKnown && this.heldIn(last.name)?.print === printOf(connection)) return last;
      try {
        for (const file of filesOf(part)) rmSync(file, { force: true });
        await connection.backup(part);
        finish(part);
        if (!heldIn(part)) throw new Error('the copy is not whole');
        renameSync(part, join(this.folder, name));
        return null;
      } finally {
        for (const file of filesOf(part)) rmSync(file, { force: true });
      }
    });
    if (same) return same;
    for (const { name: old } of superfluous(this.list(), this.now(), name))
      rmSync(join(this.folder, old), { force: true });
    const own = this.list().find((backup) => backup.name === name);
    if (!own) throw new Error('the backup that was made is not there');
    return own;
  }

  private heldIn(name: string): Held | null {
    const file = join(this.folder, name);
    try {
      const stats = lstatSync(file);
      if (!stats.isFile()) return null;
      const { size, mtimeMs: changed } = stats;
      let known = this.known.get(name);
      if (known?.size !== size || known.changed !== changed)
        this.known.set(name, (known = { size, changed, held: heldIn(file) }));
      return known.held;
    } catch {
      return null;
    }
  }
}

/** Names of what lies in a folder; none where there is no folder, or it may not be read. */
function namesIn(folder: string): string[] {
  try {
    return readdirSync(folder).filter((name) => !name.startsWith('making.part'));
  } catch {
    return [];
  }
}

/** Of backups, the latest first, those that need not be kept; the one just made always is. */
export function superfluous(backups: readonly Backup[], now: Date, made = ''): Backup[] {
  const firstDay = new Date(now.getTime() - DAYS * 86_400_000).toISOString().slice(0, 10);
  const days = new Set<string>();
  let bytes = 0;
  return backups.filter((backup, index) => {
    const day = backup.at.slice(0, 10);
    const lastOfDay = !days.has(day);
    days.add(day);
    const wanted = index < LAST || (lastOfDay && day > firstDay) || backup.name === made;
    if (wanted) bytes += backup.bytes;
    return !wanted || (bytes > MOST_BYTES && index > 1 && backup.name !== made);
  });
}

/** Checks that a copy is whole, and makes one file of it that needs no log beside it. */
export function finish(file: string): void {
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

/** A number that changes with whatever is saved. Throws where the tables are not there. */
function printOf(connection: BetterSqlite3.Database): number {
  return KINDS.reduce((print, kind) => {
    const { table } = FAMILIES[kind];
    const rows = connection.prepare(`select id, revision, checksum from ${table} order by id`);
    return crc32(JSON.stringify(rows.raw().all()), print);
  }, 0);
}

/** What a file holds; null when it is no whole database of ours, of whatever version. */
function heldIn(file: string): Held | null {
  try {
    const connection = new BetterSqlite3(file, { readonly: true, fileMustExist: true });
    try {
      if (connection.pragma('quick_check(1)', { simple: true }) !== 'ok') return null;
      const versions = connection.prepare('select count(*) from knex_migrations').pluck().get();
      const tables = connection
        .prepare("select name from sqlite_master where type = 'table'")
        .pluck()
        .all();
      if (versions === 0 || !tables.includes('shows')) return null;
      // The tables of an older version are read when it is brought up to date.
      const recordings = tables.includes('sound_zones')
        ? (connection
            .prepare('select distinct recording_id from sound_zones')
            .pluck()
            .all() as string[])
        : [];
      const older = { print: -1, highest: 0, weight: 0, recordings };
      if (KINDS.some((kind) => !tables.includes(FAMILIES[kind].table))) return older;
      const columns = connection.prepare("select name from pragma_table_info('shows')").pluck();
      if (!columns.all().includes('checksum')) return older;
      return { print: printOf(connection), recordings, ...countOf(connection) };
    } finally {
      connection.close();
    }
  } catch {
    return null;
  }
}
