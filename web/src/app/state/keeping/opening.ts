import { ofEveryKind } from '@pentachord/core/model';
import type { Answered, AnsweredByKind, Unsaved } from '../show/document';
import type { KeptDesk } from './desk-copy';

/** What the server had when it was heard last, in the shape in which it answers. */
export function keptAnswer({ database, base: read }: KeptDesk): Answered {
  const base = read();
  const { sounds, patterns, keepsakes, ...rest } = ofEveryKind<AnsweredByKind>((kind) =>
    Object.entries(base)
      .filter(([key]) => key.startsWith(`${kind}/`))
      .map(([, saved]) => saved),
  );
  return { repertoire: { database, ...rest }, sounds, patterns, keepsakes };
}

/** Kept changes that belong to what the server answered: those of another database wait for it. */
export function keptChanges(kept: KeptDesk | null, { repertoire }: Answered): Unsaved[] {
  return kept?.database === repertoire.database ? kept.unsaved : [];
}
