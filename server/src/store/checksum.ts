import { crc32 } from 'node:zlib';
import type { Saved } from '@pentachord/core/model';

/** A thing as it is answered: one text for the answer and for its checksum. */
export function answerText({ revision, value }: Saved<unknown>): string {
  return JSON.stringify({ revision, value });
}

/** CRC-32 of a thing as it is answered, so that a bit that changes on the disk is noticed. */
export function checksumOf(text: string): number {
  return crc32(text);
}
