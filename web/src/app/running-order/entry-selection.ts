import { computed, inject, Injectable, linkedSignal, signal } from '@angular/core';
import { SelectionModel } from '@angular/cdk/collections';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import { selectShow, selectShowId } from '../state/selectors';

/** Which places of the running order are selected. The last one is the one whose night is shown beside. */
@Injectable()
export class EntrySelection {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly show = this.store.selectSignal(selectShow);
  private readonly showId = this.store.selectSignal(selectShowId);
  private readonly model = linkedSignal({
    // Another show has other places; the same one changed has those that are left.
    source: this.showId,
    computation: () => [] as readonly string[],
  });

  /** Those that are still there, in the order of the night. */
  readonly ids = computed((): ReadonlySet<string> => {
    const chosen = new SelectionModel<string>(true, [...this.model()]);
    const order = this.show()?.order ?? [];
    return new Set(order.map(({ id }) => id).filter((id) => chosen.isSelected(id)));
  });
  readonly primary = computed(() => {
    const last = this.model().at(-1) ?? null;
    return last !== null && this.ids().has(last) ? last : null;
  });

  private readonly length = signal<string | null>(null);
  /** The place whose length is to be said next; null for none. */
  readonly wantsLength = this.length.asReadonly();

  /** Selects a place to say how long it is. */
  chooseLength(id: string): void {
    this.only(id);
    this.length.set(id);
  }

  /** The caret is in its length. */
  lengthChosen(): void {
    this.length.set(null);
  }

  only(id: string | null): void {
    this.model.set(id === null ? [] : [id]);
  }

  toggle(id: string): void {
    const chosen = this.model();
    this.model.set(chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id]);
  }

  /** Everything between the primary and this one, which becomes the primary. */
  through(id: string): void {
    const ids = this.show()?.order.map((entry) => entry.id) ?? [];
    const from = Math.max(0, ids.indexOf(this.primary() ?? ''));
    const to = ids.indexOf(id);
    const between = ids.slice(Math.min(from, to), Math.max(from, to) + 1);
    this.model.set([...between.filter((one) => one !== id), id]);
  }

  /** What something done to this one is done to: all selected ones if it is one of them. */
  with(id: string): ReadonlySet<string> {
    return this.ids().has(id) ? this.ids() : new Set([id]);
  }
}
