import { inject, Injectable } from '@angular/core';
import {
  changedTogether,
  controlInWords,
  partName,
  targetInWords,
  type ControlTarget,
  type Effects,
  type Layer,
  type PatchControl,
  type Treatment,
} from '@pentachord/core/model';
import type { Range } from '@pentachord/core/range';
import { Store } from '@ngrx/store';
import { Editing } from './editing';
import { edits, type LayerSettings, type SoundSettings } from './edits';
import type { AppState } from '../reducers';
import { selectDevices, selectMiddleC, selectPatch, selectSession } from '../selectors';
import { StatusLine } from '../session/status-line';

/** Edits of the patch on the desk. What is changed of one selected layer is changed of all that are selected with it. */
@Injectable({ providedIn: 'root' })
export class PatchEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  readonly patch = this.store.selectSignal(selectPatch);
  private readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly status = inject(StatusLine);
  private readonly session = this.store.selectSignal(selectSession);

  changeLayer(layerId: string, changes: LayerSettings, gesture?: string): void {
    const patch = this.patch();
    if (!patch) return;
    const patchId = patch.id;
    const all = changedTogether(patch.layers, new Set(this.session().layerIds), layerId, changes);
    const words = `${Object.keys(all).length} layers changed`;
    this.door.do(
      Object.keys(all).length > 1
        ? edits.layersChanged({ patchId, changes: all, words, gesture })
        : edits.layerChanged({ patchId, layerId, changes, gesture }),
    );
  }

  changeLayers(changes: Record<string, LayerSettings>, words: string, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (patchId && Object.keys(changes).length > 0)
      this.door.do(edits.layersChanged({ patchId, changes, words, gesture }));
  }

  changeSound(patchSoundId: string, changes: SoundSettings, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.soundChanged({ patchId, patchSoundId, changes, gesture }));
  }

  changeEffects(changes: Partial<Effects>, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.effectsChanged({ patchId, changes, gesture }));
  }

  changeTreatment(treatment: Treatment, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.treatmentChanged({ patchId, treatment, gesture }));
  }

  tie(control: PatchControl, gesture?: string): void {
    const patch = this.patch();
    if (!patch) return;
    this.door.do(edits.controlTied({ patchId: patch.id, control, gesture }));
    // Changing how far it moves is no tie made anew.
    if (gesture !== undefined) return;
    const name = controlInWords(control, this.devices());
    this.status.say(`Tied: ${name} moves ${targetInWords(control.target, patch)}.`);
  }

  untie(controlId: string): void {
    const patchId = this.patch()?.id;
    if (!patchId) return;
    this.door.do(edits.controlUntied({ patchId, controlId }));
    this.status.say('The control is no longer tied.');
  }

  addTreatment(treatment: Treatment): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.treatmentAdded({ patchId, treatment }));
  }

  moveTreatment(treatmentId: string, by: number): void {
    const patch = this.patch();
    if (!patch) return;
    const to = patch.treatments.findIndex(({ id }) => id === treatmentId) + by;
    this.door.do(edits.treatmentMoved({ patchId: patch.id, treatmentId, to }));
  }

  removeTreatment(treatmentId: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.treatmentRemoved({ patchId, treatmentId }));
  }

  rename(name: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.patchRenamed({ patchId, name }));
  }

  /** Copies of layers right behind them; gives their ids. */
  duplicate(layerIds: readonly string[]): string[] {
    const patchId = this.patch()?.id;
    if (!patchId) return [];
    const copyIds = Object.fromEntries(layerIds.map((id) => [id, crypto.randomUUID()]));
    this.door.do(edits.layersDuplicated({ patchId, copyIds }));
    return Object.values(copyIds);
  }

  /** Cuts a layer's keys up; gives the ids of the copies that play the other parts. */
  split(layerId: string, parts: readonly Range[]): string[] {
    const patchId = this.patch()?.id;
    if (!patchId) return [];
    const copyIds = parts.slice(1).map(() => crypto.randomUUID());
    const name = this.patch()?.layers.find(({ id }) => id === layerId)?.name ?? '';
    const names = parts.map((keys) => partName(name, keys, this.middleC()));
    this.door.do(edits.layerSplit({ patchId, layerId, parts, names, copyIds }));
    return copyIds;
  }

  removeLayers(layerIds: readonly string[]): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.layersRemoved({ patchId, layerIds }));
  }

  /** Moves a layer to another place, counted without itself. */
  moveLayer(layerId: string, to: number): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.layerMoved({ patchId, layerId, to }));
  }

  /** Has the layers of one sound play another one. */
  joinSounds(keep: string, drop: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.soundsJoined({ patchId, keep, drop }));
  }

  /** A layer gets a sound of its own, the same as the one it has shared. */
  makeOwn(layer: Layer): void {
    const patchId = this.patch()?.id;
    const patchSoundId = crypto.randomUUID();
    if (patchId) this.door.do(edits.soundMadeOwn({ patchId, layerId: layer.id, patchSoundId }));
  }

  /** A layer plays the sound of another one. */
  shareWith(layer: Layer, other: Layer): void {
    const patchId = this.patch()?.id;
    if (patchId)
      this.door.do(edits.soundShared({ patchId, layerId: layer.id, patchSoundId: other.soundId }));
  }

  /** The control that is tied to a target; null when there is none. */
  controlOf(target: ControlTarget): PatchControl | null {
    const wanted = JSON.stringify(target);
    const controls = this.patch()?.controls ?? [];
    return controls.find((control) => JSON.stringify(control.target) === wanted) ?? null;
  }
}
