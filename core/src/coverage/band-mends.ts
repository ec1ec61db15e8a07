import type { Patch } from '../model/patch/patch.js';
import type { Device } from '../model/rig/rig.js';
import { nextFreeKey, startersAt } from '../patterns/placing.js';
import type { Remark } from './remark.js';

/**
 * The keys to which the patterns of an accompanist go that share theirs with something else, or lie where nobody can strike them;
 * null where no key is left for one of them, or there is nothing to move.
 */
export function otherKeysFor(
  { accompanistId }: Remark,
  { accompanists, bandKeys }: Patch,
  devices: readonly Device[],
): Readonly<Record<string, number>> | null {
  const one = accompanists.find(({ id }) => id === accompanistId);
  const device = devices.find(
    ({ place, alsoAt }) => one && (place === one.place || alsoAt.includes(one.place)),
  );
  if (!one || !device) return null;
  const there = startersAt(device, one.starters);
  const others = accompanists.filter(({ id }) => id !== one.id);
  const isTaken = (key: number) =>
    !there.includes(key) ||
    key === one.stopKey ||
    [...others, ...bandKeys].some((other) => {
      if (other.place !== one.place || other.starters !== one.starters) return false;
      if (!('patterns' in other)) return other.key === key;
      return other.stopKey === key || other.patterns.some((placed) => placed.key === key);
    });
  let mine = one.patterns.filter(({ key }) => !isTaken(key));
  const changes: Record<string, number> = {};
  for (const placed of one.patterns.filter(({ key }) => isTaken(key))) {
    const now = { ...one, patterns: mine };
    const key = nextFreeKey(now, [...others, now], bandKeys, there);
    if (key === null) return null;
    changes[placed.id] = key;
    mine = [...mine, { ...placed, key }];
  }
  return Object.keys(changes).length > 0 ? changes : null;
}
