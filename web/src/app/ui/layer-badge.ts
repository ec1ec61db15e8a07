import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { layerLetter } from '@pentachord/core/model';
import { layerMark } from './layer-colours';

/** The letter of a layer on its colour. */
@Component({
  selector: 'pc-layer-badge',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `{{ letter() }}`,
  styles: `
    :host {
      display: inline-grid;
      place-items: center;
      min-width: 22px;
      height: 22px;
      padding: 0 4px;
      border-radius: 4px;
      color: #fff;
      font: 700 13px/1 var(--words);
    }
  `,
  host: { '[style.background]': 'mark().day' },
})
export class LayerBadge {
  /** Place of the layer in its patch. */
  readonly index = input.required<number>();
  protected readonly mark = computed(() => layerMark(this.index()));
  protected readonly letter = computed(() => layerLetter(this.index()));
}
