import { inject, Injectable } from '@angular/core';
import type { Layer } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { PatchEditing } from '../state/editing/patch-editing';
import type { AppState } from '../state/reducers';
import { selectKeyboard } from '../state/selectors';
import { LayerSelection } from '../state/session/layer-selection';

/** The layers that ranges are made of: the selected ones, else all that the keyboard shown plays. */
@Injectable({ providedIn: 'root' })
export class ArrangedLayers {
  private readonly editing = inject(PatchEditing);
  private readonly selection = inject(LayerSelection);
  private readonly keyboard = inject<Store<AppState>>(Store).selectSignal(selectKeyboard);

  /** As they are now. */
  all(): readonly Layer[] {
    const selected = this.selection.layers();
    if (selected.length > 0) return selected;
    const keyboard = this.keyboard();
    const all = this.editing.patch()?.layers ?? [];
    return all.filter(
      ({ keyboards }) =>
        keyboards === 'any' || (keyboard !== null && keyboards.includes(keyboard.place)),
    );
  }
}
