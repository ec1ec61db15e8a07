import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatChipsModule } from '@angular/material/chips';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import type { ControlTarget, Layer } from '@pentachord/core/model';
import { TOUCH_SHAPES, type Touch } from '@pentachord/core/touch';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { TodaysPlaying } from '../../live/hands/todays-playing';
import { PatchEditing } from '../../state/editing/patch-editing';
import { NumberField } from '../../ui/numbers/number-field';
import { TieButton } from '../../ui/ties/tie-button';
import { TouchCurve, type PlayedVelocity } from './touch-curve';

/** How a layer turns strength in into strength out: ready shapes, numbers, the curve, and the lift. */
@Component({
  selector: 'pc-touch-tab',
  imports: [
    MatButtonToggleModule,
    MatChipsModule,
    MatSlideToggleModule,
    NumberField,
    TieButton,
    TouchCurve,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="side">
      <mat-chip-listbox
        aria-label="Ready shapes of touch"
        [hideSingleSelectionIndicator]="true"
        [value]="shapeNow()"
        (change)="take($event.value)"
      >
        @for (shape of shapes; track shape.name) {
          <mat-chip-option [value]="shape.name">{{ shape.name }}</mat-chip-option>
        }
      </mat-chip-listbox>
      <div class="numbers">
        <span>velocity in, from</span>
        <pc-number-field
          label="Lowest velocity in"
          [value]="touch().inLow"
          [min]="1"
          [max]="touch().inHigh"
          (changed)="set({ inLow: $event.value }, $event.gesture)"
        />
        <span>to</span>
        <pc-number-field
          label="Highest velocity in"
          [value]="touch().inHigh"
          [min]="touch().inLow"
          (changed)="set({ inHigh: $event.value }, $event.gesture)"
        />
        <span>velocity out, from</span>
        <pc-number-field
          label="Lowest velocity out"
          [value]="touch().outLow"
          [min]="1"
          (changed)="set({ outLow: $event.value }, $event.gesture)"
        />
        <span>to</span>
        <pc-number-field
          label="Highest velocity out"
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
        <mat-button-toggle-group
          class="two"
          [hideSingleSelectionIndicator]="true"
          [aria-label]="'What is softer than ' + touch().inLow"
          [value]="touch().below"
          (change)="set({ below: $event.value })"
        >
          <mat-button-toggle value="hold">held at {{ touch().outLow }}</mat-button-toggle>
          <mat-button-toggle value="silent">silent</mat-button-toggle>
        </mat-button-toggle-group>
      </div>
      <div class="lift">
        <mat-slide-toggle
          hideIcon
          [checked]="layer().lift.on"
          [aria-label]="'Lift of ' + layer().name"
          (change)="lift({ on: $event.checked })"
          >Lift</mat-slide-toggle
        >
        never softer than
        <pc-number-field
          label="Lowest velocity out while lifted"
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
    }
    .lift {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
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
  /** Name of the ready shape that the touch has; null when it has a shape of its own. */
  protected readonly shapeNow = computed(() => {
    const now = JSON.stringify(this.touch());
    return TOUCH_SHAPES.find(({ touch }) => JSON.stringify(touch) === now)?.name ?? null;
  });
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
      this.liftedNow.set(this.live.runner.isOn(this.target()));
      const { total } = this.today;
      if (total === this.seen) return;
      this.seen = total;
      this.played.set(this.today.velocities());
    });
  }

  protected take(name: string | undefined): void {
    const shape = TOUCH_SHAPES.find((s) => s.name === name);
    if (shape) this.editing.changeLayer(this.layer().id, { touch: shape.touch });
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
