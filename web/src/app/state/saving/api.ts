import { Injectable } from '@angular/core';
import {
  faultSchema,
  keepsakeListSchema,
  savedSchemas,
  showDocumentSchema,
  showListSchema,
  soundListSchema,
  type Fault,
  type Keepsake,
  type Saved,
  type ShowDocument,
  type Sound,
  type ValueOf,
  type Kind,
} from '@pentachord/core/model';
import type * as z from 'zod';
import type { Unsaved } from './saving';

/** How a save ended. */
export type SaveOutcome =
  | { kind: 'saved'; revision: number }
  | { kind: 'removed' }
  | { kind: 'stale'; present: Saved<ValueOf<Kind>> | null }
  | { kind: 'failed'; problem: string };

/** Speaks to the server. Whatever it answers is checked by the core's schemas. */
@Injectable({ providedIn: 'root' })
export class Api {
  /** The shows there are, newest first. */
  async shows(): Promise<z.infer<typeof showListSchema>> {
    return showListSchema.parse(await this.read('/api/shows'));
  }

  async document(showId: string): Promise<ShowDocument> {
    return showDocumentSchema.parse(await this.read(`/api/shows/${showId}/document`));
  }

  async sounds(): Promise<Saved<Sound>[]> {
    return soundListSchema.parse(await this.read('/api/sounds'));
  }

  async keepsakes(): Promise<Saved<Keepsake>[]> {
    return keepsakeListSchema.parse(await this.read('/api/keepsakes'));
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

  private async read(path: string): Promise<unknown> {
    const response = await fetch(path);
    const body: unknown = await response.json();
    if (!response.ok) throw new Error(faultSchema.parse(body).error.message);
    return body;
  }
}

function outcomeOf(kind: Kind, { error }: Fault): SaveOutcome {
  if (error.code !== 'stale') return { kind: 'failed', problem: error.message };
  const present = error.present
    ? (savedSchemas[kind].parse(error.present) as Saved<ValueOf<Kind>>)
    : null;
  return { kind: 'stale', present };
}
