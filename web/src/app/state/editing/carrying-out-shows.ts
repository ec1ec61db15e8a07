import type { Cue, CueLevel, OrderEntry, Show } from '@pentachord/core/model';
import { madePermanent, type CuePlaces } from '@pentachord/core/setlist';
import { remove, type Things } from '../show/document';
import { showEdits, type ShowEdit, type WholeSong } from './show-edits';

/** Carries an edit of shows, songs or cues out on a draft of the things. */
export function carryOutShowEdit(things: Things, edit: ShowEdit): void {
  switch (edit.type) {
    case showEdits.showAdded.type:
      things.shows[edit.show.id] = edit.show;
      break;
    case showEdits.showChanged.type:
      change(things.shows, edit.showId, edit.changes);
      break;
    case showEdits.showRemoved.type:
      remove(things.shows, edit.showId);
      break;
    case showEdits.orderChanged.type: {
      const show = find(things.shows, edit.showId);
      if (!show) break;
      for (const whole of edit.songs ?? []) add(things, whole);
      // A song that has gone meanwhile has no place.
      show.order = edit.order.filter((e) => e.kind !== 'song' || e.songId in things.songs);
      break;
    }
    case showEdits.tonightChanged.type: {
      const entry = entryOf(things, edit.showId, edit.entryId);
      if (entry) entry.tonight = edit.tonight;
      break;
    }
    case showEdits.tonightKept.type: {
      const entry = entryOf(things, edit.showId, edit.entryId);
      const song = entry && find(things.songs, entry.songId);
      if (!entry?.tonight || !song) break;
      Object.assign(song, madePermanent(song, entry.tonight));
      for (const cueId of entry.tonight.leftOut)
        if (find(things.cues, cueId)?.songId === song.id) remove(things.cues, cueId);
      number(things, song.id);
      entry.tonight = null;
      break;
    }
    case showEdits.songChanged.type:
      change(things.songs, edit.songId, edit.changes);
      break;
    case showEdits.songRemoved.type:
      removeSong(things, edit.songId, edit.showId);
      break;
    case showEdits.patchesOrdered.type:
      edit.patchIds.forEach((id, position) => change(things.patches, id, { position }));
      break;
    case showEdits.cuesAdded.type:
      place(things, edit.places);
      for (const cue of edit.cues)
        if (cue.songId in things.songs && cue.patchId in things.patches) things.cues[cue.id] = cue;
      break;
    case showEdits.cueChanged.type:
      change(things.cues, edit.cueId, edit.changes);
      break;
    case showEdits.cueTaken.type:
      change(things.cues, edit.cueId, edit.content);
      break;
    case showEdits.cuesPlaced.type:
      place(things, edit.places);
      break;
    case showEdits.cueRemoved.type: {
      const cue = find(things.cues, edit.cueId);
      if (!cue) break;
      remove(things.cues, edit.cueId);
      number(things, cue.songId);
      break;
    }
    case showEdits.cueBalanced.type: {
      const cue = find(things.cues, edit.cueId);
      if (!cue) break;
      for (const [layerId, level] of Object.entries(edit.balance)) balance(cue, layerId, level);
      Object.assign(cue.treatments, edit.treatments);
      Object.assign(cue.choices, edit.choices);
      break;
    }
  }
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
