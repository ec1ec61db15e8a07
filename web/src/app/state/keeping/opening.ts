import type { Kind, Saved, ValueOf } from '@pentachord/core/model';
import type { Answered, Unsaved } from '../show/document';
import type { KeptDesk } from './desk-copy';

/** What the server had when it was heard last, in the shape in which it answers. */
export function keptAnswer({ database, base: read }: KeptDesk): Answered {
  const base = read();
  const all = <K extends Kind>(kind: K) =>
    Object.entries(base)
      .filter(([key]) => key.startsWith(`${kind}/`))
      .map(([, saved]) => saved as Saved<ValueOf<K>>);
  return {
    repertoire: {
      database,
      rigs: all('rigs'),
      shows: all('shows'),
      devices: all('devices'),
      songs: all('songs'),
      patches: all('patches'),
      cues: all('cues'),
    },
    sounds: all('sounds'),
    keepsakes: all('keepsakes'),
  };
}

/** Kept changes that belong to what the server answered: those of another database wait for it. */
export function keptChanges(kept: KeptDesk | null, { repertoire }: Answered): Unsaved[] {
  return kept?.database === repertoire.database ? kept.unsaved : [];
}
