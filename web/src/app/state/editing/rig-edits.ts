import type { Device, Layer, Place, Rig } from '@pentachord/core/model';
import { createActionGroup, props } from '@ngrx/store';

/** What can be changed of a device. */
export type DeviceChanges = Partial<{
  [K in AnyKey<Device> as K extends 'id' | 'kind' | 'rigId' ? never : K]: AnyValue<Device, K>;
}>;
type AnyKey<T> = T extends T ? keyof T : never;
type AnyValue<T, K extends PropertyKey> = T extends Record<K, infer V> ? V : never;

/** Changes to rigs and to what stands in them. `gesture` is what it is among the edits of a patch. */
export const rigEdits = createActionGroup({
  source: 'Rig edit',
  events: {
    'Rig added': props<{ rig: Rig; devices: readonly Device[] }>(),
    'Rig changed': props<{
      rigId: string;
      changes: Partial<Omit<Rig, 'id'>>;
      words: string;
      gesture?: string;
    }>(),
    'Rig removed': props<{ rigId: string }>(),
    'Device added': props<{ device: Device }>(),
    'Device changed': props<{
      deviceId: string;
      changes: DeviceChanges;
      words: string;
      gesture?: string;
    }>(),
    'Device removed': props<{ deviceId: string }>(),
    /** A show is played on another rig, where some devices stand in for places that it does not have. */
    'Show moved': props<{
      showId: string;
      rigId: string;
      standingIn: Readonly<Record<string, readonly Place[]>>;
    }>(),
    /** Several devices, and layers of one patch, as a mend has them. */
    'Rig mended': props<{
      words: string;
      devices: Readonly<Record<string, DeviceChanges>>;
      patchId: string | null;
      layers: Readonly<Record<string, Partial<Omit<Layer, 'id' | 'soundId'>>>>;
    }>(),
  },
});

/** An edit of rigs. */
export type RigEdit = ReturnType<(typeof rigEdits)[keyof typeof rigEdits]>;

const WORDS: Partial<Record<RigEdit['type'], string>> = {
  [rigEdits.rigAdded.type]: 'rig added',
  [rigEdits.rigRemoved.type]: 'rig removed',
  [rigEdits.deviceAdded.type]: 'device added',
  [rigEdits.deviceRemoved.type]: 'device removed',
  [rigEdits.showMoved.type]: 'show moved to another rig',
};

/** What an edit of rigs did, in words for the undo button. */
export function rigEditInWords(edit: RigEdit): string {
  return 'words' in edit ? edit.words : (WORDS[edit.type] ?? 'rig changed');
}

const TYPES = new Set<string>(Object.values(rigEdits).map(({ type }) => type));

/** True for edits of rigs. */
export function isRigEdit(action: { type: string }): action is RigEdit {
  return TYPES.has(action.type);
}
