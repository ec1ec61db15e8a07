import {
  accessSync,
  constants,
  existsSync,
  lstatSync,
  mkdirSync,
  realpathSync,
  statSync,
} from 'node:fs';
import { sqliteCode } from './disk-faults.js';

/** Why Pentachord cannot be started, as it is told on the console: what happened, what is safe, what to do. */
export class CannotStart extends Error {}

/** Makes the folder if it is not there. */
export function readyFolder(folder: string): void {
  if (existsSync(folder) && !statSync(folder).isDirectory())
    throw new CannotStart(
      `${folder} is a file, and a folder is wanted there. Nothing was changed. Move the file away, or set PENTACHORD_DATA to another folder.`,
    );
  try {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
  } catch (error) {
    throw new CannotStart(
      `The folder ${folder} cannot be made: ${inWords(error)}. Nothing was changed. Set PENTACHORD_DATA to a folder that can be written.`,
    );
  }
}

/** Why a file and its folder cannot be written, in words; null when they can. */
export function whyUnwritable(folder: string, file: string): string | null {
  for (const path of [folder, file]) {
    try {
      if (existsSync(path)) accessSync(path, constants.W_OK);
    } catch (error) {
      return inWords(error);
    }
  }
  return null;
}

/** What the system says of a file, in plain words. */
export function inWords(error: unknown): string {
  const code = sqliteCode(error);
  const words: Record<string, string> = {
    EACCES: 'it may not be written by you',
    EPERM: 'it may not be written by you',
    EROFS: 'the disk can only be read',
    ENOSPC: 'the disk is full',
    SQLITE_FULL: 'the disk is full',
    EDQUOT: 'your share of the disk is used up',
    ENOTDIR: 'a part of its path is a file',
    EIO: 'the disk does not answer as it should',
  };
  return words[code] ?? (error instanceof Error ? error.message : String(error));
}

/** Where a name leads that may be a link. One that leads nowhere is no empty place to fill. */
export function resolved(path: string): string {
  if (!lstatSync(path, { throwIfNoEntry: false })?.isSymbolicLink()) return path;
  try {
    return realpathSync(path);
  } catch {
    throw new CannotStart(
      `${path} is a link to something that is not there. Nothing was changed. Bring back what it points to, or take the link away.`,
    );
  }
}
