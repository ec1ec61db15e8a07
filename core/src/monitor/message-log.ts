import type { Seconds } from '../units/times.js';

/** Which way a message went: in from a port, or out to one. */
export type Way = 'in' | 'out';

/** One message as it was kept. */
export interface LoggedMessage {
  /** Counted from the first that was ever kept, 0. */
  number: number;
  time: Seconds;
  way: Way;
  port: string;
  /** Index of the device in the rig it came from; −1 for none. */
  device: number;
  status: number;
  data1: number;
  data2: number;
  /** Bytes of an exclusive message, or of what makes no message; null for others. */
  long: LongMessage | null;
}

/** What does not fit into three bytes. */
export interface LongMessage {
  bytes: readonly number[];
  /** How many there were; more than are kept. */
  length: number;
  /** What is wrong with it, in words; empty when nothing is. */
  fault: string;
}

/** Messages that are kept; the oldest goes when there are more. */
export const MOST_LOGGED = 200_000;
/** Bytes of a long message that are kept, and how many of these. */
const MOST_BYTES = 256;
const MOST_LONG = 500;
/** Ports that are told apart by name. */
const MOST_PORTS = 255;
/** Status under which what makes no message is kept. */
export const BROKEN = 0;

/** What was sent and received, in fixed tables: keeping a message allocates nothing, unless it is a long one. */
export class MessageLog {
  private readonly times: Float64Array;
  private readonly ways: Uint8Array;
  private readonly ports: Uint8Array;
  private readonly devices: Int8Array;
  private readonly bytes: Uint8Array;
  private readonly names: string[] = [];
  private readonly long = new Map<number, LongMessage>();
  private total = 0;

  constructor(readonly most = MOST_LOGGED) {
    this.times = new Float64Array(most);
    this.ways = new Uint8Array(most);
    this.ports = new Uint8Array(most);
    this.devices = new Int8Array(most);
    this.bytes = new Uint8Array(most * 3);
  }

  /** How many messages there ever were. */
  get count(): number {
    return this.total;
  }

  /** Number of the oldest message that is still kept. */
  get first(): number {
    return Math.max(0, this.total - this.most);
  }

  /** Names of the ports so far. */
  get portNames(): readonly string[] {
    return this.names;
  }

  add(
    time: Seconds,
    way: Way,
    port: string,
    device: number,
    status: number,
    data1: number,
    data2: number,
  ): void {
    const at = this.total++ % this.most;
    this.times[at] = time;
    this.ways[at] = way === 'in' ? 0 : 1;
    this.ports[at] = this.portIndex(port);
    this.devices[at] = device;
    this.bytes[at * 3] = status;
    this.bytes[at * 3 + 1] = data1;
    this.bytes[at * 3 + 2] = data2;
  }

  /** Keeps an exclusive message, or bytes that make none (status {@link BROKEN}), as far as they are worth keeping. */
  addLong(
    time: Seconds,
    way: Way,
    port: string,
    status: number,
    bytes: ArrayLike<number>,
    length: number,
    fault: string,
  ): void {
    const number = this.total;
    this.add(time, way, port, -1, status, 0, 0);
    this.long.set(number, {
      bytes: Array.from({ length: Math.min(bytes.length, MOST_BYTES) }, (_, i) => bytes[i]),
      length,
      fault,
    });
    if (this.long.size <= MOST_LONG) return;
    for (const oldest of this.long.keys()) {
      this.long.delete(oldest);
      break;
    }
  }

  /** A message by its number; null when it is kept no more, or not yet there. */
  at(number: number): LoggedMessage | null {
    if (number < this.first || number >= this.total) return null;
    const at = number % this.most;
    return {
      number,
      time: this.times[at],
      way: this.ways[at] === 0 ? 'in' : 'out',
      port: this.names[this.ports[at]],
      device: this.devices[at],
      status: this.bytes[at * 3],
      data1: this.bytes[at * 3 + 1],
      data2: this.bytes[at * 3 + 2],
      long: this.long.get(number) ?? null,
    };
  }

  /** Whether a message passes a filter, without making anything of it; `shown` answers by port index. */
  passes(number: number, { ways, kinds, ports, channels }: LogFilter): boolean {
    const at = number % this.most;
    const status = this.bytes[at * 3];
    if ((ways & (this.ways[at] === 0 ? 1 : 2)) === 0) return false;
    if ((kinds & (1 << kindOf(status))) === 0) return false;
    if (status >= 0x80 && status < 0xf0 && (channels & (1 << (status & 0x0f))) === 0) return false;
    return ports === null || ports === this.names[this.ports[at]];
  }

  clear(): void {
    this.total = 0;
    this.long.clear();
  }

  private portIndex(port: string): number {
    const known = this.names.indexOf(port);
    if (known >= 0) return known;
    // Beyond that names are lost, not messages.
    if (this.names.length >= MOST_PORTS) return MOST_PORTS - 1;
    return this.names.push(port) - 1;
  }
}

/** Kinds by which messages are filtered, in this order. */
export const MESSAGE_KINDS = [
  'notes',
  'controllers',
  'bend and pressure',
  'programs',
  'clock',
  'exclusive',
  'the rest',
] as const;

/** Index of a message’s kind in {@link MESSAGE_KINDS}. */
export function kindOf(status: number): number {
  if (status >= 0xf0) {
    if (status === 0xf0) return 5;
    return status === 0xf2 || (status >= 0xf8 && status <= 0xfc) ? 4 : 6;
  }
  const kinds: Partial<Record<number, number>> = { 8: 0, 9: 0, 11: 1, 10: 2, 13: 2, 14: 2, 12: 3 };
  return kinds[status >> 4] ?? 6;
}

/** What is shown; bits in the order of {@link MESSAGE_KINDS}, of channels 1–16, and of in and out. */
export interface LogFilter {
  ways: number;
  kinds: number;
  channels: number;
  /** A port’s name; null for all. */
  ports: string | null;
}

/** Everything but clock, which would drown the rest. */
export const USUAL_FILTER: LogFilter = {
  ways: 0b11,
  kinds: 0b1111111 & ~(1 << 4),
  channels: 0xffff,
  ports: null,
};

/** The numbers of those messages of a log that pass a filter, kept up with as more come. */
export class FilteredLog {
  private readonly numbers: Float64Array;
  private seen = 0;
  private start = 0;
  private length = 0;

  constructor(
    private readonly log: MessageLog,
    readonly filter: LogFilter,
  ) {
    this.numbers = new Float64Array(log.most);
  }

  /** Looks at what came since; how many pass. */
  follow(): number {
    const { log, numbers } = this;
    if (log.count < this.seen) this.seen = this.start = this.length = 0;
    this.seen = Math.max(this.seen, log.first);
    for (; this.seen < log.count; this.seen++) {
      if (!log.passes(this.seen, this.filter)) continue;
      if (this.length === numbers.length) this.start++;
      else this.length++;
      numbers[(this.start + this.length - 1) % numbers.length] = this.seen;
    }
    while (this.length > 0 && numbers[this.start % numbers.length] < log.first) {
      this.start++;
      this.length--;
    }
    return this.length;
  }

  /** Number of the nth message that passes. */
  number(index: number): number {
    return this.numbers[(this.start + index) % this.numbers.length];
  }
}
