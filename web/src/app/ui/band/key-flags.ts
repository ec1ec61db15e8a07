import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';

/** A name over a key. */
export interface KeyFlag {
  id: string;
  key: number;
  name: string;
  colour: string;
  /** It plays, or it waits for its beat. */
  state: 'plays' | 'waits' | 'rests';
}

/** Rows over one another on which flags stand, so that names of neighbours do not cover one another. */
const ROWS = 4;

/** Names of what keys start, as flags over the keys of a keyboard. */
@Component({
  selector: 'pc-key-flags',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (flag of placed(); track flag.id) {
      <i [style.left.%]="flag.x" [style.height.px]="flag.stem" [style.background]="flag.colour"></i>
      <button
        type="button"
        matButton
        [class.plays]="flag.state === 'plays'"
        [class.waits]="flag.state === 'waits'"
        [style.left.%]="flag.x"
        [style.bottom.px]="flag.stem"
        [style.border-color]="flag.colour"
        [style.--mat-button-text-label-text-color]="
          flag.state === 'plays' ? 'var(--ink)' : flag.colour
        "
        (click)="chosen.emit(flag.id)"
      >
        {{ flag.name }}
      </button>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      height: 112px;
      overflow: hidden;
    }
    i {
      position: absolute;
      bottom: 0;
      width: 1px;
    }
    button {
      pointer-events: auto;
      --mat-button-text-container-height: 22px;
      --mat-button-text-horizontal-padding: 6px;
      --mat-button-text-label-text-size: 12px;
      position: absolute;
      min-width: 24px;
      margin-left: -1px;
      border: 1px solid;
      border-radius: 3px;
      background: var(--sheet);
      white-space: nowrap;
    }
    .plays {
      background: var(--lamp);
    }
    .waits {
      border-style: dashed;
    }
  `,
})
export class KeyFlags {
  readonly flags = input.required<readonly KeyFlag[]>();
  readonly lowestKey = input.required<number>();
  readonly highestKey = input.required<number>();
  readonly chosen = output<string>();

  protected readonly placed = computed(() => {
    const span = this.highestKey() - this.lowestKey() + 1;
    return [...this.flags()]
      .sort((a, b) => a.key - b.key)
      .map((flag, i) => ({
        ...flag,
        x: ((flag.key - this.lowestKey() + 0.5) / span) * 100,
        stem: 4 + (i % ROWS) * 26,
      }));
  });
}
