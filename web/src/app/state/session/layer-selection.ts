import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import type { AppState } from '../reducers';
import { selectPatch, selectSession } from '../selectors';
import { session } from './session';

/** Which layers of the patch on the desk are selected. Views show it and ask it for changes. */
@Injectable({ providedIn: 'root' })
export class LayerSelection {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly patch = this.store.selectSignal(selectPatch);
  private readonly session = this.store.selectSignal(selectSession);

  /** The layer whose edges can be taken hold of: the one selected last. */
  readonly primary = computed(() => this.session().layerId);
  /** Every selected layer, that one included. */
  readonly ids = computed((): ReadonlySet<string> => new Set(this.session().layerIds));
  /** The selected layers in the order of the patch. */
  readonly layers = computed(
    () => this.patch()?.layers.filter(({ id }) => this.ids().has(id)) ?? [],
  );

  /** This one alone, or none. */
  only(layerId: string | null): void {
    if (layerId !== this.primary() || this.ids().size > 1)
      this.store.dispatch(session.layerSelected({ layerId }));
  }

  /** These; the last one becomes the primary. */
  set(layerIds: string[]): void {
    this.store.dispatch(session.layersSelected({ layerIds }));
  }

  /** This one too, or no longer. */
  toggle(layerId: string): void {
    const before = this.session().layerIds;
    this.set(
      before.includes(layerId) ? before.filter((id) => id !== layerId) : [...before, layerId],
    );
  }

  /** Everything between the primary and this one, which becomes the primary. */
  through(layerId: string): void {
    const ids = this.all();
    const from = Math.max(0, ids.indexOf(this.primary() ?? ''));
    const to = ids.indexOf(layerId);
    const between = ids.slice(Math.min(from, to), Math.max(from, to) + 1);
    this.set([...between.filter((id) => id !== layerId), layerId]);
  }

  /** This one becomes the primary: among those selected if it is one of them, else alone. */
  lead(layerId: string): void {
    if (!this.ids().has(layerId)) this.only(layerId);
    else this.set([...[...this.ids()].filter((id) => id !== layerId), layerId]);
  }

  everything(): void {
    this.set(this.all());
  }

  /** The layer above or below the primary, as the patch has them. */
  step(by: number): void {
    const ids = this.all();
    if (ids.length === 0) return;
    const at = ids.indexOf(this.primary() ?? '');
    this.only(ids[Math.min(ids.length - 1, Math.max(0, at + by))]);
  }

  /** The layers that something done to this one is done to: all selected ones if it is one of them. */
  with(layerId: string): string[] {
    return this.ids().has(layerId) ? [...this.ids()] : [layerId];
  }

  private all(): string[] {
    return this.patch()?.layers.map(({ id }) => id) ?? [];
  }
}
