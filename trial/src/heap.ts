import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;

/** Bytes of the heap once what nobody needs is thrown away, however this was started: what waits for that is no growth. */
export function heap(): number {
  collect();
  return process.memoryUsage().heapUsed;
}
