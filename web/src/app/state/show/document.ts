import {
  KINDS,
  type Cue,
  type Keepsake,
  type Kind,
  type Patch,
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
  showId: string | null;
  things: Things;
}

export const EMPTY_DOCUMENT: DocumentState = {
  showId: null,
  things: {
    rigs: {},
    shows: {},
    devices: {},
    songs: {},
    patches: {},
    cues: {},
    sounds: {},
    keepsakes: {},
  },
};

/** What the server has at the beginning. */
export interface Opened {
  repertoire: Repertoire;
  sounds: Saved<Sound>[];
  keepsakes: Saved<Keepsake>[];
  /** The show to be open; null when there is none. */
  showId: string | null;
  /** Whether this browser has been here before. */
  wasHere: boolean;
}

/** The things that the server has. */
export function thingsOf({
  repertoire,
  sounds,
  keepsakes,
}: Omit<Opened, 'showId' | 'wasHere'>): Things {
  const byId = <T extends { id: string }>(saved: { value: T }[]) =>
    Object.fromEntries(saved.map(({ value }) => [value.id, value]));
  return {
    rigs: byId(repertoire.rigs),
    shows: byId(repertoire.shows),
    devices: byId(repertoire.devices),
    songs: byId(repertoire.songs),
    patches: byId(repertoire.patches),
    cues: byId(repertoire.cues),
    sounds: byId(sounds),
    keepsakes: byId(keepsakes),
  };
}
/** Calls `visit` for every thing. */
export function eachThing(
  things: Things,
  visit: (kind: Kind, id: string, value: ValueOf<Kind>) => void,
): void {
  for (const kind of KINDS)
    for (const [id, value] of Object.entries(things[kind])) visit(kind, id, value);
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

/** Takes a thing out of a draft, as a change of its own. */
export function remove(things: Record<string, unknown>, id: string): void {
  // Only Immer's draft is written here; nobody keeps it.
  Reflect.deleteProperty(things, id);
}
