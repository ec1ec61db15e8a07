import { inject, Injectable } from '@angular/core';
import { carriedFrom, renewed, type CarriedLayers } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { AddedInCue } from './added-in-cue';
import { Editing } from './editing';
import { edits } from './edits';
import { PatchesOfSong } from './patches-of-song';
import type { AppState } from '../reducers';
import { selectWrittenPatch } from '../selectors';
import { session } from '../session/session';

/** Carrying layers between patches. */
@Injectable({ providedIn: 'root' })
export class Carrying {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly added = inject(AddedInCue);
  private readonly songPatches = inject(PatchesOfSong);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);

  /** Layers of the patch on the desk, to be carried elsewhere; null when there are none of these ids. */
  carry(layerIds: readonly string[]): CarriedLayers | null {
    const patch = this.patch();
    if (!patch) return null;
    const carried = carriedFrom(patch, new Set(layerIds));
    return carried.layers.length > 0 ? carried : null;
  }

  /** Puts carried layers into the patch on the desk, as copies of their own, and selects them. */
  paste(carried: CarriedLayers, words: string): void {
    const patchId = this.patch()?.id;
    if (!patchId) return;
    const fresh = renewed(carried, this.songPatches.places(), () => crypto.randomUUID());
    this.door.do(edits.layersPasted({ patchId, carried: fresh, words }));
    const layerIds = fresh.layers.map(({ id }) => id);
    this.store.dispatch(session.layersSelected({ layerIds }));
    this.added.note({ layerIds, treatmentIds: fresh.treatments.map(({ id }) => id) });
  }
}
