import {
  KINDS,
  MOST_LAYERS,
  newLayer,
  type Cue,
  type Kind,
  type Layer,
  type Patch,
  type Saved,
  type ShowDocument,
  type Sound,
  type ValueOf,
} from '@pentachord/core/model';
import { createActionGroup, props } from '@ngrx/store';

/** Everything of the open show, by kind and id, as it stands on screen. */
export type Things = { [K in Kind]: Record<string, ValueOf<K>> };

/** The open show. Revisions are kept apart, so that undoing never takes one back. */
export interface DocumentState {
  showId: string | null;
  things: Things;
}

export const EMPTY_DOCUMENT: DocumentState = {
  showId: null,
  things: { shows: {}, devices: {}, songs: {}, patches: {}, cues: {}, sounds: {} },
};

/**
 * Changes to the show. `gesture` names the movement of the hand that a change belongs to: changes of one gesture are one
 * step of undo.
 */
export const edits = createActionGroup({
  source: 'Edit',
  events: {
    'Layer changed': props<{
      patchId: string;
      layerId: string;
      changes: Partial<Omit<Layer, 'id' | 'soundId'>>;
      gesture?: string;
    }>(),
    /** Several layers at once, as one step of undo; `words` say what was done. */
    'Layers changed': props<{
      patchId: string;
      changes: Readonly<Record<string, Partial<Omit<Layer, 'id' | 'soundId'>>>>;
      words: string;
      gesture?: string;
    }>(),
    'Layer added': props<{
      patchId: string;
      layerId: string;
      patchSoundId: string;
      librarySoundId: string;
      keyboardId: string | null;
    }>(),
    'Layer duplicated': props<{ patchId: string; layerId: string; copyId: string }>(),
    'Layer removed': props<{ patchId: string; layerId: string }>(),
    'Layer moved': props<{ patchId: string; layerId: string; to: number }>(),
    'Sound swapped': props<{
      patchId: string;
      layerId: string;
      patchSoundId: string;
      librarySoundId: string;
    }>(),
    'Patch renamed': props<{ patchId: string; name: string }>(),
  },
});

/** Any edit. */
export type Edit = ReturnType<(typeof edits)[keyof typeof edits]>;
const EDIT_TYPES: ReadonlySet<string> = new Set(Object.values(edits).map((edit) => edit.type));

/** True for actions that change the show and can be undone. */
export function isEdit(action: { type: string }): action is Edit {
  return EDIT_TYPES.has(action.type);
}

/** What an edit did, in words for the undo button. */
export function editInWords(edit: Edit): string {
  switch (edit.type) {
    case edits.layerChanged.type:
      return `${changeInWords(edit.changes)} changed`;
    case edits.layersChanged.type:
      return edit.words;
    case edits.layerAdded.type:
      return 'layer added';
    case edits.layerDuplicated.type:
      return 'layer duplicated';
    case edits.layerRemoved.type:
      return 'layer removed';
    case edits.layerMoved.type:
      return 'layer moved';
    case edits.soundSwapped.type:
      return 'sound swapped';
    case edits.patchRenamed.type:
      return 'patch renamed';
  }
}

function changeInWords(changes: Partial<Layer>): string {
  const words: Partial<Record<keyof Layer, string>> = {
    keys: 'keys',
    velocities: 'strengths',
    transpose: 'transposition',
    level: 'level',
    pan: 'pan',
    muted: 'mute',
    name: 'name',
    touch: 'touch',
    keyboards: 'keyboard',
    channel: 'channel',
    sends: 'send',
    followsSong: 'transposition',
    obeys: 'controllers',
  };
  const [first] = Object.keys(changes) as (keyof Layer)[];
  return words[first] ?? 'layer';
}

/** Carries an edit out on a draft of the show's things. */
export function carryOut(things: Things, edit: Edit): void {
  const patch = things.patches[edit.patchId];
  if (!patch) return;
  switch (edit.type) {
    case edits.layerChanged.type: {
      const layer = patch.layers.find((l) => l.id === edit.layerId);
      if (layer) Object.assign(layer, edit.changes);
      break;
    }
    case edits.layersChanged.type:
      for (const layer of patch.layers)
        if (edit.changes[layer.id]) Object.assign(layer, edit.changes[layer.id]);
      break;
    case edits.layerAdded.type: {
      if (patch.layers.length >= MOST_LAYERS) break;
      const sound = things.sounds[edit.librarySoundId];
      takeSound(patch, edit.patchSoundId, edit.librarySoundId);
      patch.layers.push({
        ...newLayer(edit.layerId, sound?.name ?? 'New layer', edit.patchSoundId),
        ...(edit.keyboardId ? { keyboards: [edit.keyboardId] } : {}),
      });
      break;
    }
    case edits.layerDuplicated.type: {
      const index = patch.layers.findIndex((l) => l.id === edit.layerId);
      if (index < 0 || patch.layers.length >= MOST_LAYERS) break;
      const original = patch.layers[index];
      patch.layers.splice(index + 1, 0, {
        ...structuredCopy(original),
        id: edit.copyId,
        name: `${original.name} copy`.slice(0, 80),
      });
      break;
    }
    case edits.layerRemoved.type:
      patch.layers = patch.layers.filter((l) => l.id !== edit.layerId);
      dropUnusedSounds(patch);
      break;
    case edits.layerMoved.type: {
      const from = patch.layers.findIndex((l) => l.id === edit.layerId);
      if (from < 0) break;
      const [layer] = patch.layers.splice(from, 1);
      patch.layers.splice(Math.min(Math.max(0, edit.to), patch.layers.length), 0, layer);
      break;
    }
    case edits.soundSwapped.type: {
      const layer = patch.layers.find((l) => l.id === edit.layerId);
      if (!layer) break;
      takeSound(patch, edit.patchSoundId, edit.librarySoundId);
      layer.soundId = edit.patchSoundId;
      dropUnusedSounds(patch);
      break;
    }
    case edits.patchRenamed.type:
      patch.name = edit.name;
      break;
  }
}

function structuredCopy(layer: Layer): Layer {
  return JSON.parse(JSON.stringify(layer)) as Layer;
}

function takeSound(patch: Patch, patchSoundId: string, librarySoundId: string): void {
  if (!patch.sounds.some((s) => s.id === patchSoundId))
    patch.sounds.push({ id: patchSoundId, librarySoundId, polyphony: 'many' });
}

/** A sound that no layer plays would cost and never sound. */
function dropUnusedSounds(patch: Patch): void {
  patch.sounds = patch.sounds.filter((s) => patch.layers.some((l) => l.soundId === s.id));
}

/** The things of a document from the server, and the library. */
export function thingsOf(document: ShowDocument, sounds: Saved<Sound>[]): Things {
  const byId = <T extends { id: string }>(saved: { value: T }[]) =>
    Object.fromEntries(saved.map(({ value }) => [value.id, value]));
  return {
    shows: byId([document.show]),
    devices: byId(document.devices),
    songs: byId(document.songs),
    patches: byId(document.patches),
    cues: byId(document.cues),
    sounds: byId(sounds),
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
