import { LONGEST_TAKE, type Take } from '../model/show/take.js';
import { KIND, LAST_KIND, MOST_RECORDS, NO_END, RECORD_BYTES, recordsOf } from './roll.js';

/** A take with its roll. */
export interface WholeTake {
  take: Take;
  roll: Uint8Array;
}

/** What is wrong with a roll; null when all of it is as it should be. */
export function rollProblem(
  roll: Uint8Array,
  { senders, layers, steps, long }: Take,
): string | null {
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
            : kind !== KIND.step || who < steps.length;
    if (!isInTime || kind > LAST_KIND || !hasBytes) return 'its roll is damaged';
  }
  return null;
}
