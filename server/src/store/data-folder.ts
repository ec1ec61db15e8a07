import { existsSync, mkdirSync, mkdtempSync, renameSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { Backup, BackupContent, BackupReason, Keeping, Kind } from '@pentachord/core/model';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { Backups } from './backups.js';
import {
  copyToBringBack,
  copyWritable,
  heal,
  lookInto,
  offersFor,
  readFrom,
} from './bringing-back.js';
import { Condition } from './condition.js';
import type { Count } from './counting.js';
import {
  connect,
  filesOf,
  keepPrivate,
  migrate,
  openDatabase,
  schemaState,
  SCHEMA_VERSION,
} from './database.js';
import { diskFaultOf, sqliteCode } from './disk-faults.js';
import { FolderLock } from './folder-lock.js';
import { CannotStart, inWords, readyFolder, resolved, whyUnwritable } from './folder.js';
import { faultOfFile, inspect } from './inspection.js';
import { RecordingFiles } from './recording-files.js';
import { Recordings } from './recordings.js';
import { Store } from './store.js';

const DATABASE = 'pentachord.sqlite';
/** A database that is being made, until it is whole. */
const NEW = 'pentachord.new.sqlite';
/** Milliseconds between backups while there are changes. */
const BETWEEN_BACKUPS = 10 * 60_000;

/** Changes that a database which cannot be opened may have seen since its last backup: far more than ten minutes hold. */
const UNSEEN = 1_000_000;

/** What the keeping of a folder needs from outside. */
export interface DataFolderOptions {
  log: Logger;
  /** Fills in what a database has to hold from the beginning. */
  fill: (store: Store, isNew: boolean, files: RecordingFiles) => Promise<void>;
  /** Why a folder and its file cannot be written; null when they can. */
  unwritable?: (folder: string, file: string) => string | null;
  now?: () => Date;
}

/**
 * A folder with its database and backups: opens it, looks whether it is sound, makes backups and brings them back. When the
 * database cannot be opened because it is damaged, the backups still can be looked into.
 */
export class DataFolder {
  /** The open database; null when it cannot be opened. */
  store: Store | null = null;
  /** Called whenever another database has been opened, or none could be. */
  onOpened: () => void = () => undefined;
  readonly backups: Backups;
  private readonly recordingFiles: RecordingFiles;
  /** The database; where its name in the folder is a link, what that points to. */
  private file: string;
  private readonly condition = () => this.store?.condition;
  private closed: string | null = null;
  private offers: ReadonlyMap<string, string> = new Map();
  private knex: Knex | null = null;
  private scratch: string | null = null;
  private backedUpAt = 0;
  private exchanging = false;
  private timer: NodeJS.Timeout | null = null;

  private constructor(
    private readonly folder: string,
    private readonly lock: FolderLock,
    private readonly options: DataFolderOptions,
  ) {
    this.file = join(folder, DATABASE);
    this.backups = new Backups(join(folder, 'backups'), options.now);
    this.recordingFiles = new RecordingFiles(join(folder, 'recordings'));
  }

  /** Opens a folder for this process alone. Throws {@link CannotStart} with plain words. */
  static async open(folder: string, options: DataFolderOptions): Promise<DataFolder> {
    readyFolder(folder);
    const lock = FolderLock.take(folder);
    if (lock === 'taken') {
      const address = FolderLock.addressOfOther(folder);
      throw new CannotStart(
        `Pentachord is running on ${folder} already${address ? `: ${address}` : ''}. Nothing was changed. Use that one, end it first, or set PENTACHORD_DATA to another folder.`,
      );
    }
    const keeping = new DataFolder(folder, lock, options);
    try {
      keeping.recordingFiles.clearParts();
      await keeping.openFile();
    } catch (error) {
      await keeping.disconnect();
      lock.release();
      throw error;
    }
    keeping.timer = setInterval(() => void keeping.backUp('changes'), BETWEEN_BACKUPS);
    keeping.timer.unref();
    return keeping;
  }

  /** The recordings of the database that is open; null when there is none. */
  get recordings(): Recordings | null {
    const { store } = this;
    return store && new Recordings(this.recordingFiles, store.recordings, this.backups);
  }

  /** Tells others who try this folder where this process answers. */
  answersAt(address: string): void {
    this.lock.say(address);
  }

  /** How what is kept is doing. */
  state(): Keeping {
    const damages = this.condition()?.damages ?? [];
    return {
      closed: this.closed,
      readOnly: this.condition()?.readOnly ?? null,
      damaged: damages.map((damage) => ({
        ...damage,
        offer: this.offers.get(`${damage.kind}/${damage.id}`) ?? null,
      })),
      healed: this.condition()?.healed ?? [],
      backups: this.backups.list(),
      passedOver: this.backups.passedOver,
    };
  }

  /** Makes a backup if something has changed since the last one. Never throws: what failed is logged. */
  async backUp(reason: BackupReason): Promise<Backup | null> {
    const { store } = this;
    if (!store || store.condition.readOnly) return null;
    return reason === 'changes' && store.condition.writes === this.backedUpAt
      ? null
      : this.copyAll(reason);
  }

  private async copyAll(reason: BackupReason): Promise<Backup | null> {
    const { knex, store } = this;
    if (!knex || !store) return null;
    const { writes } = store.condition;
    try {
      const backup = await this.backups.make(knex, reason);
      this.backedUpAt = writes;
      return backup;
    } catch (error) {
      this.options.log.error({ err: error }, 'no backup could be made');
      return null;
    }
  }

  /** What is in a backup, and how it differs from now; null when there is none of that name. */
  async look(name: string): Promise<BackupContent | null> {
    const file = this.backups.file(name);
    return file === null ? null : lookInto(file, this.store);
  }

  /**
   * Puts a backup in place of the database, which is backed up before, or set aside if it is damaged. Either all of it is
   * brought back, or nothing is changed. Gives back false when there is no such backup.
   */
  async bringBack(name: string): Promise<boolean> {
    const file = this.backups.file(name);
    if (!file) return false;
    if (this.exchanging) throw new Error('another one is being brought back just now');
    this.exchanging = true;
    const { store } = this;
    const before = store?.condition.readOnly ?? null;
    try {
      const ready = join(dirname(this.file), NEW);
      if (before) throw new Error(before);
      const recordings = (await store?.recordings.all()) ?? [];
      await copyToBringBack(file, ready, await this.furthest(), recordings);
      // From here on nothing is saved that the backup of what is there would not hold.
      if (store)
        store.condition.readOnly = 'A backup is being brought back. Try again in a moment.';
      if (store && !(await this.copyAll('bringing-back')))
        throw new Error('what is there now could not be backed up, so it was left as it is');
      await this.exchange(ready);
      return true;
    } finally {
      if (store) store.condition.readOnly = before;
      this.exchanging = false;
    }
  }

  /** How far the database has come; one that cannot be opened by what its backups say, and well beyond. */
  private async furthest(): Promise<Count> {
    if (this.store) return this.store.count();
    const { highest, weight } = this.backups.furthest;
    return { highest: highest + UNSEEN, weight: weight + UNSEEN };
  }

  /** Puts a file that is ready in the place of the database. Whatever is there in the end is opened. */
  private async exchange(ready: string): Promise<void> {
    const wasOpen = this.store !== null;
    await this.disconnect();
    try {
      if (!wasOpen) this.setDamagedAside();
      for (const log of filesOf(this.file).slice(1)) rmSync(log, { force: true });
      renameSync(ready, this.file);
    } finally {
      this.closed = null;
      await this.openFile();
      this.onOpened();
    }
  }

  /** Brings a single thing back from a backup, as a new revision; in words why not, or null when it is done. */
  async bringThingBack(name: string, kind: Kind, id: string): Promise<string | null> {
    const { store } = this;
    const file = this.backups.file(name);
    if (!file || !store) return 'there is no such backup';
    if (store.condition.readOnly) return lowered(store.condition.readOnly);
    const found = await readFrom(file, (backup) => backup.find(kind, id));
    if (!found) return 'the backup does not hold it either';
    const { highest } = await store.count();
    const revision = Math.max(highest, found.revision) + 1;
    const done = await store.putBack(kind, { revision, value: found.value });
    return done ? null : 'what it belongs to is not there any more; bring back the whole backup';
  }

  /** Lets everything go. */
  async close(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.disconnect();
    this.lock.release();
  }

  private async openFile(): Promise<void> {
    this.file = resolved(join(this.folder, DATABASE));
    for (const rest of filesOf(join(dirname(this.file), NEW))) rmSync(rest, { force: true });
    const there = existsSync(this.file);
    const anyBackups = this.backups.list().length > 0;
    if (!there && !anyBackups) await this.create();
    else if (!there) this.stayClosed('is not there any more, though there are backups of it');
    if (existsSync(this.file)) {
      const stats = statSync(this.file);
      if (!stats.isFile())
        throw new CannotStart(
          `${this.file} is ${stats.isDirectory() ? 'a folder' : 'no file'}, and a database is wanted there. Nothing was changed. Move it away, or set PENTACHORD_DATA to another folder.`,
        );
      if (statSync(this.file).size === 0) this.stayClosed('is empty (0 bytes)');
      else await this.openPresent();
    }
  }

  /** Makes a new database under another name, so that it is there wholly or not at all. */
  private async create(): Promise<void> {
    const making = join(dirname(this.file), NEW);
    try {
      const knex = await openDatabase(making);
      try {
        await this.options.fill(new Store(knex), true, this.recordingFiles);
      } finally {
        await knex.destroy();
      }
      renameSync(making, this.file);
    } catch (error) {
      for (const rest of filesOf(making)) rmSync(rest, { force: true });
      throw new CannotStart(
        `A new database cannot be made in ${this.folder}: ${inWords(error)}. Nothing was changed. Make room there or let it be written, or set PENTACHORD_DATA to another folder.`,
      );
    }
  }

  private async openPresent(): Promise<void> {
    const condition = new Condition();
    const why = (this.options.unwritable ?? whyUnwritable)(this.folder, this.file);
    if (!why) keepPrivate(this.file);
    if (why)
      condition.readOnly = `The folder of the database cannot be written: ${why}. Everything is safe and can be played; nothing can be saved until ${this.folder} can be written and Pentachord is started again.`;
    const knex = connect(why ? this.copyToScratch() : this.file);
    this.knex = knex;
    try {
      const fault = await this.bringUpToDate(knex, condition);
      if (fault) {
        await this.disconnect();
        this.stayClosed(fault);
        return;
      }
      await inspect(knex, condition);
      const store = new Store(knex, condition);
      this.offers = await this.putRight(store);
      if (!condition.readOnly) {
        keepPrivate(this.file);
        await this.fillIn(store);
      }
      this.store = store;
      await this.backUp('start');
    } catch (error) {
      await this.disconnect();
      if (error instanceof CannotStart) throw error;
      const disk = diskFaultOf(error);
      if (disk === 'damaged') this.stayClosed(`is damaged (${(error as Error).message})`);
      else if (sqliteCode(error).startsWith('SQLITE_BUSY'))
        throw new CannotStart(
          `${this.file} is in use by another program. Nothing was changed. Close that program, then start Pentachord again.`,
        );
      else
        throw new CannotStart(
          `${this.file} cannot be opened: ${inWords(error)}. Nothing was changed. ${disk === 'no-room' ? 'Make room on the disk' : 'See to that'}, then start Pentachord again.`,
        );
    }
  }

  /** Brings the tables up to date, if need be; gives back what is wrong with the file, or null. */
  private async bringUpToDate(knex: Knex, condition: Condition): Promise<string | null> {
    const state = await schemaState(knex);
    if (state === 'newer')
      throw new CannotStart(
        `${this.file} was written by a newer Pentachord than this one, which knows its tables up to version ${SCHEMA_VERSION}. Nothing was changed. Start the newer one, or set PENTACHORD_DATA to another folder.`,
      );
    if (state === 'none' || state === 'unknown') return 'holds no tables that Pentachord knows';
    const fault = await faultOfFile(knex, !condition.readOnly);
    if (fault) return `is damaged (${fault})`;
    if (state === 'older') {
      if (!condition.readOnly) await this.backups.make(knex, 'migration');
      await migrate(knex);
    }
    return null;
  }

  /** Puts damaged things right from backups of the same revision; gives back which backups hold the others whole. */
  private async putRight(store: Store): Promise<ReadonlyMap<string, string>> {
    if (store.condition.damages.length === 0) return new Map();
    const files = this.backups.list().map(({ name }) => join(this.backups.folder, name));
    if (!store.condition.readOnly) await heal(store, files);
    return offersFor(store.condition.damages, files);
  }

  /** What the library and an empty database lack; without room for it the rest is there all the same. */
  private async fillIn(store: Store): Promise<void> {
    try {
      await this.options.fill(store, false, this.recordingFiles);
    } catch (error) {
      if (diskFaultOf(error) !== 'no-room') throw error;
      this.options.log.error({ err: error }, 'the library could not be filled in');
    }
  }

  private stayClosed(what: string): void {
    const backups = this.backups.list();
    const say = `${this.file} ${what}. Nothing was changed.`;
    if (backups.length === 0)
      throw new CannotStart(
        `${say} There is no backup of it. Put a good copy in its place, or move the file away to begin anew.`,
      );
    this.closed = `${say} There are ${backups.length} backups, the newest of ${backups[0].at}: look into them and bring one back.`;
  }

  private setDamagedAside(): void {
    const stamp = (this.options.now?.() ?? new Date()).toISOString().replaceAll(/[:.]/g, '-');
    const aside = join(dirname(this.file), `damaged-${stamp}`);
    mkdirSync(aside, { mode: 0o700 });
    for (const rest of ['', '-wal', '-shm', '-journal'])
      if (existsSync(this.file + rest)) renameSync(this.file + rest, join(aside, DATABASE + rest));
  }

  /** A copy to read from, where the folder itself cannot be written. */
  private copyToScratch(): string {
    this.scratch = mkdtempSync(join(tmpdir(), 'pentachord-'));
    const copy = join(this.scratch, DATABASE);
    for (const rest of ['', '-wal'])
      if (existsSync(this.file + rest)) copyWritable(this.file + rest, copy + rest);
    return copy;
  }

  private async disconnect(): Promise<void> {
    this.store = null;
    await this.knex?.destroy();
    this.knex = null;
    if (this.scratch) rmSync(this.scratch, { recursive: true, force: true });
    this.scratch = null;
  }
}

function lowered(words: string): string {
  return words.charAt(0).toLowerCase() + words.slice(1).replace(/\.$/, '');
}
