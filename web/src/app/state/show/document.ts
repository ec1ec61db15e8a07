import {
  KINDS,
  ofEveryKind,
  type Cue,
  type Keepsake,
  type Kind,
  type Patch,
  type Pattern,
  type Saved,
  type Show,
  type Repertoire,
  type Sound,
  type ValueOf,
} from '@pentachord/core/model';

/** Everything of the player: repertoire, shows, rigs, library and what is kept, by kind and id, as it stands on screen. */
export type Things = { [K in Kind]: Record<string, ValueOf<K>> };

/** What there is, and which show is open. Revisions are kept apart, so that undoing never takes one back. */
export interface DocumentState {
  /** Name of the server's database; null before it is known. */
  database: string | null;
  showId: string | null;
  things: Things;
}

export const EMPTY_DOCUMENT: DocumentState = {
  database: null,
  showId: null,
  things: ofEveryKind<Things>(() => ({})),
};

/** What the server has at the beginning. */
export interface Opened {
  repertoire: Repertoire;
  sounds: Saved<Sound>[];
  patterns: Saved<Pattern>[];
  keepsakes: Saved<Keepsake>[];
  /** The show to be open; null when there is none. */
  showId: string | null;
  /** Whether this browser has been here before. */
  wasHere: boolean;
  /** Changes that this browser has kept, and that the server does not have yet. */
  unsaved: Unsaved[];
  /** True when the server did not answer, and this is what it had when it was heard last. */
  isKept: boolean;
}

/** What the server answers of what it has. */
export type Answered = Pick<Opened, 'repertoire' | 'sounds' | 'patterns' | 'keepsakes'>;

/** Of every kind what the server answers. */
export type AnsweredByKind = { [K in Kind]: Saved<ValueOf<K>>[] };

export function answeredByKind({ repertoire, ...others }: Answered): AnsweredByKind {
  return { ...repertoire, ...others };
}

/** A thing that differs from what the server has. */
export interface Unsaved {
  kind: Kind;
  id: string;
  /** The revision it was made from; 0 for a new thing. */
  revision: number;
  /** What to save; null to remove it. */
  value: ValueOf<Kind> | null;
}

/** The things that the server has, with what was changed since. */
export function thingsOf({ unsaved, ...answered }: Answered & Pick<Opened, 'unsaved'>): Things {
  const all = answeredByKind(answered);
  const things = ofEveryKind<Things>((kind) =>
    Object.fromEntries(all[kind].map(({ value }) => [value.id, value])),
  );
  for (const { kind, id, value } of unsaved)
    if (value) put(things, { kind, value });
    else remove(things[kind], id);
  return things;
}

/** Calls `visit` for every thing. */
export function eachThing(
  things: Things,
  visit: (kind: Kind, id: string, value: ValueOf<Kind>) => void,
): void {
  for (const kind of KINDS)
    for (const [id, value] of Object.entries<ValueOf<Kind>>(things[kind])) visit(kind, id, value);
}

/** Cues of a song in order. */
export function cuesOfSong(things: Things, songId: string): Cue[] {
  return Object.values(things.cues)
    .filter((cue) => cue.songId === songId)
    .sort((a, b) => a.position - b.position);
}

/** Patches of a song in order. */
export function patchesOfSong(things: Things, songId: string): Patch[] {
  return Object.values(things.patches)
    .filter((patch) => patch.songId === songId)
    .sort((a, b) => a.position - b.position);
}

/** The show that is opened first: the one asked for, else the newest that is not put away, else the newest; null for none. */
export function showToOpen(shows: readonly Show[], asked: string | null): string | null {
  const newest = [...shows].sort((a, b) => b.date.localeCompare(a.date) || (a.id < b.id ? -1 : 1));
  const show =
    shows.find(({ id }) => id === asked) ?? newest.find(({ putAway }) => !putAway) ?? newest.at(0);
  return show?.id ?? null;
}

/** A thing of any kind. */
export type AnyThing = { [K in Kind]: { kind: K; value: ValueOf<K> } }[Kind];

/** Puts a thing into a draft, in place of what bore its id. */
export function put(things: Things, { kind, value }: { kind: Kind; value: ValueOf<Kind> }): void {
  (things[kind] as Record<string, ValueOf<Kind>>)[value.id] = value;
}

/** Takes a thing out of a draft, as a change of its own. */
export function remove(things: Record<string, unknown>, id: string): void {
  // Only what nobody else has yet is written here: Immer's draft, or what is just being put together.
  Reflect.deleteProperty(things, id);
}
