import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { PatternNote } from '@pentachord/core/model';

const WIDTH = 1000;
const HEIGHT = 60;

/** A whole track as one drawing, time east and pitch north, with the part of it that is chosen. */
@Component({
  selector: 'pc-track-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 1000 60" preserveAspectRatio="none" aria-hidden="true">
      <rect [attr.x]="part().x" [attr.width]="part().width" y="0" height="60" />
      <path [attr.d]="path()" />
    </svg>
  `,
  styles: `
    :host {
      display: block;
      height: 60px;
      background: var(--sheet);
      border: 1px solid var(--hairline);
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    rect {
      fill: #fbe9c6;
    }
    path {
      fill: none;
      stroke: var(--sea);
      stroke-width: 2px;
      vector-effect: non-scaling-stroke;
    }
  `,
})
export class TrackDrawing {
  readonly notes = input.required<readonly PatternNote[]>();
  /** Beats of the whole drawing. */
  readonly length = input.required<number>();
  /** Beats from which to which it is chosen. */
  readonly chosen = input.required<{ from: number; to: number }>();

  protected readonly part = computed(() => {
    const { from, to } = this.chosen();
    const x = (from / this.length()) * WIDTH;
    return { x, width: Math.min(WIDTH, (to / this.length()) * WIDTH) - x };
  });
  protected readonly path = computed(() => {
    const keys = this.notes().map(({ key }) => key);
    const low = keys.reduce((least, key) => Math.min(least, key), 127);
    const high = keys.reduce((most, key) => Math.max(most, key), 0);
    const line = (HEIGHT - 10) / Math.max(6, high - low);
    return this.notes()
      .map(({ beat, length, key }) => {
        const x = (beat / this.length()) * WIDTH;
        const wide = Math.max(1, (length / this.length()) * WIDTH);
        return `M${x.toFixed(1)} ${(HEIGHT - 5 - (key - low) * line).toFixed(1)}h${wide.toFixed(1)}`;
      })
      .join('');
  });
}
