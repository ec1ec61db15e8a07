import { computed, inject, Injectable, linkedSignal, untracked } from '@angular/core';
import { coverage, groundOf } from '@pentachord/core/coverage';
import { layersHearing, soundingByKey } from '@pentachord/core/routing';
import { Store } from '@ngrx/store';
import {
  selectBudget,
  selectCost,
  selectRemarks,
  selectResponses,
} from '../state/machine/selectors';
import type { AppState } from '../state/reducers';
import {
  selectCompiled,
  selectDevices,
  selectKeyboard,
  selectWrittenPatch,
} from '../state/selectors';
import { PatchDesk } from './patch-desk';

/** Remarks that have a tag on the field at one time. */
const MOST_TAGS = 8;

/** The patch as it lies over the keyboard that is shown. */
@Injectable()
export class ShownPatch {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly desk = inject(PatchDesk);
  private readonly remarks = this.desk.calm.following(this.store.selectSignal(selectRemarks));
  private readonly cost = this.desk.calm.following(this.store.selectSignal(selectCost));
  private readonly budget = this.store.selectSignal(selectBudget);
  readonly compiled = this.desk.calm.following(this.store.selectSignal(selectCompiled));
  readonly keyboard = this.store.selectSignal(selectKeyboard);

  /** Share of the budget by layer. */
  readonly costs = computed(
    () => new Map([...(this.cost()?.layers ?? [])].map(([id, cost]) => [id, cost / this.budget()])),
  );
  /** Remarks that have a place on the field shown. Silent ground is drawn there anyway. */
  readonly placedRemarks = computed(() =>
    this.remarks()
      .filter(
        ({ keyboardId, where, kind }) =>
          where && keyboardId === this.keyboard()?.id && !kind.startsWith('silent'),
      )
      .slice(0, MOST_TAGS),
  );
  /** What each key would sound on the layer whose transposition is under the hand; null for none. */
  readonly soundingKeys = computed(() => {
    const keyboard = this.keyboard();
    const wanted = this.desk.transposing()?.layerId;
    const layer = this.compiled()?.layers.find(({ id }) => id === wanted);
    return layer && keyboard ? soundingByKey(layer, groundOf(keyboard).keys) : null;
  });
  readonly coverage = computed(() => {
    const compiled = this.compiled();
    const keyboard = this.keyboard();
    if (!compiled || !keyboard) return null;
    const found = coverage(compiled, keyboard);
    // Before there is a first sound, silence is no mistake to be marked.
    return compiled.layers.length > 0 ? found : { ...found, keys: [], silent: [] };
  });
  /** Layers that hear the keyboard. */
  readonly present = computed(() => {
    const compiled = this.compiled();
    const keyboard = this.keyboard();
    const here = compiled && keyboard ? layersHearing(compiled, keyboard) : [];
    return new Set(here.map(({ id }) => id));
  });
  /** Keys on which nothing answers. */
  readonly dimmed = computed(() => {
    const keys = this.coverage()?.keys ?? [];
    return new Set(keys.filter(({ layers }) => layers.length === 0).map(({ key }) => key));
  });

  private readonly written = this.desk.calm.following(this.store.selectSignal(selectWrittenPatch));
  private readonly rig = this.store.selectSignal(selectDevices);
  private readonly responses = this.store.selectSignal(selectResponses);
  /**
   * Whether the line of remarks has its room: there was something to remark when the patch or the rig changed last, or the loudness of
   * a sound was not known yet. While one plays and listens it neither comes nor goes, so that the field does not jump.
   */
  readonly hasRemarks = linkedSignal({
    source: () => ({ patch: this.written(), rig: this.rig() }),
    computation: () =>
      untracked(() => {
        const known = this.responses();
        const layers = this.compiled()?.layers ?? [];
        return this.remarks().length > 0 || layers.some((one) => !known.has(one.loudnessKey));
      }),
  });
}
