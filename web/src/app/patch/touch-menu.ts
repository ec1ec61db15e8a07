import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { touchInWords, type Touch } from '@pentachord/core/touch';
import { NumberField } from '../ui/number-field';

/** The numbers of a layer's touch, opened from its word in the ledger. */
@Component({
  selector: 'pc-touch-menu',
  imports: [MatMenuModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      class="word"
      [matMenuTriggerFor]="menu"
      [attr.aria-label]="'Touch of ' + name() + ': ' + word()"
    >
      {{ word() }}
    </button>
    <mat-menu #menu="matMenu">
      <!-- The menu holds numbers, not choices: keys and clicks in it must not close it. -->
      <div
        class="numbers"
        role="group"
        aria-label="Touch"
        tabindex="-1"
        (click)="$event.stopPropagation()"
        (keydown)="keepOpen($event)"
      >
        <span>in</span>
        <pc-number-field
          label="Lowest strength in"
          [value]="touch().inLow"
          [min]="1"
          [max]="touch().inHigh"
          (changed)="set('inLow', $event.value)"
        />
        <pc-number-field
          label="Highest strength in"
          [value]="touch().inHigh"
          [min]="touch().inLow"
          (changed)="set('inHigh', $event.value)"
        />
        <span>out</span>
        <pc-number-field
          label="Lowest strength out"
          [value]="touch().outLow"
          [min]="1"
          (changed)="set('outLow', $event.value)"
        />
        <pc-number-field
          label="Highest strength out"
          [value]="touch().outHigh"
          [min]="1"
          (changed)="set('outHigh', $event.value)"
        />
        <span>bend</span>
        <pc-number-field
          label="Bend in percent, softer above 0"
          kind="signed"
          [value]="bend()"
          [min]="-100"
          [max]="100"
          [chars]="5"
          (changed)="set('bend', $event.value / 100)"
        />
        <span></span>
        <span class="wide">below {{ touch().inLow }}:</span>
        <button
          type="button"
          class="plain wide"
          [attr.aria-pressed]="touch().below === 'silent'"
          (click)="set('below', touch().below === 'silent' ? 'hold' : 'silent')"
        >
          {{ touch().below === 'silent' ? 'silent' : 'held at ' + touch().outLow }}
        </button>
      </div>
    </mat-menu>
  `,
  styles: `
    .word {
      font: 400 13px/1.2 var(--words);
      color: inherit;
      background: none;
      border: 1px solid transparent;
      border-radius: 4px;
      padding: 4px 3px;
      cursor: pointer;
      text-align: left;
      white-space: nowrap;
    }
    .word:hover {
      border-color: #8792a5;
    }
    .numbers {
      display: grid;
      grid-template-columns: auto 1fr 1fr;
      align-items: center;
      gap: 4px 10px;
      padding: 4px 14px 8px;
      outline: none;
    }
    .wide {
      grid-column: span 2;
    }
  `,
})
export class TouchMenu {
  readonly touch = input.required<Touch>();
  readonly name = input.required<string>();
  readonly changed = output<Touch>();
  protected readonly word = computed(() => touchInWords(this.touch()));
  protected readonly bend = computed(() => Math.round(this.touch().bend * 100));

  protected set<P extends keyof Touch>(part: P, value: Touch[P]): void {
    this.changed.emit({ ...this.touch(), [part]: value });
  }

  protected keepOpen(event: KeyboardEvent): void {
    if (event.key !== 'Escape') event.stopPropagation();
  }
}
