import { takeSchema, LONGEST_TAKE, type Take } from '../model/show/take.js';
import { KIND, LAST_KIND, MOST_RECORDS, NO_END, RECORD_BYTES, recordsOf } from './roll.js';

/** A take with its roll. */
export interface WholeTake {
  take: Take;
  roll: Uint8Array;
}

const encoder = new TextEncoder();
/** What the bytes of a take begin with; the last is their version. */
const MARK = encoder.encode('take\u0001');
const HEADING_AT = MARK.length + 4;
/** Bytes of a heading at most. */
const LONGEST_HEADING = 16_000_000;
/** Bytes of a whole take at most. */
export const MOST_TAKE_BYTES = MOST_RECORDS * RECORD_BYTES + LONGEST_HEADING + HEADING_AT;

/** A take as bytes: a mark, how long its heading is, the heading as JSON, and the roll as it is. */
export function bytesOfTake({ take, roll }: WholeTake): Uint8Array<ArrayBuffer> {
  const heading = encoder.encode(JSON.stringify(take));
  const bytes = new Uint8Array(HEADING_AT + heading.length + roll.length);
  bytes.set(MARK);
  new DataView(bytes.buffer).setUint32(MARK.length, heading.length, true);
  bytes.set(heading, HEADING_AT);
  bytes.set(roll, HEADING_AT + heading.length);
  return bytes;
}

/** Reads a take and checks all of it; words that say why where it is none, or damaged. */
export function readTake(bytes: Uint8Array): WholeTake | string {
  if (bytes.length < HEADING_AT || MARK.slice(0, -1).some((byte, i) => bytes[i] !== byte))
    return 'it is no take';
  if (bytes[MARK.length - 1] !== MARK[MARK.length - 1])
    return 'it was made by another version of the program';
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(MARK.length, true);
  if (length > LONGEST_HEADING || HEADING_AT + length > bytes.length) return 'it is cut off';
  let heading: unknown;
  try {
    const text = new TextDecoder('utf-8', { fatal: true });
    heading = JSON.parse(text.decode(bytes.subarray(HEADING_AT, HEADING_AT + length)));
  } catch {
    return 'its heading is damaged';
  }
  const read = takeSchema.safeParse(heading);
  if (!read.success) {
    const [issue] = read.error.issues;
    return `its heading is damaged (${issue.path.join('.')}: ${issue.message})`;
  }
  const roll = new Uint8Array(bytes.subarray(HEADING_AT + length));
  const problem = rollProblem(roll, read.data);
  return problem ?? { take: read.data, roll };
}

/** What is wrong with a roll; null when all of it is as it should be. */
export function rollProblem(roll: Uint8Array, { senders, layers, long }: Take): string | null {
  if (roll.length % RECORD_BYTES !== 0) return 'its roll is cut off';
  if (roll.length / RECORD_BYTES > MOST_RECORDS) return 'its roll is longer than a day';
  if (long.some(({ sender }) => sender >= senders.length)) return 'its roll is damaged';
  for (const { seconds, kind, a, b, c, who } of recordsOf(roll)) {
    const isInTime =
      (seconds >= 0 && seconds <= LONGEST_TAKE) || (kind === KIND.endsThen && seconds === NO_END);
    const hasBytes =
      kind === KIND.message
        ? a >= 0x80 && b < 128 && c < 128 && who < senders.length
        : kind === KIND.began
          ? a < 128 && b >= 1 && b < 128 && who < layers.length
          : kind === KIND.level || kind === KIND.pan
            ? who < layers.length
            : true;
    if (!isInTime || kind > LAST_KIND || !hasBytes) return 'its roll is damaged';
  }
  return null;
}
