import {
  KINDS,
  type Cue,
  type Keepsake,
  type Kind,
  type Patch,
  type Saved,
  type ShowDocument,
  type Sound,
  type ValueOf,
} from '@pentachord/core/model';

/** Everything of the open show, the library and what is kept, by kind and id, as it stands on screen. */
export type Things = { [K in Kind]: Record<string, ValueOf<K>> };

/** The open show. Revisions are kept apart, so that undoing never takes one back. */
export interface DocumentState {
  showId: string | null;
  things: Things;
}

export const EMPTY_DOCUMENT: DocumentState = {
  showId: null,
  things: { shows: {}, devices: {}, songs: {}, patches: {}, cues: {}, sounds: {}, keepsakes: {} },
};

/** What the server has when a show is opened. */
export interface Opened {
  document: ShowDocument;
  sounds: Saved<Sound>[];
  keepsakes: Saved<Keepsake>[];
}

/** The things of a document from the server, of the library, and of what is kept. */
export function thingsOf({ document, sounds, keepsakes }: Opened): Things {
  const byId = <T extends { id: string }>(saved: { value: T }[]) =>
    Object.fromEntries(saved.map(({ value }) => [value.id, value]));
  return {
    shows: byId([document.show]),
    devices: byId(document.devices),
    songs: byId(document.songs),
    patches: byId(document.patches),
    cues: byId(document.cues),
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
    for (const [id, value] of Object.entries(things[kind])) visit(kind, id, value as ValueOf<Kind>);
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
