import type { Cue, CueLevel, OrderEntry, Show } from '@pentachord/core/model';
import { madePermanent, type CuePlaces } from '@pentachord/core/setlist';
import { remove, type Things } from '../show/document';
import { showEdits, type ShowEdit, type WholeSong } from './show-edits';

/** How each edit of shows, songs or cues is carried out. */
const HOW: {
  [T in ShowEdit['type']]: (things: Things, edit: Extract<ShowEdit, { type: T }>) => void;
} = {
  [showEdits.showAdded.type]: (things, edit) => {
    things.shows[edit.show.id] = edit.show;
  },
  [showEdits.showChanged.type]: (things, edit) => {
    change(things.shows, edit.showId, edit.changes);
  },
  [showEdits.showRemoved.type]: (things, edit) => {
    remove(things.shows, edit.showId);
  },
  [showEdits.orderChanged.type]: (things, edit) => {
    const show = find(things.shows, edit.showId);
    if (!show) return;
    for (const whole of edit.songs ?? []) add(things, whole);
    for (const [id, changes] of Object.entries(edit.changes ?? {}))
      change(things.songs, id, changes);
    // A song that has gone meanwhile has no place.
    show.order = edit.order.filter((e) => e.kind !== 'song' || e.songId in things.songs);
  },
  [showEdits.tonightChanged.type]: (things, edit) => {
    const entry = entryOf(things, edit.showId, edit.entryId);
    if (entry) entry.tonight = edit.tonight;
  },
  [showEdits.tonightKept.type]: (things, edit) => {
    const entry = entryOf(things, edit.showId, edit.entryId);
    const song = entry && find(things.songs, entry.songId);
    if (!entry?.tonight || !song) return;
    Object.assign(song, madePermanent(song, entry.tonight));
    for (const cueId of entry.tonight.leftOut)
      if (find(things.cues, cueId)?.songId === song.id) remove(things.cues, cueId);
    number(things, song.id);
    entry.tonight = null;
  },
  [showEdits.songChanged.type]: (things, edit) => {
    change(things.songs, edit.songId, edit.changes);
  },
  [showEdits.songRemoved.type]: (things, edit) => {
    removeSong(things, edit.songId, edit.showId);
  },
  [showEdits.patchesOrdered.type]: (things, edit) => {
    edit.patchIds.forEach((id, position) => change(things.patches, id, { position }));
  },
  [showEdits.cuesAdded.type]: (things, edit) => {
    for (const id of edit.replaced ?? []) remove(things.cues, id);
    place(things, edit.places);
    for (const cue of edit.cues)
      if (cue.songId in things.songs && cue.patchId in things.patches) things.cues[cue.id] = cue;
  },
  [showEdits.cueChanged.type]: (things, edit) => {
    change(things.cues, edit.cueId, edit.changes);
  },
  [showEdits.cueTaken.type]: (things, edit) => {
    change(things.cues, edit.cueId, edit.content);
  },
  [showEdits.cuesPlaced.type]: (things, edit) => {
    place(things, edit.places);
  },
  [showEdits.cueRemoved.type]: (things, edit) => {
    const cue = find(things.cues, edit.cueId);
    if (!cue) return;
    remove(things.cues, edit.cueId);
    number(things, cue.songId);
  },
  [showEdits.cueBalanced.type]: (things, edit) => {
    const cue = find(things.cues, edit.cueId);
    if (!cue) return;
    for (const [layerId, level] of Object.entries(edit.balance)) balance(cue, layerId, level);
    Object.assign(cue.treatments, edit.treatments);
    Object.assign(cue.choices, edit.choices);
  },
};

/** Carries an edit of shows, songs or cues out on a draft of the things. */
export function carryOutShowEdit(things: Things, edit: ShowEdit): void {
  const how = HOW[edit.type] as (things: Things, edit: ShowEdit) => void;
  how(things, edit);
}

function find<T>(things: Record<string, T>, id: string): T | undefined {
  return things[id];
}

function change<T extends object>(
  things: Record<string, T>,
  id: string,
  changes: Partial<T>,
): void {
  const thing = find(things, id);
  if (thing) Object.assign(thing, changes);
}

function add(things: Things, { song, patches, cues }: WholeSong): void {
  things.songs[song.id] = song;
  for (const patch of patches) things.patches[patch.id] = patch;
  for (const cue of cues) things.cues[cue.id] = cue;
}

function entryOf(things: Things, showId: string, entryId: string) {
  const entry = find(things.shows, showId)?.order.find(({ id }) => id === entryId);
  return entry?.kind === 'song' ? entry : undefined;
}

function place(things: Things, places: CuePlaces): void {
  for (const [id, at] of Object.entries(places)) change(things.cues, id, at);
}

/** Cues of a song are counted without gaps. */
function number(things: Things, songId: string): void {
  Object.values(things.cues)
    .filter((cue) => cue.songId === songId)
    .sort((a, b) => a.position - b.position)
    .forEach((cue, position) => {
      if (cue.position !== position) cue.position = position;
    });
}

function balance(cue: Cue, layerId: string, { sends, ...level }: CueLevel): void {
  const before = (cue.balance[layerId] as CueLevel | undefined) ?? {};
  cue.balance[layerId] = { ...before, ...level };
  if (sends) cue.balance[layerId].sends = { ...before.sends, ...sends };
}

function removeSong(things: Things, songId: string, showId: string | null): void {
  const isIt = (entry: OrderEntry) => entry.kind === 'song' && entry.songId === songId;
  const show = showId === null ? undefined : find(things.shows, showId);
  if (show?.order.some(isIt)) show.order = show.order.filter((entry) => !isIt(entry));
  const stands = Object.values(things.shows).some(({ order }: Show) => order.some(isIt));
  if (stands) return;
  for (const { id, songId: owner } of Object.values(things.cues))
    if (owner === songId) remove(things.cues, id);
  for (const { id, songId: owner } of Object.values(things.patches))
    if (owner === songId) remove(things.patches, id);
  remove(things.songs, songId);
}
