/**
 * The roll on which what is played is written down, in records of one size:
 *
 *     seconds (float64) │ kind │ a │ b │ c │ who (uint16) │ more (uint16)
 *
 * Bytes lie as this machine has them, which is little-endian wherever browsers run.
 */
export const RECORD_BYTES = 16;

/** What a record tells. */
export const KIND = {
  /** A message came in: status, two data bytes; who sent it. */
  message: 0,
  /** A note sounds: its key and velocity; its layer; its voice. */
  began: 1,
  /** It is let go. */
  ended: 2,
  /** What of a voice was not due yet begins then instead. */
  beginsThen: 3,
  /** And ends then; {@link NO_END} for no end yet. */
  endsThen: 4,
  /** Everything ended at once. */
  silence: 5,
  /** A layer’s level goes to this, hundredths of a dB over {@link LEVEL_FLOOR}, within a + 256 b hundredths of a second. */
  level: 6,
  /** A layer’s pan is this, thousandths over −1. */
  pan: 7,
  /** The show goes to a place: who is its place among the steps of the take. */
  step: 8,
} as const;
/** The last kind. */
export const LAST_KIND = KIND.step;
/** Stands for no end yet, seconds. */
export const NO_END = -1;
/** dB that a level of 0 hundredths is. */
export const LEVEL_FLOOR = -200;
/** Records of a whole take at most: a night of four hours with a clock that ticks throughout has a third of it. */
export const MOST_RECORDS = 4_000_000;

/** Voices are counted round so many. */
export const VOICES_ROUND = 65_536;

/**
 * Where the live path writes down what happens. Nothing is allocated while it is written; whoever keeps it takes it away a few
 * times a second. What comes before that and finds no room is counted.
 */
export class Roll {
  private readonly times: Float64Array;
  private readonly small: Uint8Array;
  private readonly wide: Uint16Array;
  /** Seconds of the record that {@link addNow} writes. */
  readonly moment = new Float64Array(1);
  private written = 0;
  private given = 0;
  /** Records that found no room. */
  lost = 0;

  /** @param room records between two takings away */
  constructor(private readonly room = 16_384) {
    const bytes = new ArrayBuffer(room * RECORD_BYTES);
    this.times = new Float64Array(bytes);
    this.small = new Uint8Array(bytes);
    this.wide = new Uint16Array(bytes);
  }

  /** Writes a record of a moment. */
  add(
    seconds: number,
    kind: number,
    a: number,
    b: number,
    c: number,
    who: number,
    more: number,
  ): void {
    this.moment[0] = seconds;
    this.addNow(kind, a, b, c, who, more);
  }

  /** Writes a record of the moment that stands in {@link moment}: a fraction that is handed over would be an object. */
  addNow(kind: number, a: number, b: number, c: number, who: number, more: number): void {
    if (this.written - this.given >= this.room) {
      this.lost++;
      return;
    }
    const at = this.written++ % this.room;
    this.times[at * 2] = this.moment[0];
    const { small, wide } = this;
    small[at * RECORD_BYTES + 8] = kind;
    small[at * RECORD_BYTES + 9] = a;
    small[at * RECORD_BYTES + 10] = b;
    small[at * RECORD_BYTES + 11] = c;
    wide[at * 8 + 6] = who;
    wide[at * 8 + 7] = more;
  }

  /** Takes away what was written since it was asked last. */
  take(): Uint8Array<ArrayBuffer> {
    const from = this.given % this.room;
    const count = this.written - this.given;
    this.given = this.written;
    const found = new Uint8Array(count * RECORD_BYTES);
    const first = Math.min(count, this.room - from);
    found.set(this.small.subarray(from * RECORD_BYTES, (from + first) * RECORD_BYTES));
    found.set(this.small.subarray(0, (count - first) * RECORD_BYTES), first * RECORD_BYTES);
    return found;
  }
}

/** A record as it is read. The object is reused from one to the next. */
export interface RollRecord {
  seconds: number;
  kind: number;
  a: number;
  b: number;
  c: number;
  who: number;
  more: number;
}

/** Every record of a roll, in the order in which it was written. */
export function* recordsOf(roll: Uint8Array): Generator<RollRecord> {
  const view = new DataView(roll.buffer, roll.byteOffset, roll.byteLength);
  const record: RollRecord = { seconds: 0, kind: 0, a: 0, b: 0, c: 0, who: 0, more: 0 };
  for (let at = 0; at + RECORD_BYTES <= roll.byteLength; at += RECORD_BYTES) {
    record.seconds = view.getFloat64(at, true);
    record.kind = roll[at + 8];
    record.a = roll[at + 9];
    record.b = roll[at + 10];
    record.c = roll[at + 11];
    record.who = view.getUint16(at + 12, true);
    record.more = view.getUint16(at + 14, true);
    yield record;
  }
}
