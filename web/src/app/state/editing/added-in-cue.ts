import { computed, inject, Injectable, linkedSignal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { AppState } from '../reducers';
import { selectBalancedCue, selectCuesBySong, selectWrittenPatch } from '../selectors';
import { Editing } from './editing';
import { edits } from './edits';
import { showEdits } from './show-edits';

/** Parts that were added to a patch. */
export interface AddedParts {
  layerIds: readonly string[];
  treatmentIds: readonly string[];
}

const NOTHING: AddedParts = { layerIds: [], treatmentIds: [] };

/**
 * What was added last while a cue's balance was on the desk. A balance has no parts of its own: they are the patch's, and sound in
 * every cue that plays it, until they are made to sound in this cue alone.
 */
@Injectable({ providedIn: 'root' })
export class AddedInCue {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly cue = this.store.selectSignal(selectBalancedCue);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly cuesBySong = this.store.selectSignal(selectCuesBySong);
  /** Forgotten as soon as another cue or patch is on the desk. */
  private readonly parts = linkedSignal({
    source: () => this.cue()?.id ?? null,
    computation: () => NOTHING,
  });

  /** What was added, by name, and in how many cues it sounds; null when there is nothing to tell. */
  readonly told = computed(() => {
    const cue = this.cue();
    const patch = this.patch();
    const { layerIds, treatmentIds } = this.parts();
    if (!cue || !patch) return null;
    const names = [
      ...patch.layers.filter(({ id }) => layerIds.includes(id)).map(({ name }) => name),
      ...patch.treatments.filter(({ id }) => treatmentIds.includes(id)).map(({ kind }) => kind),
    ];
    const cues = (this.cuesBySong().get(cue.songId) ?? []).filter(
      ({ patchId }) => patchId === patch.id,
    ).length;
    return names.length > 0 && cues > 1
      ? { names: names.join(', '), cues, cue: cue.name, patch: patch.name }
      : null;
  });

  /** Something was added to the patch on the desk. */
  note(parts: Partial<AddedParts>): void {
    if (this.cue()) this.parts.set({ ...NOTHING, ...parts });
  }

  /** It was read. */
  dismiss(): void {
    this.parts.set(NOTHING);
  }

  /** It sounds in this cue alone: silent as the patch is written, and on in the cue's balance. */
  keepToCue(): void {
    const cue = this.cue();
    const patch = this.patch();
    const { layerIds, treatmentIds } = this.parts();
    if (!cue || !patch) return;
    const gesture = crypto.randomUUID();
    const patchId = patch.id;
    const words = `kept to ${cue.name}`;
    if (layerIds.length > 0) {
      const changes = Object.fromEntries(layerIds.map((id) => [id, { muted: true }]));
      this.door.do(edits.layersChanged({ patchId, changes, words, gesture }));
    }
    for (const treatment of patch.treatments)
      if (treatmentIds.includes(treatment.id))
        this.door.do(
          edits.treatmentChanged({ patchId, treatment: { ...treatment, on: false }, gesture }),
        );
    this.door.do(
      showEdits.cueBalanced({
        cueId: cue.id,
        balance: Object.fromEntries(layerIds.map((id) => [id, { muted: false }])),
        treatments: Object.fromEntries(treatmentIds.map((id) => [id, true])),
        gesture,
      }),
    );
    this.dismiss();
  }
}
