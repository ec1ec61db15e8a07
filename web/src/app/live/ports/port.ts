/** Where bytes come from. `name` is the port's name as the rig knows it. */
export type ByteSink = (port: string, bytes: ArrayLike<number>) => void;

/** Where bytes go. Sending never waits. */
export interface OutPort {
  readonly name: string;
  send(bytes: readonly number[]): void;
}

/** Ports of one sort, opened together. */
export interface InPorts {
  /** Starts passing bytes on. */
  open(sink: ByteSink): void;
}
