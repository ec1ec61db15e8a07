import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';

/** Decibels below full scale at which the meter is empty. */
const FLOOR = -54;

/** How loud a layer sounds right now, read from the audio thread once a frame. */
@Component({
  selector: 'pc-level-meter',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span [style.width.%]="percent()"></span>`,
  styles: `
    :host {
      display: block;
      height: 5px;
      border-radius: 3px;
      color: var(--ink);
      background: #e3e6ec;
    }
    span {
      display: block;
      border-radius: inherit;
      height: 100%;
      background: currentColor;
    }
  `,
  host: {
    role: 'meter',
    'aria-valuemin': '0',
    'aria-valuemax': '100',
    '[attr.aria-valuenow]': 'percent()',
    '[attr.aria-label]': 'label()',
  },
})
export class LevelMeter {
  readonly layerId = input.required<string>();
  readonly name = input.required<string>();
  private readonly live = inject(Live);
  protected readonly percent = signal(0);
  protected readonly label = computed(() => `${this.name()} sounds at`);

  constructor() {
    eachFrame(() => {
      const strip = this.live.stage.stripOf(this.layerId());
      const peak = strip < 0 ? 0 : this.live.audio.meters[strip];
      const decibels = 20 * Math.log10(peak + 1e-9);
      this.percent.set(Math.round(Math.min(100, Math.max(0, (1 - decibels / FLOOR) * 100))));
    });
  }
}
