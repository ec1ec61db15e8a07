import type { Seconds } from '../../units/times.js';

/**
 * Where bytes go. Sending never waits; what is later than now is handed over a little ahead with its time, 0 is now. The bytes
 * are read before it returns: the array is reused.
 */
export interface OutPort {
  readonly name: string;
  send(bytes: readonly number[], at: Seconds): void;
}
