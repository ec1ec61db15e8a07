import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { countInBar } from '@pentachord/core/clock';
import type { Metre } from '@pentachord/core/model';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';

/** The tempo, and the beats of a bar going by on the show’s clock. */
@Component({
  selector: 'pc-tempo-box',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <strong class="mono">{{ tempo() }}</strong>
    <span>{{ metre().beats }}/{{ metre().unit }}</span>
    <span class="beats" aria-hidden="true">
      @for (beat of beats(); track beat) {
        <i [class.now]="beat === now()"></i>
      }
    </span>
  `,
  styles: `
    :host {
      display: grid;
      justify-items: center;
      align-content: center;
      gap: 6px;
      min-width: 210px;
      padding: 10px 20px;
      border: 2px solid #24324b;
      border-radius: 8px;
      font-size: 18px;
    }
    strong {
      font-size: 56px;
      line-height: 1;
      color: var(--lamp);
    }
    .beats {
      display: flex;
      gap: 8px;
    }
    i {
      width: 30px;
      height: 12px;
      border-radius: 3px;
      background: #24324b;
    }
    .now {
      background: var(--lamp);
    }
  `,
})
export class TempoBox {
  /** Beats per minute. */
  readonly tempo = input.required<number>();
  readonly metre = input.required<Metre>();
  protected readonly beats = computed(() =>
    Array.from({ length: this.metre().beats }, (_, beat) => beat),
  );
  protected readonly now = signal(0);
  private readonly clock = inject(Live).player.clock;

  constructor() {
    eachFrame(() => this.now.set(countInBar(this.clock.beatsInBars, this.metre())));
  }
}
