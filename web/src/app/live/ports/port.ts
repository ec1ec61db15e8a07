import type { Seconds } from '@pentachord/core/units';

/** Where bytes come from: the port's name as the rig knows it, and when they came if the port knows. */
export type ByteSink = (port: string, bytes: ArrayLike<number>, time?: Seconds) => void;

/** Ports of one sort, opened together. */
export interface InPorts {
  /** Starts passing bytes on. */
  open(sink: ByteSink): void;
}
