import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import type { Metre } from '@pentachord/core/model';
import { eachFrame } from '../live/frames';

/** The tempo, and the beats of a bar going by from the moment the cue was reached. */
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
  /** Changes with every cue; the count begins anew with it. */
  readonly from = input.required<string | null>();
  protected readonly beats = computed(() =>
    Array.from({ length: this.metre().beats }, (_, beat) => beat),
  );
  protected readonly now = signal(0);
  private since = performance.now();
  private counted: string | null = null;

  constructor() {
    eachFrame(() => {
      if (this.from() !== this.counted) {
        this.counted = this.from();
        this.since = performance.now();
      }
      const gone = ((performance.now() - this.since) / 60_000) * this.tempo();
      this.now.set(Math.floor(gone) % this.metre().beats);
    });
  }
}
