import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatSliderModule } from '@angular/material/slider';
import { NumberField } from './number-field';
import type { NumberKind } from './number-text';

/** A setting with its name, a slider, and its number with the unit. What is projected stands at the end of the line. */
@Component({
  selector: 'pc-amount',
  imports: [MatSliderModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="name" aria-hidden="true">{{ name() }}</span>
    <mat-slider [min]="min()" [max]="max()" [step]="step()">
      <input
        matSliderThumb
        [attr.aria-label]="label() + ', slider'"
        [value]="value()"
        (pointerdown)="gesture = begin()"
        (focus)="gesture = begin()"
        (valueChange)="changed.emit({ value: $event, gesture })"
        (keydown)="$event.stopPropagation()"
      />
    </mat-slider>
    <span class="number">
      <pc-number-field
        [kind]="kind()"
        [label]="label()"
        [value]="value()"
        [min]="min()"
        [max]="max()"
        [step]="step()"
        [chars]="chars()"
        (changed)="changed.emit($event)"
      />
      <span class="unit">{{ unit() }}</span>
    </span>
    <span class="end"><ng-content /></span>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(64px, 86px) minmax(36px, 1fr) 88px var(--amount-end, auto);
      align-items: center;
      gap: 8px;
      min-height: 26px;
    }
    .name {
      color: var(--ink-soft);
      font-size: 13px;
    }
    mat-slider {
      width: auto;
      min-width: 0;
      /* As high as Material draws it, so that the handle lies on its line; what reaches into the lines beside is cut, to the
         hand too. */
      height: 48px;
      margin: -11px 6px;
      clip-path: inset(11px -12px);
    }
    .unit {
      font: 400 12px/1 var(--mono);
    }
    .end {
      min-width: 0;
      justify-self: end;
      max-width: 100%;
    }
  `,
})
export class Amount {
  /** Short name on screen. */
  readonly name = input.required<string>();
  /** Whole name for those who cannot see where it stands. */
  readonly label = input.required<string>();
  readonly value = input.required<number>();
  readonly min = input.required<number>();
  readonly max = input.required<number>();
  readonly step = input(1);
  readonly kind = input<NumberKind>('signed');
  readonly unit = input('');
  readonly chars = input(5);
  readonly changed = output<{ value: number; gesture: string }>();
  protected gesture = '';

  protected begin(): string {
    return crypto.randomUUID();
  }
}
