import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** A note as it is drawn. */
export interface PenStroke {
  /** Its place in the list of notes. */
  at: number;
  path: string;
  isOut: boolean;
  /** No sound is made for it there. */
  isBeyond: boolean;
}

/** Notes as strokes of a pen. Apart from the chart, so that thousands are not looked at again while a hand drags some. */
@Component({
  selector: 'g[pcPenStrokes]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (stroke of strokes(); track stroke.at) {
      <svg:path
        [attr.d]="stroke.path"
        [attr.data-note]="stroke.at"
        [class.out]="stroke.isOut"
        [class.beyond]="stroke.isBeyond"
        [attr.fill]="colour()"
      />
    }
  `,
  styles: `
    path {
      cursor: var(--note-cursor, default);
      vector-effect: non-scaling-stroke;
    }
    .out {
      stroke: var(--alarm);
      stroke-width: 1.5px;
    }
    /* An empty outline. */
    .beyond {
      fill: none;
      stroke: var(--alarm);
      stroke-width: 1.5px;
      stroke-dasharray: 3 2;
      pointer-events: all;
    }
    :host(.chosen) path {
      pointer-events: all;
      stroke: var(--ink);
      stroke-width: 2px;
    }
  `,
})
export class PenStrokes {
  readonly strokes = input.required<readonly PenStroke[]>();
  readonly colour = input.required<string>();
}
