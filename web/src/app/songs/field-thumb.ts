import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Patch } from '@pentachord/core/model';
import { layerMark } from '../ui/layer-colours';

/** Keys that a thumbnail shows: those of a piano. */
const LOWEST = 21;
const HIGHEST = 108;

/** A patch's field, small: keys east, strengths north, one outline a layer; what is muted is faint. */
@Component({
  selector: 'pc-field-thumb',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 88 44" preserveAspectRatio="none" aria-hidden="true">
      @for (area of areas(); track area.id) {
        <rect
          [attr.x]="area.x"
          [attr.y]="area.y"
          [attr.width]="area.width"
          [attr.height]="area.height"
          [attr.fill]="area.colour"
          [attr.stroke]="area.colour"
          [attr.fill-opacity]="area.muted ? 0.03 : 0.14"
          [attr.stroke-opacity]="area.muted ? 0.3 : 1"
          vector-effect="non-scaling-stroke"
        />
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      height: 100%;
      background: repeating-linear-gradient(90deg, #fff 0 3px, #f3f4f7 3px 4px);
      border: 1px solid var(--hairline);
    }
  `,
})
export class FieldThumb {
  readonly patch = input.required<Patch>();
  protected readonly areas = computed(() =>
    this.patch().layers.map(({ id, keys, velocities, muted }, index) => {
      const low = Math.max(LOWEST, keys.low);
      const high = Math.min(HIGHEST, keys.high);
      return {
        id,
        muted,
        colour: layerMark(index).day,
        x: low - LOWEST,
        width: Math.max(0, high - low + 1),
        y: ((127 - velocities.high) / 127) * 44,
        height: ((velocities.high - velocities.low + 1) / 127) * 44,
      };
    }),
  );
}
