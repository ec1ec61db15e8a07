import type { Bank } from '../../model/library/sound.js';
import type { OutPort } from './ports.js';

/** A channel of an outside module that a layer plays. */
export interface OutsideTarget {
  port: OutPort;
  /** 1–16. */
  channel: number;
  /** Chosen before the program; null to stay in the bank that the module is in. */
  bank: Bank | null;
  /** 0–127. */
  program: number;
}

/** Whether two targets are one channel of one port. */
export function isSameChannel(a: OutsideTarget, b: OutsideTarget): boolean {
  return a.port.name === b.port.name && a.channel === b.channel;
}
