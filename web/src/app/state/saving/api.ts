import { Injectable } from '@angular/core';
import {
  DATABASE_HEADER,
  faultSchema,
  healthSchema,
  keepsakeListSchema,
  patternListSchema,
  repertoireSchema,
  savedSchemas,
  soundListSchema,
  type Fault,
  type Keepsake,
  type Pattern,
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

/** Milliseconds after which what is not answered is given up: a save may have arrived all the same, and is tried again. */
const SAVE_PATIENCE = 20_000;

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
    const [repertoire, sounds, patterns, keepsakes] = await Promise.all([
      this.repertoire(),
      this.sounds(),
      this.patterns(),
      this.keepsakes(),
    ]);
    return { repertoire, sounds, patterns, keepsakes };
  }

  /** The name of the database that answers; null when none does. Never throws. */
  async answers(): Promise<string | null> {
    try {
      const response = await fetch('/api/health', { signal: AbortSignal.timeout(PATIENCE) });
      return response.ok ? healthSchema.parse(await response.json()).database : null;
    } catch {
      return null;
    }
  }

  async sounds(): Promise<Saved<Sound>[]> {
    return soundListSchema.parse(await this.read('/api/sounds'));
  }

  async patterns(): Promise<Saved<Pattern>[]> {
    return patternListSchema.parse(await this.read('/api/patterns'));
  }

  async keepsakes(): Promise<Saved<Keepsake>[]> {
    return keepsakeListSchema.parse(await this.read('/api/keepsakes'));
  }

  /** A thing as it is on the server now; null when it is not there. Throws when it is not answered in time. */
  async find(kind: Kind, id: string): Promise<Saved<ValueOf<Kind>> | null> {
    const signal = AbortSignal.timeout(SAVE_PATIENCE);
    const response = await fetch(`/api/${kind}/${id}`, { signal });
    if (response.status === 404) return null;
    const body: unknown = await response.json();
    if (!response.ok) throw new Error(faultSchema.parse(body).error.message);
    return savedSchemas[kind].parse(body);
  }

  /** Brings the demo show, or what of it is not there. Throws {@link ServerFault}. */
  async bringDemo(database: string | null): Promise<void> {
    await this.read('/api/demo', 'PUT', database);
  }

  /** Removes the demo whole; gives the names of songs that stay because other shows need them. Throws {@link ServerFault}. */
  async removeDemo(database: string | null): Promise<string[]> {
    return removedSchema.parse(await this.read('/api/demo', 'DELETE', database)).kept;
  }

  /** Saves or removes one thing of a database; another one that answers refuses it. Never throws, and never hangs. */
  async save(
    { kind, id, revision, value }: Unsaved,
    database: string | null = null,
  ): Promise<SaveOutcome> {
    try {
      const own = meantFor(database);
      const signal = AbortSignal.timeout(SAVE_PATIENCE);
      const response = await fetch(
        value === null ? `/api/${kind}/${id}?revision=${revision}` : `/api/${kind}/${id}`,
        value === null
          ? { method: 'DELETE', headers: own, signal }
          : {
              method: 'PUT',
              headers: { 'Content-Type': 'application/json', ...own },
              body: JSON.stringify({ revision, value }),
              signal,
            },
      );
      if (response.status === 204 || (value === null && response.status === 404))
        return { kind: 'removed' };
      const body: unknown = await response.json();
      if (response.ok) return { kind: 'saved', revision: savedSchemas[kind].parse(body).revision };
      return outcomeOf(kind, faultSchema.parse(body));
    } catch (error) {
      // What was answered, and makes no sense, is no silence.
      const isAnswered = error instanceof z.ZodError || error instanceof SyntaxError;
      return {
        kind: 'failed',
        problem: isAnswered
          ? 'what the server answers cannot be read. Your changes are safe in this window; load the page anew, or start the server again'
          : 'the server does not answer. Your changes are safe in this window; trying again',
      };
    }
  }

  private async read(
    path: string,
    method = 'GET',
    database: string | null = null,
  ): Promise<unknown> {
    const response = await fetch(path, { method, headers: meantFor(database) });
    if (response.status === 204) return null;
    const body: unknown = await response.json();
    if (!response.ok) throw new ServerFault(faultSchema.parse(body).error.message);
    return body;
  }
}

/** Names the database that something is meant for. */
function meantFor(database: string | null): Record<string, string> {
  return database === null ? {} : { [DATABASE_HEADER]: database };
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
