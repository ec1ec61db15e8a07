import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { ControlTarget, Layer } from '@pentachord/core/model';
import { TOUCH_SHAPES, type Touch } from '@pentachord/core/touch';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { TodaysPlaying } from '../../live/hands/todays-playing';
import { PatchEditing } from '../../state/editing/patch-editing';
import { NumberField } from '../../ui/numbers/number-field';
import { TieButton } from './tie-button';
import { TouchCurve, type PlayedVelocity } from './touch-curve';

/** How a layer turns strength in into strength out: ready shapes, numbers, the curve, and the lift. */
@Component({
  selector: 'pc-touch-tab',
  imports: [NumberField, TieButton, TouchCurve],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="side">
      <div class="shapes" role="group" aria-label="Ready shapes of touch">
        @for (shape of shapes; track shape.name) {
          <button
            type="button"
            class="plain"
            [attr.aria-pressed]="isNow(shape.touch)"
            (click)="take(shape.touch)"
          >
            {{ shape.name }}
          </button>
        }
      </div>
      <div class="numbers">
        <span>strength in, from</span>
        <pc-number-field
          label="Lowest strength in"
          [value]="touch().inLow"
          [min]="1"
          [max]="touch().inHigh"
          (changed)="set({ inLow: $event.value }, $event.gesture)"
        />
        <span>to</span>
        <pc-number-field
          label="Highest strength in"
          [value]="touch().inHigh"
          [min]="touch().inLow"
          (changed)="set({ inHigh: $event.value }, $event.gesture)"
        />
        <span>strength out, from</span>
        <pc-number-field
          label="Lowest strength out"
          [value]="touch().outLow"
          [min]="1"
          (changed)="set({ outLow: $event.value }, $event.gesture)"
        />
        <span>to</span>
        <pc-number-field
          label="Highest strength out"
          [value]="touch().outHigh"
          [min]="1"
          (changed)="set({ outHigh: $event.value }, $event.gesture)"
        />
        <span>bend, softer above 0</span>
        <pc-number-field
          kind="percent"
          label="Bend in percent, softer above 0"
          [value]="touch().bend"
          [min]="-1"
          [max]="1"
          [step]="0.05"
          (changed)="set({ bend: $event.value }, $event.gesture)"
        />
        <span>%</span>
        <span></span>
        <span>softer than {{ touch().inLow }} is</span>
        <button
          type="button"
          class="plain two"
          [attr.aria-pressed]="touch().below === 'silent'"
          (click)="set({ below: touch().below === 'silent' ? 'hold' : 'silent' })"
        >
          {{ touch().below === 'silent' ? 'silent' : 'held at ' + touch().outLow }}
        </button>
      </div>
      <div class="lift">
        <b>Lift</b>
        <button
          type="button"
          class="plain"
          [attr.aria-pressed]="layer().lift.on"
          [attr.aria-label]="'Lift of ' + layer().name"
          (click)="lift({ on: !layer().lift.on })"
        >
          {{ layer().lift.on ? 'on' : 'off' }}
        </button>
        never softer than
        <pc-number-field
          label="Softest strength out while lifted"
          [value]="layer().lift.floor"
          [min]="1"
          (changed)="lift({ floor: $event.value }, $event.gesture)"
        />
        <pc-tie-button [target]="target()" [what]="'lift of ' + layer().name" />
        @if (liftedNow() !== layer().lift.on) {
          <span class="now" role="status">switched {{ liftedNow() ? 'on' : 'off' }} by hand</span>
        }
      </div>
    </div>
    <pc-touch-curve
      [touch]="touch()"
      [lift]="liftedNow() ? layer().lift.floor : null"
      [played]="played()"
      (changed)="set($event.touch, $event.gesture)"
    />
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(380px, 1fr) minmax(300px, 460px);
      gap: 16px;
      height: 100%;
      min-height: 0;
    }
    .side {
      display: grid;
      align-content: start;
      gap: 8px;
      overflow: auto;
    }
    .shapes {
      display: flex;
      flex-wrap: wrap;
      gap: 5px;
    }
    .shapes button {
      font-weight: 400;
      padding: 5px 9px;
    }
    [aria-pressed='true'] {
      background: var(--ink);
      border-color: var(--ink);
      color: #fff;
    }
    .numbers {
      display: grid;
      grid-template-columns: auto 52px auto 52px;
      align-items: center;
      justify-content: start;
      gap: 2px 8px;
    }
    .two {
      grid-column: span 3;
      justify-self: start;
      padding: 4px 8px;
    }
    .lift {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
    }
    .lift .plain {
      padding: 5px 9px;
    }
    .now {
      background: var(--lamp);
      border-radius: 4px;
      padding: 2px 6px;
    }
  `,
})
export class TouchTab {
  readonly layer = input.required<Layer>();
  private readonly editing = inject(PatchEditing);
  private readonly live = inject(Live);
  private readonly today = inject(TodaysPlaying);
  protected readonly shapes = TOUCH_SHAPES;
  protected readonly touch = computed(() => this.layer().touch);
  protected readonly target = computed<ControlTarget>(() => ({
    kind: 'layer',
    layerId: this.layer().id,
    parameter: 'lift',
  }));
  protected readonly played = signal<readonly PlayedVelocity[]>([]);
  /** Whether the lift is on as it is played, a control's switching included. */
  protected readonly liftedNow = signal(false);
  private seen = -1;

  constructor() {
    eachFrame(() => {
      this.liftedNow.set(this.live.isOn(this.target()));
      const { total } = this.today;
      if (total === this.seen) return;
      this.seen = total;
      this.played.set(this.today.velocities());
    });
  }

  protected isNow(touch: Touch): boolean {
    return JSON.stringify(touch) === JSON.stringify(this.touch());
  }

  protected take(touch: Touch): void {
    this.editing.changeLayer(this.layer().id, { touch });
  }

  protected set(changes: Partial<Touch>, gesture?: string): void {
    this.editing.changeLayer(
      this.layer().id,
      { touch: { ...this.touch(), ...changes } },
      gesture && `${gesture} touch`,
    );
  }

  protected lift(changes: Partial<Layer['lift']>, gesture?: string): void {
    const { id, lift } = this.layer();
    this.editing.changeLayer(id, { lift: { ...lift, ...changes } }, gesture);
  }
}
