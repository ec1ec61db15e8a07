import { Injectable } from '@angular/core';
import {
  DATABASE_HEADER,
  faultSchema,
  recordingKeepingSchema,
  recordingListSchema,
  type Recording,
  type RecordingKeeping,
} from '@pentachord/core/model';
import * as z from 'zod';
import { ServerFault } from '../saving/api';

/** More ids than these are more than a request may hold. */
const CLEARED_AT_ONCE = 5000;

const clearedSchema = z.strictObject({ cleared: z.number().int() });
const takenSchema = z.strictObject({ result: z.enum(['taken', 'already', 'wanting']) });

/** Speaks to the server of recordings. Whatever it answers is checked. */
@Injectable({ providedIn: 'root' })
export class RecordingsApi {
  async list(): Promise<Recording[]> {
    return recordingListSchema.parse(await asked('/api/recordings'));
  }

  async keeping(): Promise<RecordingKeeping> {
    return recordingKeepingSchema.parse(await asked('/api/recordings/keeping'));
  }

  /** Clears away those that nothing needs; gives back how many went. */
  async clear(ids: readonly string[], database: string | null): Promise<number> {
    let cleared = 0;
    for (let from = 0; from < ids.length; from += CLEARED_AT_ONCE) {
      const answer = await asked('/api/recordings/clear', {
        method: 'POST',
        body: JSON.stringify({ ids: ids.slice(from, from + CLEARED_AT_ONCE) }),
        headers: { 'Content-Type': 'application/json', ...meantFor(database) },
      });
      cleared += clearedSchema.parse(answer).cleared;
    }
    return cleared;
  }

  /**
   * Has a recording kept: first what is known of it, which is all where its bytes are there already, else the bytes before.
   * @throws ServerFault with the server’s words
   */
  async take(
    recording: Recording,
    bytes: Uint8Array<ArrayBuffer>,
    database: string | null,
    signal: AbortSignal,
    isWanting: boolean,
  ): Promise<'taken' | 'already'> {
    const address = `/api/recordings/${recording.id}`;
    const known = {
      ...{ method: 'PUT', body: JSON.stringify(recording), signal },
      headers: { 'Content-Type': 'application/json', ...meantFor(database) },
    };
    if (!isWanting) {
      const { result } = takenSchema.parse(await asked(address, known));
      if (result !== 'wanting') return result;
    }
    await asked(`${address}/bytes`, {
      ...{ method: 'PUT', body: bytes, signal },
      headers: { 'Content-Type': 'application/octet-stream', ...meantFor(database) },
    });
    const { result } = takenSchema.parse(await asked(address, known));
    // Cleared away between the two by another window.
    if (result === 'wanting') throw new ServerFault('its bytes did not stay; bring it again');
    return 'taken';
  }
}

async function asked(path: string, init: RequestInit = {}): Promise<unknown> {
  const response = await fetch(path, init);
  if (response.status === 204) return null;
  const body: unknown = await response.json();
  if (response.ok) return body;
  throw new ServerFault(faultSchema.parse(body).error.message);
}

function meantFor(database: string | null): Record<string, string> {
  return database === null ? {} : { [DATABASE_HEADER]: database };
}
