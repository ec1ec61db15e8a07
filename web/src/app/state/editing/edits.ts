import type {
  Band,
  Chooser,
  CarriedLayers,
  Effects,
  Keepsake,
  Layer,
  Patch,
  Tie,
  PatchSound,
  Treatment,
  Place,
} from '@pentachord/core/model';
import type { Range } from '@pentachord/core/range';
import { createActionGroup, props } from '@ngrx/store';
import type { AnyThing } from '../show/document';
import { isLibraryEdit, libraryEditInWords, type LibraryEdit } from './library-edits';
import { isRigEdit, rigEditInWords, type RigEdit } from './rig-edits';
import { showEditInWords, showEdits, type ShowEdit } from './show-edits';

/** What can be changed of a layer. */
export type LayerSettings = Partial<Omit<Layer, 'id' | 'soundId'>>;
/** What can be changed of a sound in a patch. */
export type SoundSettings = Partial<Omit<PatchSound, 'id' | 'librarySoundId'>>;

/**
 * Changes to the show and the library. `gesture` names the movement of the hand that a change belongs to: changes of one
 * gesture are one step of undo.
 */
export const edits = createActionGroup({
  source: 'Edit',
  events: {
    'Layer changed': props<{
      patchId: string;
      layerId: string;
      changes: LayerSettings;
      gesture?: string;
    }>(),
    /** Several layers at once, as one step of undo; `words` say what was done. */
    'Layers changed': props<{
      patchId: string;
      changes: Readonly<Record<string, LayerSettings>>;
      words: string;
      gesture?: string;
    }>(),
    'Layer added': props<{
      patchId: string;
      layerId: string;
      name: string;
      sound: PatchSound;
      keyboard: Place | null;
      /** The channel that it listens to; null for any. */
      channel?: number | null;
      /** Beside another layer instead of over everything: who plays which keys from now on. */
      beside?: { layerId: string; keys: Range; neighbourKeys: Range };
    }>(),
    /** Copies of layers get these ids, by original. */
    'Layers duplicated': props<{ patchId: string; copyIds: Readonly<Record<string, string>> }>(),
    /** Cuts a layer's keys up: it keeps the first part, copies that share its sound play the others. */
    'Layer split': props<{
      patchId: string;
      layerId: string;
      parts: readonly Range[];
      /** What the parts are called, in their order. */
      names: readonly string[];
      copyIds: readonly string[];
    }>(),
    'Layers removed': props<{ patchId: string; layerIds: readonly string[] }>(),
    'Layer moved': props<{ patchId: string; layerId: string; to: number }>(),
    'Layers pasted': props<{ patchId: string; carried: CarriedLayers; words: string }>(),
    /** `names` are what the old and the new sound are called: what bore the old one's name bears the new one's. */
    'Sound swapped': props<{
      patchId: string;
      layerId: string;
      sound: PatchSound;
      names?: { before: string; now: string };
    }>(),
    'Sound changed': props<{
      patchId: string;
      patchSoundId: string;
      changes: SoundSettings;
      gesture?: string;
    }>(),
    'Sound made own': props<{ patchId: string; layerId: string; patchSoundId: string }>(),
    /** A layer plays the sound of another one from now on. */
    'Sound shared': props<{ patchId: string; layerId: string; patchSoundId: string }>(),
    /** All layers of one sound play another one from now on. */
    'Sounds joined': props<{ patchId: string; keep: string; drop: string }>(),
    'Treatment added': props<{ patchId: string; treatment: Treatment }>(),
    'Treatment changed': props<{ patchId: string; treatment: Treatment; gesture?: string }>(),
    'Treatment moved': props<{ patchId: string; treatmentId: string; to: number }>(),
    'Treatment removed': props<{ patchId: string; treatmentId: string }>(),
    /** Ties a control, or changes how it is tied. */
    'Control tied': props<{ patchId: string; control: Tie; gesture?: string }>(),
    'Control untied': props<{ patchId: string; controlId: string }>(),
    'Effects changed': props<{ patchId: string; changes: Partial<Effects>; gesture?: string }>(),
    'Choosers changed': props<{ patchId: string; choosers: readonly Chooser[]; words: string }>(),
    /** Accompanists, what they have on keys, and the keys for all of them. */
    'Band changed': props<{
      patchId: string;
      band: Band;
      /** Controls that move it, instead of those that do; none if left out. */
      controls?: readonly Tie[];
      words: string;
      gesture?: string;
    }>(),
    /** Many things that come in together, whatever they are, as one step of undo; each is saved behind what it needs. */
    'Things imported': props<{ things: readonly AnyThing[]; words: string }>(),
    'Patch renamed': props<{ patchId: string; name: string }>(),
    'Patch added': props<{ patch: Patch }>(),
    'Patch removed': props<{ patchId: string }>(),
    'Sound favoured': props<{ librarySoundId: string; favourite: boolean }>(),
    'Keepsake added': props<{ keepsake: Keepsake }>(),
    'Keepsake changed': props<{
      keepsakeId: string;
      changes: Partial<Pick<Keepsake, 'name' | 'favourite'>>;
    }>(),
    'Keepsake removed': props<{ keepsakeId: string }>(),
  },
});

/** An edit of patches, of the library or of what is kept. */
type PatchOrShelfEdit = ReturnType<(typeof edits)[keyof typeof edits]>;
/** Any edit. */
export type Edit = PatchOrShelfEdit | ShowEdit | RigEdit | LibraryEdit;
/** An edit of one patch that is there already. */
export type PatchEdit = Extract<PatchOrShelfEdit, { patchId: string }>;
const SHOW_EDIT_TYPES: ReadonlySet<string> = new Set(
  Object.values(showEdits).map((edit) => edit.type),
);
const EDIT_TYPES: ReadonlySet<string> = new Set([
  ...Object.values(edits).map((edit) => edit.type),
  ...SHOW_EDIT_TYPES,
]);

/** True for actions that change the show or the library and can be undone. */
export function isEdit(action: { type: string }): action is Edit {
  return EDIT_TYPES.has(action.type) || isRigEdit(action) || isLibraryEdit(action);
}

/** True for edits of shows, songs and cues. */
export function isShowEdit(edit: Edit): edit is ShowEdit {
  return SHOW_EDIT_TYPES.has(edit.type);
}

const WORDS: Partial<Record<Edit['type'], string>> = {
  [edits.layerAdded.type]: 'layer added',
  [edits.layersDuplicated.type]: 'layer duplicated',
  [edits.layerSplit.type]: 'layer split',
  [edits.layersRemoved.type]: 'layer removed',
  [edits.layerMoved.type]: 'layer moved',
  [edits.soundSwapped.type]: 'sound swapped',
  [edits.soundMadeOwn.type]: 'sound made its own',
  [edits.soundShared.type]: 'sound shared',
  [edits.soundsJoined.type]: 'sounds shared',
  [edits.treatmentAdded.type]: 'treatment added',
  [edits.treatmentChanged.type]: 'treatment changed',
  [edits.treatmentMoved.type]: 'treatment moved',
  [edits.treatmentRemoved.type]: 'treatment removed',
  [edits.controlTied.type]: 'control tied',
  [edits.controlUntied.type]: 'control untied',
  [edits.effectsChanged.type]: 'effects changed',
  [edits.patchRenamed.type]: 'patch renamed',
  [edits.patchAdded.type]: 'patch added',
  [edits.patchRemoved.type]: 'patch removed',
  [edits.soundFavoured.type]: 'favourite changed',
  [edits.keepsakeAdded.type]: 'kept',
  [edits.keepsakeChanged.type]: 'keepsake changed',
  [edits.keepsakeRemoved.type]: 'keepsake removed',
};

/** What an edit did, in words for the undo button. */
export function editInWords(edit: Edit): string {
  if (isShowEdit(edit)) return showEditInWords(edit);
  if (isRigEdit(edit)) return rigEditInWords(edit);
  if (isLibraryEdit(edit)) return libraryEditInWords(edit);
  switch (edit.type) {
    case edits.layerChanged.type:
      return `${partInWords(edit.changes)} changed`;
    case edits.soundChanged.type:
      return `${Object.keys(edit.changes).at(0) === 'timbre' ? 'timbre' : 'voices'} changed`;
    case edits.layersChanged.type:
    case edits.choosersChanged.type:
    case edits.bandChanged.type:
    case edits.layersPasted.type:
    case edits.thingsImported.type:
      return edit.words;
    default:
      return WORDS[edit.type] ?? 'changed';
  }
}

/** What of a layer is changed, in a word. */
export function partInWords(changes: LayerSettings): string {
  const words: Partial<Record<string, string>> = {
    keys: 'keys',
    velocities: 'velocities',
    transpose: 'transposition',
    level: 'level',
    pan: 'pan',
    muted: 'mute',
    name: 'name',
    touch: 'touch',
    lift: 'lift',
    keyboards: 'keyboard',
    channel: 'channel',
    sends: 'send',
    tone: 'tone',
    followsSong: 'transposition',
    obeys: 'controllers',
  };
  return words[Object.keys(changes)[0]] ?? 'layer';
}
