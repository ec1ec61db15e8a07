import type { IDBPDatabase } from 'idb';
import * as z from 'zod';
import { windowName } from '../../live/browser/window-name';
import type { DeskStores } from './desk-stores';

/** What stands before a window's name where its history is kept, and how many windows have theirs kept: the latest ones. */
const HISTORY = 'history ';
const MOST_WINDOWS = 4;

/** Keeps what can be undone in this window, beside those of other windows. */
export async function putHistory(database: IDBPDatabase<DeskStores>, kept: object): Promise<void> {
  const window = windowName();
  const transaction = database.transaction('about', 'readwrite');
  const { store } = transaction;
  const known = z.array(z.string()).safeParse(await store.get('windows')).data ?? [];
  const windows = [window, ...known.filter((other) => other !== window)];
  const gone = windows.splice(MOST_WINDOWS);
  await Promise.all([
    store.put({ ...kept, window }, HISTORY + window),
    store.put(windows, 'windows'),
    ...gone.map((other) => store.delete(HISTORY + other)),
    transaction.done,
  ]);
}

/** What was kept of that, unread, with the name of this window, whose it should be. */
export async function readHistory(
  database: IDBPDatabase<DeskStores> | null,
): Promise<{ kept: unknown; window: string }> {
  const window = windowName();
  return { kept: await database?.get('about', HISTORY + window), window };
}
