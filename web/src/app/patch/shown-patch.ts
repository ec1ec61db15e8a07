import {
  computed,
  effect,
  inject,
  Injectable,
  linkedSignal,
  signal,
  type Signal,
} from '@angular/core';
import { coverage, groundOf, type Remark } from '@pentachord/core/coverage';
import { layersHearing, soundingByKey } from '@pentachord/core/routing';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { selectBudget, selectCost } from '../state/machine/selectors';
import type { AppState } from '../state/reducers';
import { selectCompiled, selectKeyboard } from '../state/selectors';
import { PatchDesk } from './patch-desk';

/** Remarks that have a tag on the field at one time. */
const MOST_TAGS = 8;

/** The patch as it lies over the keyboard that is shown. */
@Injectable()
export class ShownPatch {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly desk = inject(PatchDesk);
  /** The remarks, once what finds them is there; the field and the ledger do not wait for it. */
  private readonly found = signal<Signal<readonly Remark[]> | null>(null);
  private readonly remarks = this.desk.calm.following(computed(() => this.found()?.() ?? []));
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
  /** The patch where it has a band; null for none. */
  readonly withBand = computed(() => {
    const compiled = this.compiled();
    return compiled && compiled.band.accompanists.length > 0 ? compiled : null;
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
    return new Set(
      keys.filter(({ layers, starts }) => layers.length === 0 && !starts).map(({ key }) => key),
    );
  });

  /** True while something sounds. */
  private readonly sounds = signal(false);
  /**
   * Whether the line of remarks is there: with none it is not. While one plays it neither comes nor goes, so that the field does not
   * jump.
   */
  readonly hasRemarks = linkedSignal<{ any: boolean; frozen: boolean }, boolean>({
    source: () => ({ any: this.remarks().length > 0, frozen: this.sounds() }),
    computation: ({ any, frozen }, before) => (frozen && before ? before.value : any),
  });

  constructor() {
    const { audio } = inject(Live);
    eachFrame(() => this.sounds.set(audio.voices > 0));
    const fetching = effect(() => {
      if (!this.compiled()) return;
      fetching.destroy();
      void import('../state/machine/remarks.selectors').then(({ selectRemarks }) =>
        this.found.set(this.store.selectSignal(selectRemarks)),
      );
    });
  }
}
