import * as z from 'zod';
import { remember, remembered } from '../../live/browser/storage';

/** Where a change stands among those that pages of this browser have kept: which page kept it, and as its how manieth. */
export interface Putting {
  page: string;
  n: number;
}

/** Under which the browser keeps it. */
const KEY = 'pentachord settled';
/** Changes of which it is remembered: each is forgotten as soon as the disk has followed. */
const MOST = 300;

const settledSchema = z.array(
  z.object({ key: z.string(), page: z.string(), n: z.number().int().min(0) }),
);
type Settled = z.infer<typeof settledSchema>;

function read(): Settled {
  try {
    return settledSchema.safeParse(JSON.parse(remembered(KEY) ?? '[]')).data ?? [];
  } catch {
    return [];
  }
}

/**
 * Remembers at once that the server has what a page has kept under a key, up to its n-th change: a slow disk may still hold
 * an earlier one when the page is loaded anew, which must not come back as if it were the latest.
 */
export function settle(key: string, { page, n }: Putting): void {
  const others = read().filter((one) => one.key !== key || one.page !== page);
  remember(KEY, JSON.stringify([...others, { key, page, n }].slice(-MOST)));
}

/** Forgets it where the disk has followed. */
export function forgetSettled(keys: ReadonlySet<string>, page: string): void {
  const now = read();
  const left = now.filter((one) => one.page !== page || !keys.has(one.key));
  if (left.length < now.length) remember(KEY, JSON.stringify(left));
}

/** Whether the server has it, though the disk still holds it as not saved. */
export function isSettled(key: string, { page, n }: Partial<Putting>): boolean {
  return (
    n !== undefined && read().some((one) => one.key === key && one.page === page && n <= one.n)
  );
}
