import { inject, Injectable } from '@angular/core';
import {
  changedTogether,
  type ControlTarget,
  type Effects,
  type Layer,
  type PatchControl,
  type Treatment,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { edits, type LayerSettings, type SoundSettings } from './edits';
import type { AppState } from '../reducers';
import { selectPatch, selectSession } from '../selectors';

/** Edits of the patch on the desk. What is changed of one selected layer is changed of all that are selected with it. */
@Injectable({ providedIn: 'root' })
export class PatchEditing {
  private readonly store = inject<Store<AppState>>(Store);
  readonly patch = this.store.selectSignal(selectPatch);
  private readonly session = this.store.selectSignal(selectSession);

  changeLayer(layerId: string, changes: LayerSettings, gesture?: string): void {
    const patch = this.patch();
    if (!patch) return;
    const patchId = patch.id;
    const all = changedTogether(patch.layers, new Set(this.session().layerIds), layerId, changes);
    const words = `${Object.keys(all).length} layers changed`;
    this.store.dispatch(
      Object.keys(all).length > 1
        ? edits.layersChanged({ patchId, changes: all, words, gesture })
        : edits.layerChanged({ patchId, layerId, changes, gesture }),
    );
  }

  changeLayers(changes: Record<string, LayerSettings>, words: string, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (patchId && Object.keys(changes).length > 0)
      this.store.dispatch(edits.layersChanged({ patchId, changes, words, gesture }));
  }

  changeSound(patchSoundId: string, changes: SoundSettings, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (patchId)
      this.store.dispatch(edits.soundChanged({ patchId, patchSoundId, changes, gesture }));
  }

  changeEffects(changes: Partial<Effects>, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.store.dispatch(edits.effectsChanged({ patchId, changes, gesture }));
  }

  changeTreatment(treatment: Treatment, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.store.dispatch(edits.treatmentChanged({ patchId, treatment, gesture }));
  }

  tie(control: PatchControl, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.store.dispatch(edits.controlTied({ patchId, control, gesture }));
  }

  untie(controlId: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.store.dispatch(edits.controlUntied({ patchId, controlId }));
  }

  /** A layer gets a sound of its own, the same as the one it has shared. */
  makeOwn(layer: Layer): void {
    const patchId = this.patch()?.id;
    const patchSoundId = crypto.randomUUID();
    if (patchId)
      this.store.dispatch(edits.soundMadeOwn({ patchId, layerId: layer.id, patchSoundId }));
  }

  /** A layer plays the sound of another one. */
  shareWith(layer: Layer, other: Layer): void {
    const patchId = this.patch()?.id;
    if (patchId)
      this.store.dispatch(
        edits.soundShared({ patchId, layerId: layer.id, patchSoundId: other.soundId }),
      );
  }

  /** The control that is tied to a target; null when there is none. */
  controlOf(target: ControlTarget): PatchControl | null {
    const wanted = JSON.stringify(target);
    const controls = this.patch()?.controls ?? [];
    return controls.find((control) => JSON.stringify(control.target) === wanted) ?? null;
  }
}
