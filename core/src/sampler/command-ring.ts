import type { Frame } from '../units/times.js';

/** What the playing side asks of the voice engine. Each command is one record of numbers, in the order given. */
export const COMMAND = {
  /** voice, strip, sound slot, instance, polyphony (0 = many), note, velocity, linear gain, glide seconds */
  start: 1,
  /** voice */
  end: 2,
  /** strip, level dB, glide seconds */
  level: 3,
  /** strip, −1…1 */
  pan: 4,
  /** strip, bus (see BUS), send dB, glide seconds */
  send: 5,
  /** semitones, strips 0–31, 32–63, 64–95, 96–127, a bit each */
  bend: 6,
  /** strip, vibrato depth 0…1, glide seconds */
  modulation: 7,
  /** strip, linear gain 0…1, glide seconds */
  expression: 8,
  /** strip: everything at once to rest — level −60 dB, centre, no bend */
  reset: 9,
  /** ends every voice within a few milliseconds, and calls off everything that is not due yet */
  silence: 10,
  /** strip, low shelf dB, high shelf dB */
  tone: 11,
  /** strip, brightness, attack, release, vibrato, as a timbre has them */
  timbre: 12,
  /** voice, what: what is not due yet of it is called off; 0 its start and its end, 1 its end alone */
  takeBack: 13,
  /** voice, vibrato depth 0…1 that is added to its strip’s */
  pressure: 14,
  /** strip, way out: 0 the mix, then the pairs beside it */
  output: 15,
  /** voice, frame of its start, frame of its end (−1 for none): what is not due yet of it comes then instead */
  retime: 16,
} as const;

/** The effects that strips send to, by number. */
export const BUS = { reverb: 0, delay: 1, chorus: 2 } as const;
export const BUSES = 3;

/** Pairs beside the mix by which strips can leave. */
export const PAIRS = 3;

/** Numbers in a record: the command, the frame at which it is due, and up to nine arguments. */
export const RECORD = 11;
/** Where in a record its arguments begin. */
export const ARGUMENTS = 2;
/** Where in the record of a start each of its arguments stands. */
export const START = {
  ...{ voice: 2, strip: 3, slot: 4, instance: 5, polyphony: 6, note: 7, velocity: 8, gain: 9 },
  glide: 10,
} as const;
const RECORDS = 4096;
const WRITTEN = 0;
const READ = 1;

/** Bytes of shared memory that a ring needs. */
export const COMMAND_RING_BYTES = 8 + RECORDS * RECORD * 8;

/** What sends commands to the voice engine. */
export abstract class CommandWriter {
  /**
   * @param record what {@link send} sends: the command, the frame at which it is due (0 for now), and its arguments. The live
   * path fills it in by itself, since a fraction that one function hands to another would be an object.
   */
  constructor(readonly record = new Float64Array(RECORD)) {}

  /** Sends what stands in the record; false when there is no room for it. */
  abstract send(): boolean;

  /** A command that is due now, about a strip or a voice: its record, whose other arguments are 0 until they are filled in. */
  begin(command: number, about: number): Float64Array {
    const { record } = this;
    record.fill(0);
    record[0] = command;
    record[ARGUMENTS] = about;
    return record;
  }

  /** Sends one command that is due at a frame, 0 for now; false when there is no room for it. */
  write(
    command: number,
    frame: Frame,
    a = 0,
    b = 0,
    c = 0,
    d = 0,
    e = 0,
    f = 0,
    g = 0,
    h = 0,
    i = 0,
  ): boolean {
    const { record } = this;
    record[0] = command;
    record[1] = frame;
    record[2] = a;
    record[3] = b;
    record[4] = c;
    record[5] = d;
    record[6] = e;
    record[7] = f;
    record[8] = g;
    record[9] = h;
    record[10] = i;
    return this.send();
  }
}

/**
 * Commands from the thread that plays to the thread that sounds, through shared memory: one writer, one reader, no locks,
 * no allocation. When the ring is full a command is refused, and counted.
 */
export class CommandRing extends CommandWriter {
  /** Commands that found no room. */
  refused = 0;
  private readonly places: Int32Array;
  private readonly records: Float64Array;

  constructor(memory: SharedArrayBuffer | ArrayBuffer) {
    super();
    this.places = new Int32Array(memory, 0, 2);
    this.records = new Float64Array(memory, 8, RECORDS * RECORD);
  }

  send(): boolean {
    const at = this.places[WRITTEN];
    const following = (at + 1) % RECORDS;
    if (following === Atomics.load(this.places, READ)) {
      this.refused++;
      return false;
    }
    const base = at * RECORD;
    for (let i = 0; i < RECORD; i++) this.records[base + i] = this.record[i];
    Atomics.store(this.places, WRITTEN, following);
    return true;
  }

  /** Throws away what nobody has read. Only while nobody reads. */
  clear(): void {
    Atomics.store(this.places, READ, this.places[WRITTEN]);
  }

  /** Copies the oldest command into `record`; false when there is none. */
  read(record: Float64Array): boolean {
    const at = this.places[READ];
    if (at === Atomics.load(this.places, WRITTEN)) return false;
    const base = at * RECORD;
    for (let i = 0; i < RECORD; i++) record[i] = this.records[base + i];
    Atomics.store(this.places, READ, (at + 1) % RECORDS);
    return true;
  }
}
