import { chmodSync, copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import {
  differencesOf,
  KINDS,
  type BackupContent,
  type Kind,
  type Recording,
} from '@pentachord/core/model';
import type { Condition, Damage } from './condition.js';
import { finish } from './backups.js';
import type { Count } from './counting.js';
import { filesOf, openDatabase } from './database.js';
import { faultOfFile, inspect } from './inspection.js';
import { Store } from './store.js';

/** Differences told of one thing, and things told of. */
const MOST_LINES = 8;
const MOST_THINGS = 200;

/** Copies a database that may be read to a file that may be written, whatever rights the other has. */
export function copyWritable(from: string, to: string): void {
  copyFileSync(from, to);
  chmodSync(to, 0o600);
}

/** Reads from a copy of a backup, which is brought up to date for that; the backup itself is not touched. */
export async function readFrom<T>(file: string, work: (store: Store) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'pentachord-'));
  try {
    const copy = join(folder, basename(file));
    copyWritable(file, copy);
    const knex = await openDatabase(copy);
    try {
      const store = new Store(knex);
      await inspect(knex, store.condition);
      return await work(store);
    } finally {
      await knex.destroy();
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** What is in a backup, and how it differs from what is open. */
export async function lookInto(file: string, present: Store | null): Promise<BackupContent> {
  return readFrom(file, async (backup) => {
    const [patches, cues] = await Promise.all([backup.all('patches'), backup.all('cues')]);
    const shows = (await backup.all('shows')).map(({ value: { name, date, order } }) => {
      const own = new Set(order.flatMap((entry) => (entry.kind === 'song' ? [entry.songId] : [])));
      const ofShow = (things: readonly { value: { songId: string } }[]) =>
        things.filter(({ value }) => own.has(value.songId)).length;
      return { name, date, songs: own.size, patches: ofShow(patches), cues: ofShow(cues) };
    });
    const keepsakes = (await backup.keepsakes()).length;
    const differences = present && (await differencesBetween(backup, present));
    return { shows, keepsakes, differences, damaged: backup.condition.damages.length };
  });
}

async function differencesBetween(
  backup: Store,
  present: Store,
): Promise<NonNullable<BackupContent['differences']>> {
  const found: NonNullable<BackupContent['differences']> = [];
  const middleC = (await present.all('shows')).at(0)?.value.middleC;
  for (const kind of KINDS) {
    const then = await backup.all(kind);
    const now = new Map((await present.all(kind)).map((thing) => [thing.value.id, thing.value]));
    for (const { value } of then) {
      const other = now.get(value.id);
      now.delete(value.id);
      if (!other) found.push({ kind, name: value.name, where: 'backup', lines: [] });
      else {
        const lines = differencesOf(other, value, middleC).slice(0, MOST_LINES);
        if (lines.length > 0)
          found.push({
            kind,
            name: other.name,
            where: 'both',
            lines: lines.map(({ what, mine, theirs }) => ({ what, now: mine, backup: theirs })),
          });
      }
    }
    for (const { name } of now.values()) found.push({ kind, name, where: 'now', lines: [] });
  }
  return found.slice(0, MOST_THINGS);
}

/**
 * Copies a backup to a file that can take the place of the database: whole, up to date, with revisions behind all that were ever
 * given out, so that pages opened before cannot take it for theirs.
 * @param recordings what is known of those that are there, whatever the backup knows
 */
export async function copyToBringBack(
  file: string,
  ready: string,
  behind: Count,
  recordings: readonly Recording[],
): Promise<void> {
  try {
    for (const one of filesOf(ready)) rmSync(one, { force: true });
    copyWritable(file, ready);
    const knex = await openDatabase(ready);
    try {
      const fault = await faultOfFile(knex, true);
      if (fault) throw new Error(`the backup is damaged itself (${fault})`);
      const store = new Store(knex);
      await inspect(knex, store.condition);
      const own = await store.count();
      const highest = Math.max(own.highest, behind.highest);
      await store.together(async (inside) => {
        for (const kind of KINDS)
          for (const { value } of await inside.all(kind))
            await inside.putBack(kind, { revision: highest + 1, value });
        await inside.recordings.enter(recordings);
        await inside.goOnBehind({ highest, weight: Math.max(own.weight, behind.weight) });
      });
    } finally {
      await knex.destroy();
    }
    // One file that needs no log: what takes a place must not leave a part of itself behind.
    finish(ready);
  } catch (error) {
    for (const one of filesOf(ready)) rmSync(one, { force: true });
    throw error;
  }
}

/** Puts damaged things right from backups that hold the very revision that was saved, the newest first. */
export async function heal(store: Store, files: readonly string[]): Promise<void> {
  for (const file of files) {
    const { damages } = store.condition;
    if (damages.length === 0) return;
    await quietly(file, async (backup) => {
      for (const { kind, id } of damages) {
        const whole = await wholeIn(backup, kind, id);
        if (!whole || whole.revision !== (await store.revisionOf(kind, id))) continue;
        if (await store.putBack(kind, whole))
          store.condition.healed.push({
            kind,
            id,
            name: whole.value.name,
            backup: basename(file),
          });
      }
    });
  }
}

/** Of damaged things, by kind and id: the newest backup that holds them whole. */
export async function offersFor(
  damages: readonly Damage[],
  files: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const offers = new Map<string, string>();
  for (const file of files)
    await quietly(file, async (backup) => {
      for (const { kind, id } of damages)
        if (!offers.has(`${kind}/${id}`) && (await wholeIn(backup, kind, id)))
          offers.set(`${kind}/${id}`, basename(file));
    });
  return offers;
}

async function wholeIn(backup: Store, kind: Kind, id: string) {
  return isDamaged(backup.condition, kind, id) ? null : backup.find(kind, id);
}

function isDamaged(condition: Condition, kind: Kind, id: string): boolean {
  return condition.damages.some((damage) => damage.kind === kind && damage.id === id);
}

/** A backup that cannot be read itself is passed over: there are others. */
async function quietly(file: string, work: (store: Store) => Promise<void>): Promise<void> {
  try {
    await readFrom(file, work);
  } catch {
    // The list of backups still shows it, and looking into it says what is wrong.
  }
}
