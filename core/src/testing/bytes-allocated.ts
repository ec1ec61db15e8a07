import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

/** Events between two looks at the heap: few enough that nothing is thrown away meanwhile. */
const A_STRETCH = 2500;
/** Events until everything that is played often is compiled. */
const WARM = 20_000;

/** Stretches that are judged together. */
export const LOOKED_AT = 40;
/** Stretches until it is told: a machine with much else to do compiles late, and anew. */
const PATIENCE = 120;

/**
 * Bytes of the heap that something takes each time: those of the quiet stretches, since what the runtime does beside
 * is not in every one. Looks again until they are fewer than `bound`, or for as long as there is patience.
 */
export function bytesAllocated(
  bound: number,
  stretches: number,
  work: (i: number) => void,
): number {
  setFlagsFromString('--expose-gc');
  const collect = runInNewContext('gc') as () => void;
  for (let i = 0; i < WARM; i++) work(i);
  const taken: number[] = [];
  for (let i = WARM; ;) {
    collect();
    const before = process.memoryUsage().heapUsed;
    const end = i + A_STRETCH;
    for (; i < end; i++) work(i);
    taken.push((process.memoryUsage().heapUsed - before) / A_STRETCH);
    if (taken.length < stretches) continue;
    const quiet = taken.slice(-stretches).sort((a, b) => a - b)[Math.floor(stretches / 4)];
    if (quiet < bound || taken.length >= PATIENCE) return quiet;
  }
}

/** Bytes of a fraction that one function hands to another: the runtime keeps it so. When a message came is one. */
export const A_TIME = 16;
/** What the runtime itself takes now and then. */
export const SPARE = 4;
