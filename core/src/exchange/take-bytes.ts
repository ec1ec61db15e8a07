import { strFromU8, strToU8 } from 'fflate';
import { MOST_RECORDS, RECORD_BYTES, rollProblem, type WholeTake } from '../logbook/index.js';
import { takeSchema } from '../model/show/take.js';

/** What the bytes of a take begin with; the last is their version. */
const MARK = strToU8('take\u0001');
const HEADING_AT = MARK.length + 4;
/** Bytes of a heading at most. */
const LONGEST_HEADING = 16_000_000;
/** Bytes of a whole take at most. */
export const MOST_TAKE_BYTES = MOST_RECORDS * RECORD_BYTES + LONGEST_HEADING + HEADING_AT;

/** A take as bytes: a mark, how long its heading is, the heading as JSON, and the roll as it is. */
export function bytesOfTake({ take, roll }: WholeTake): Uint8Array<ArrayBuffer> {
  const heading = strToU8(JSON.stringify(take));
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
    heading = JSON.parse(strFromU8(bytes.subarray(HEADING_AT, HEADING_AT + length)));
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
