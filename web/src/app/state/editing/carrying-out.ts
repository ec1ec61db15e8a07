import {
  MOST_CHOOSERS,
  MOST_CONTROLS,
  MOST_LAYERS,
  MOST_TREATMENTS,
  freeName,
  newLayer,
  nextName,
  idOfTarget,
  UNNAMED_PATCH,
  type Layer,
  type Patch,
  type PatchSound,
} from '@pentachord/core/model';
import { put, remove, type Things } from '../show/document';
import { carryOutRigEdit } from './carrying-out-rigs';
import { carryOutLibraryEdit } from './carrying-out-library';
import { isLibraryEdit } from './library-edits';
import { isRigEdit } from './rig-edits';
import { carryOutShowEdit } from './carrying-out-shows';
import { edits, isShowEdit, type Edit, type PatchEdit } from './edits';

/** Carries an edit out on a draft of the show's things. */
export function carryOut(things: Things, edit: Edit): void {
  if (isShowEdit(edit)) {
    carryOutShowEdit(things, edit);
    return;
  }
  if (isRigEdit(edit)) {
    carryOutRigEdit(things, edit);
    return;
  }
  if (isLibraryEdit(edit)) {
    carryOutLibraryEdit(things, edit);
    return;
  }
  switch (edit.type) {
    case edits.thingsImported.type:
      for (const one of edit.things) put(things, one);
      break;
    case edits.patchAdded.type:
      things.patches[edit.patch.id] = edit.patch;
      break;
    case edits.patchRemoved.type:
      remove(things.patches, edit.patchId);
      break;
    case edits.soundFavoured.type: {
      const sound = things.sounds[edit.librarySoundId];
      if (sound) sound.favourite = edit.favourite;
      break;
    }
    case edits.keepsakeAdded.type:
      things.keepsakes[edit.keepsake.id] = edit.keepsake;
      break;
    case edits.keepsakeChanged.type:
      Object.assign(things.keepsakes[edit.keepsakeId] ?? {}, edit.changes);
      break;
    case edits.keepsakeRemoved.type:
      remove(things.keepsakes, edit.keepsakeId);
      break;
    default: {
      const patch = things.patches[edit.patchId];
      if (patch) carryOutOn(patch, edit);
    }
  }
}

/** An edit that leaves its patch there. */
type EditOnPatch = Exclude<PatchEdit, ReturnType<typeof edits.patchRemoved>>;

/** How each edit of one patch is carried out on it. */
const ON_PATCH: {
  [T in EditOnPatch['type']]: (patch: Patch, edit: Extract<EditOnPatch, { type: T }>) => void;
} = {
  [edits.layerChanged.type]: (patch, edit) => {
    Object.assign(layerIn(patch, edit.layerId) ?? {}, edit.changes);
  },
  [edits.layersChanged.type]: (patch, edit) => {
    for (const layer of patch.layers) Object.assign(layer, edit.changes[layer.id]);
  },
  [edits.layerAdded.type]: (patch, edit) => {
    if (patch.layers.length >= MOST_LAYERS) return;
    nameByFirst(patch, edit.name);
    takeSound(patch, edit.sound);
    patch.layers.push({
      ...newLayer(edit.layerId, edit.name, edit.sound.id),
      ...(edit.keyboard ? { keyboards: [edit.keyboard] } : {}),
      ...(edit.channel ? { channel: edit.channel } : {}),
      ...(edit.beside ? { keys: edit.beside.keys } : {}),
    });
    if (edit.beside) {
      const neighbour = layerIn(patch, edit.beside.layerId);
      if (neighbour) neighbour.keys = edit.beside.neighbourKeys;
    }
  },
  [edits.layersDuplicated.type]: (patch, edit) => {
    for (const original of [...patch.layers]) {
      const copyId = edit.copyIds[original.id];
      if (copyId) duplicate(patch, original, copyId);
    }
  },
  [edits.layerSplit.type]: (patch, edit) => {
    const layer = layerIn(patch, edit.layerId);
    const { parts, copyIds, names } = edit;
    if (!layer || patch.layers.length + parts.length - 1 > MOST_LAYERS) return;
    // From the top down, since each copy comes right behind the layer.
    for (let i = parts.length - 1; i > 0; i--) {
      const copy = duplicate(patch, layer, copyIds[i - 1]);
      if (copy) Object.assign(copy, { keys: parts[i], name: names[i] });
    }
    Object.assign(layer, { keys: parts[0], name: names[0] });
  },
  [edits.layersRemoved.type]: (patch, edit) => {
    patch.layers = patch.layers.filter((layer) => !edit.layerIds.includes(layer.id));
    tidy(patch);
  },
  [edits.layerMoved.type]: (patch, edit) => {
    move(patch.layers, (layer) => layer.id === edit.layerId, edit.to);
  },
  [edits.choosersChanged.type]: (patch, edit) => {
    patch.choosers = [...edit.choosers];
    tidy(patch);
  },
  [edits.bandChanged.type]: (patch, { band, controls }) => {
    patch.accompanists = [...band.accompanists];
    patch.bandKeys = [...band.bandKeys];
    if (controls) {
      const others = patch.controls.filter(({ target }) => target.kind !== 'accompanist');
      patch.controls = [...others, ...controls].slice(0, MOST_CONTROLS);
    }
    tidy(patch);
  },
  [edits.layersPasted.type]: (patch, edit) => {
    const room = MOST_LAYERS - patch.layers.length;
    nameByFirst(patch, edit.carried.layers[0]?.name ?? patch.name);
    for (const sound of edit.carried.sounds) takeSound(patch, sound);
    patch.layers.push(...edit.carried.layers.slice(0, room));
    const { treatments, controls, choosers } = copied(edit.carried);
    patch.treatments.push(...treatments.slice(0, MOST_TREATMENTS - patch.treatments.length));
    patch.controls.push(...controls.slice(0, MOST_CONTROLS - patch.controls.length));
    patch.choosers.push(...choosers.slice(0, MOST_CHOOSERS - patch.choosers.length));
    tidy(patch);
  },
  [edits.soundSwapped.type]: (patch, edit) => {
    const layer = layerIn(patch, edit.layerId);
    if (!layer) return;
    renameWithSound(patch, layer, edit.names);
    takeSound(patch, edit.sound);
    const before = layer.soundId;
    layer.soundId = edit.sound.id;
    // What moved the old sound moves the new one, unless another layer still plays the old.
    if (!patch.layers.some(({ soundId }) => soundId === before))
      for (const { target } of patch.controls)
        if (target.kind === 'sound' && target.patchSoundId === before)
          target.patchSoundId = edit.sound.id;
    tidy(patch);
  },
  [edits.soundChanged.type]: (patch, edit) => {
    Object.assign(patch.sounds.find((s) => s.id === edit.patchSoundId) ?? {}, edit.changes);
  },
  [edits.soundMadeOwn.type]: (patch, edit) => {
    const layer = layerIn(patch, edit.layerId);
    const shared = patch.sounds.find((sound) => sound.id === layer?.soundId);
    if (!layer || !shared || patch.sounds.length >= MOST_LAYERS) return;
    if (patch.layers.every((other) => other === layer || other.soundId !== shared.id)) return;
    takeSound(patch, { ...copied(shared), id: edit.patchSoundId });
    layer.soundId = edit.patchSoundId;
  },
  [edits.soundShared.type]: (patch, edit) => {
    const layer = layerIn(patch, edit.layerId);
    if (layer && patch.sounds.some((sound) => sound.id === edit.patchSoundId))
      layer.soundId = edit.patchSoundId;
    tidy(patch);
  },
  [edits.soundsJoined.type]: (patch, edit) => {
    if (!patch.sounds.some((sound) => sound.id === edit.keep)) return;
    for (const layer of patch.layers) if (layer.soundId === edit.drop) layer.soundId = edit.keep;
    tidy(patch);
  },
  [edits.treatmentAdded.type]: (patch, edit) => {
    if (patch.treatments.length < MOST_TREATMENTS) patch.treatments.push(edit.treatment);
    tidy(patch);
  },
  [edits.treatmentChanged.type]: (patch, edit) => {
    const at = patch.treatments.findIndex((t) => t.id === edit.treatment.id);
    if (at >= 0) patch.treatments[at] = edit.treatment;
    tidy(patch);
  },
  [edits.treatmentMoved.type]: (patch, edit) => {
    move(patch.treatments, (treatment) => treatment.id === edit.treatmentId, edit.to);
  },
  [edits.treatmentRemoved.type]: (patch, edit) => {
    patch.treatments = patch.treatments.filter((t) => t.id !== edit.treatmentId);
    tidy(patch);
  },
  [edits.controlTied.type]: (patch, edit) => {
    const { control } = edit;
    const at = patch.controls.findIndex(({ id }) => id === control.id);
    if (at >= 0) patch.controls[at] = control;
    else if (patch.controls.length < MOST_CONTROLS) patch.controls.push(control);
    tidy(patch);
  },
  [edits.controlUntied.type]: (patch, edit) => {
    patch.controls = patch.controls.filter((control) => control.id !== edit.controlId);
  },
  [edits.effectsChanged.type]: (patch, edit) => {
    Object.assign(patch.effects, edit.changes);
  },
  [edits.patchRenamed.type]: (patch, edit) => {
    patch.name = edit.name;
  },
};

function carryOutOn(patch: Patch, edit: EditOnPatch): void {
  const how = ON_PATCH[edit.type] as (patch: Patch, edit: EditOnPatch) => void;
  how(patch, edit);
}

function layerIn(patch: Patch, id: string): Layer | undefined {
  return patch.layers.find((layer) => layer.id === id);
}

/** A patch that nobody has named yet is called by its first sound. */
function nameByFirst(patch: Patch, name: string): void {
  if (patch.layers.length === 0 && patch.name.startsWith(UNNAMED_PATCH)) patch.name = name;
}

/** A layer, and a patch, that still bear the old sound's name get the new one's: nobody has named them. */
function renameWithSound(
  patch: Patch,
  layer: Layer,
  names?: { before: string; now: string },
): void {
  if (!names || names.before === '') return;
  const others = patch.layers.filter((other) => other !== layer).map(({ name }) => name);
  if (patch.name === names.before && layer.name === names.before) patch.name = names.now;
  if (isNamedAfter(layer.name, names.before)) layer.name = freeName(names.now, others);
}

/** True for a name and its numbered ones: `Felt piano`, `Felt piano 2`. */
function isNamedAfter(name: string, sound: string): boolean {
  return (
    name === sound || (name.startsWith(`${sound} `) && /^\d+$/.test(name.slice(sound.length + 1)))
  );
}

function copied<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T;
}

/** A copy of a layer right behind it, under the same treatments; null when there is no room. */
function duplicate(patch: Patch, original: Layer, copyId: string): Layer | null {
  if (patch.layers.length >= MOST_LAYERS) return null;
  const at = patch.layers.indexOf(original) + 1;
  const name = nextName(
    original.name,
    patch.layers.map((layer) => layer.name),
  );
  patch.layers.splice(at, 0, { ...copied(original), id: copyId, name });
  for (const treatment of patch.treatments)
    if (treatment.layerIds.includes(original.id)) treatment.layerIds.push(copyId);
  return patch.layers[at];
}

function move<T>(list: T[], isIt: (item: T) => boolean, to: number): void {
  const from = list.findIndex(isIt);
  if (from < 0) return;
  const [item] = list.splice(from, 1);
  list.splice(Math.min(Math.max(0, to), list.length), 0, item);
}

function takeSound(patch: Patch, sound: PatchSound): void {
  if (!patch.sounds.some((s) => s.id === sound.id)) patch.sounds.push(sound);
}

/** Drops what points to nothing any more: sounds that no layer plays, treatments on no layer, controls of no target. */
function tidy(patch: Patch): void {
  const layers = new Set(patch.layers.map((layer) => layer.id));
  patch.sounds = patch.sounds.filter((s) => patch.layers.some((l) => l.soundId === s.id));
  // What came with the edit itself is not ours to change.
  patch.treatments = patch.treatments
    .map((treatment) =>
      treatment.layerIds.every((id) => layers.has(id))
        ? treatment
        : { ...treatment, layerIds: treatment.layerIds.filter((id) => layers.has(id)) },
    )
    .filter(({ layerIds }) => layerIds.length > 0);
  patch.choosers = patch.choosers.map((chooser) =>
    chooser.choices.every(({ layerIds }) => layerIds.every((id) => layers.has(id)))
      ? chooser
      : {
          ...chooser,
          choices: chooser.choices.map((choice) => ({
            ...choice,
            layerIds: choice.layerIds.filter((id) => layers.has(id)),
          })),
        },
  );
  patch.accompanists = patch.accompanists.map((accompanist) =>
    accompanist.layerIds.every((id) => layers.has(id))
      ? accompanist
      : { ...accompanist, layerIds: accompanist.layerIds.filter((id) => layers.has(id)) },
  );
  const { sounds, treatments, accompanists } = patch;
  const others = [...sounds, ...treatments, ...accompanists].map(({ id }) => id);
  const parts = new Set([...layers, ...others]);
  patch.controls = patch.controls.filter(({ target }) => {
    const about = idOfTarget(target);
    return about === null || parts.has(about);
  });
}
