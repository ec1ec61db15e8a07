import { Injectable } from '@angular/core';
import {
  faultSchema,
  keepsakeListSchema,
  repertoireSchema,
  savedSchemas,
  soundListSchema,
  type Fault,
  type Keepsake,
  type Repertoire,
  type Saved,
  type Sound,
  type ValueOf,
  type Kind,
} from '@pentachord/core/model';
import * as z from 'zod';
import type { Unsaved } from '../show/document';

/** Milliseconds after which a server that says nothing does not answer. */
const PATIENCE = 3000;

const removedSchema = z.strictObject({ kept: z.array(z.string()) });

/** What the server says of a request that it could not answer. */
export class ServerFault extends Error {}

/** How a save ended. */
export type SaveOutcome =
  | { kind: 'saved'; revision: number }
  | { kind: 'removed' }
  | { kind: 'stale'; present: Saved<ValueOf<Kind>> | null }
  /** Refused for good: the same would be refused again. */
  | { kind: 'refused'; problem: string }
  | { kind: 'failed'; problem: string };

/** Speaks to the server. Whatever it answers is checked by the core's schemas. */
@Injectable({ providedIn: 'root' })
export class Api {
  /** Every song with its patches and cues, every show and every rig. */
  async repertoire(): Promise<Repertoire> {
    return repertoireSchema.parse(await this.read('/api/repertoire'));
  }

  /** Everything that there is, as one begins with it. */
  async everything() {
    const [repertoire, sounds, keepsakes] = await Promise.all([
      this.repertoire(),
      this.sounds(),
      this.keepsakes(),
    ]);
    return { repertoire, sounds, keepsakes };
  }

  /** Whether the server answers. Never throws. */
  async answers(): Promise<boolean> {
    try {
      return (await fetch('/api/health', { signal: AbortSignal.timeout(PATIENCE) })).ok;
    } catch {
      return false;
    }
  }

  async sounds(): Promise<Saved<Sound>[]> {
    return soundListSchema.parse(await this.read('/api/sounds'));
  }

  async keepsakes(): Promise<Saved<Keepsake>[]> {
    return keepsakeListSchema.parse(await this.read('/api/keepsakes'));
  }

  /** A thing as it is on the server now; null when it is not there. */
  async find(kind: Kind, id: string): Promise<Saved<ValueOf<Kind>> | null> {
    const response = await fetch(`/api/${kind}/${id}`);
    if (response.status === 404) return null;
    const body: unknown = await response.json();
    if (!response.ok) throw new Error(faultSchema.parse(body).error.message);
    return savedSchemas[kind].parse(body);
  }

  /** Brings the demo show, or what of it is not there. Throws {@link ServerFault}. */
  async bringDemo(): Promise<void> {
    await this.read('/api/demo', 'PUT');
  }

  /** Removes the demo whole; gives the names of songs that stay because other shows need them. Throws {@link ServerFault}. */
  async removeDemo(): Promise<string[]> {
    return removedSchema.parse(await this.read('/api/demo', 'DELETE')).kept;
  }

  /** Saves or removes one thing. Never throws. */
  async save({ kind, id, revision, value }: Unsaved): Promise<SaveOutcome> {
    try {
      const response = await fetch(
        value === null ? `/api/${kind}/${id}?revision=${revision}` : `/api/${kind}/${id}`,
        value === null
          ? { method: 'DELETE' }
          : {
              method: 'PUT',
              headers: { 'Content-Type': 'application/json' },
              body: JSON.stringify({ revision, value }),
            },
      );
      if (response.status === 204 || (value === null && response.status === 404))
        return { kind: 'removed' };
      const body: unknown = await response.json();
      if (response.ok) return { kind: 'saved', revision: savedSchemas[kind].parse(body).revision };
      return outcomeOf(kind, faultSchema.parse(body));
    } catch {
      return {
        kind: 'failed',
        problem: 'the server does not answer. Your changes are safe in this window; trying again',
      };
    }
  }

  private async read(path: string, method = 'GET'): Promise<unknown> {
    const response = await fetch(path, { method });
    if (response.status === 204) return null;
    const body: unknown = await response.json();
    if (!response.ok) throw new ServerFault(faultSchema.parse(body).error.message);
    return body;
  }
}

const FOR_GOOD: ReadonlySet<Fault['error']['code']> = new Set([
  'invalid',
  'in-use',
  'too-large',
  'not-found',
]);

/** As the header says it: `not saved: the disk is full. …`. */
function inHeader({ code, message }: Fault['error']): string {
  return code === 'no-room'
    ? 'the disk is full. Your changes are safe in this window and are saved when there is room'
    : message.charAt(0).toLowerCase() + message.slice(1);
}

function outcomeOf(kind: Kind, { error }: Fault): SaveOutcome {
  if (FOR_GOOD.has(error.code)) return { kind: 'refused', problem: error.message };
  if (error.code !== 'stale') return { kind: 'failed', problem: inHeader(error) };
  const present = error.present
    ? (savedSchemas[kind].parse(error.present) as Saved<ValueOf<Kind>>)
    : null;
  return { kind: 'stale', present };
}
