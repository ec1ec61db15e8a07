import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Coverage } from '@pentachord/core/coverage';
import { layerMark } from '../../ui/layer-colours';

/** Rows drawn at the least and at the most; what is stacked higher is told by the ledger. */
const FEWEST_ROWS = 3;
const MOST_ROWS = 8;

/** Who answers each key: one stroke a layer, an empty red box where nobody does. */
@Component({
  selector: 'pc-coverage-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <!-- Lengths are shares of the whole: with a scale of its own everything would be put together anew for every stroke. -->
    <svg aria-hidden="true">
      <rect class="ground" width="100%" height="100%" />
      @for (run of runs(); track $index) {
        <rect
          [attr.x]="across(run.x)"
          [attr.y]="down(run.y)"
          [attr.width]="across(run.width)"
          [attr.height]="down(0.8)"
          [attr.fill]="run.colour"
        />
      }
      @for (x of silent(); track x) {
        <rect
          class="silent"
          [attr.x]="across(x + 0.08)"
          [attr.y]="down(0.4)"
          [attr.width]="across(0.84)"
          [attr.height]="down(rows() - 0.8)"
        />
      }
    </svg>
  `,
  styles: `
    :host,
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    /* As long as all of it is painted, however little, browsers need not think about it anew for every stroke. */
    .ground {
      fill: var(--chart);
    }
    .silent {
      fill: #fff;
      stroke: var(--alarm);
      stroke-width: 1.5;
    }
  `,
})
export class CoverageStrip {
  readonly coverage = input.required<Coverage>();
  protected readonly rows = computed(() => {
    const stacked = Math.max(...this.coverage().keys.map((k) => k.layers.length));
    return Math.min(MOST_ROWS, Math.max(FEWEST_ROWS, stacked));
  });

  protected readonly runs = computed(() => {
    const { keys, ground } = this.coverage();
    const runs: { x: number; y: number; width: number; colour: string; layer: number }[] = [];
    for (const { key, layers } of keys) {
      const x = key - ground.keys.low;
      layers.slice(0, MOST_ROWS).forEach((layer, place) => {
        const y = this.rows() - 1 - place + 0.2;
        const before = runs.find((r) => r.layer === layer && r.y === y && r.x + r.width === x);
        if (before) before.width++;
        else runs.push({ x, y, width: 1, layer, colour: layerMark(layer).day });
      });
    }
    return runs;
  });
  /** Keys, and rows, as shares of the drawing. */
  protected across(keys: number): string {
    return `${(100 * keys) / this.coverage().keys.length}%`;
  }

  protected down(rows: number): string {
    return `${(100 * rows) / this.rows()}%`;
  }

  protected readonly silent = computed(() => {
    const { keys, ground } = this.coverage();
    return keys
      .filter((k) => k.layers.length === 0 && !k.starts)
      .map((k) => k.key - ground.keys.low);
  });
}
