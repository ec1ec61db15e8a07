import { inject, Injectable } from '@angular/core';
import {
  changedTogether,
  withBandChanges,
  partName,
  type Band,
  type Chooser,
  type CueLevel,
  type Effects,
  type Layer,
  type BandChanges,
  type Tie,
  type Treatment,
} from '@pentachord/core/model';
import type { Range } from '@pentachord/core/range';
import { partChanges } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import { AddedInCue } from './added-in-cue';
import { Editing } from './editing';
import { edits, partInWords, type LayerSettings, type SoundSettings } from './edits';
import { showEdits } from './show-edits';
import type { AppState } from '../reducers';
import {
  selectBalancedCue,
  selectMiddleC,
  selectPatch,
  selectSession,
  selectWrittenPatch,
} from '../selectors';

/** Edits of the patch on the desk, or of its cue’s balance when that is there. What is changed of one selected layer is changed of all that are selected with it. */
@Injectable({ providedIn: 'root' })
export class PatchEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly added = inject(AddedInCue);
  /** As it is shown: as it is written, or with the balance of its cue. */
  readonly patch = this.store.selectSignal(selectPatch);
  readonly written = this.store.selectSignal(selectWrittenPatch);
  /** The cue whose balance is on the desk; null while the patch is there as it is written. */
  readonly cue = this.store.selectSignal(selectBalancedCue);
  private readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly session = this.store.selectSignal(selectSession);

  changeLayer(layerId: string, changes: LayerSettings, gesture?: string): void {
    const patch = this.patch();
    if (!patch) return;
    const patchId = patch.id;
    const all = changedTogether(patch.layers, new Set(this.session().layerIds), layerId, changes);
    const words = `${partInWords(changes)} of ${Object.keys(all).length} layers changed`;
    const ofPatch = this.withoutCuesPart(all, gesture);
    if (Object.keys(ofPatch).length > 1)
      this.door.do(edits.layersChanged({ patchId, changes: ofPatch, words, gesture }));
    else if (layerId in ofPatch)
      this.door.do(edits.layerChanged({ patchId, layerId, changes: ofPatch[layerId], gesture }));
  }

  changeLayers(changes: Record<string, LayerSettings>, words: string, gesture?: string): void {
    const patchId = this.patch()?.id;
    if (!patchId) return;
    const ofPatch = this.withoutCuesPart(changes, gesture);
    if (Object.keys(ofPatch).length > 0)
      this.door.do(edits.layersChanged({ patchId, changes: ofPatch, words, gesture }));
  }

  /** While a cue’s balance is on the desk, what belongs to it goes into the cue; what is left is the patch’s. */
  private withoutCuesPart(
    changes: Readonly<Record<string, LayerSettings>>,
    gesture: string | undefined,
  ): Record<string, LayerSettings> {
    const cue = this.cue();
    const shown = this.patch();
    const written = this.written();
    if (!cue || !shown || !written) return changes;
    const balance: Record<string, CueLevel> = {};
    const rest: Record<string, LayerSettings> = {};
    for (const [id, asked] of Object.entries(changes)) {
      const layer = shown.layers.find((one) => one.id === id);
      const own = written.layers.find((one) => one.id === id);
      if (!layer || !own) continue;
      const { ofCue, ofPatch } = partChanges(layer, own, asked);
      if (Object.keys(ofCue).length > 0) balance[id] = ofCue;
      if (Object.keys(ofPatch).length > 0) rest[id] = ofPatch;
    }
    if (Object.keys(balance).length > 0)
      this.door.do(showEdits.cueBalanced({ cueId: cue.id, balance, gesture }));
    return rest;
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
    const patch = this.patch();
    if (!patch) return;
    const { id } = treatment;
    const cue = this.cue();
    const shown = patch.treatments.find((one) => one.id === id);
    const written = this.written()?.treatments.find((one) => one.id === id);
    let ofPatch = treatment;
    if (cue && shown && written) {
      if (treatment.on !== shown.on)
        this.door.do(
          showEdits.cueBalanced({
            cueId: cue.id,
            balance: {},
            treatments: { [id]: treatment.on },
            gesture,
          }),
        );
      ofPatch = { ...treatment, on: written.on };
      if (JSON.stringify(ofPatch) === JSON.stringify(written)) return;
    }
    this.door.do(edits.treatmentChanged({ patchId: patch.id, treatment: ofPatch, gesture }));
  }

  changeChoosers(choosers: readonly Chooser[], words: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.choosersChanged({ patchId, choosers, words }));
  }

  /** Changes the accompanists and their keys, and what moves them where that is said; one `gesture` is one step of undo. */
  changeBand(band: Band, words: string, gesture?: string, controls?: readonly Tie[]): void {
    const patchId = this.patch()?.id;
    if (patchId) this.door.do(edits.bandChanged({ patchId, band, controls, words, gesture }));
  }

  /** Mends accompanists, as the patch is written. */
  mendBand(changes: BandChanges, words: string): void {
    const written = this.written();
    if (!written) return;
    const accompanists = withBandChanges(written.accompanists, changes);
    this.changeBand({ accompanists, bandKeys: written.bandKeys }, words);
  }

  /** Picks a choice: for the cue whose balance is on the desk, else as the patch is written. */
  pick({ id, name }: Chooser, choice: number): void {
    const cue = this.cue();
    const written = this.written();
    if (cue)
      this.door.do(
        showEdits.cueBalanced({ cueId: cue.id, balance: {}, choices: { [id]: choice } }),
      );
    else if (written)
      this.changeChoosers(
        written.choosers.map((one) => (one.id === id ? { ...one, chosen: choice } : one)),
        `${name} picked`,
      );
  }

  addTreatment(treatment: Treatment): void {
    const patchId = this.patch()?.id;
    if (!patchId) return;
    this.door.do(edits.treatmentAdded({ patchId, treatment }));
    this.added.note({ treatmentIds: [treatment.id] });
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
    this.added.note({ layerIds: Object.values(copyIds) });
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
}
