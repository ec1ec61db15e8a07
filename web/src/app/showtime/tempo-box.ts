import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { countInBar, type LeadingState } from '@pentachord/core/clock';
import type { Metre } from '@pentachord/core/model';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { Tip } from '../ui/tips/tip';

/** The tempo that is kept, by whom, and the beats of a bar going by on the show’s clock. It can be tapped, counted in and heard. */
@Component({
  selector: 'pc-tempo-box',
  imports: [MatButtonModule, Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="tempo">
      <strong class="mono" data-testid="tempo">{{ tempo() }}</strong>
      <span>{{ metre().beats }}/{{ metre().unit }}</span>
      <span class="beats" aria-hidden="true" [class.in]="countsIn()">
        @for (beat of beats(); track beat) {
          <i [class.now]="beat === now()"></i>
        }
      </span>
    </span>
    <span class="who" [class.lost]="leading() === 'lost'" role="status" data-testid="keeper">{{
      keeper()
    }}</span>
    <span class="deeds">
      <button
        type="button"
        matButton="outlined"
        pcTip="Tap the tempo: T"
        [disabled]="leading() === 'following'"
        (pointerdown)="order('tapTempo')"
        (keydown.enter)="order('tapTempo')"
        (keydown.space)="order('tapTempo')"
      >
        Tap
      </button>
      <button
        type="button"
        matButton="outlined"
        pcTip="Count in, and start who follows: C"
        (click)="order('countIn')"
      >
        Count in
      </button>
      <button
        type="button"
        matButton="outlined"
        pcTip="The click by sound: M"
        [class.on]="clicks()"
        [attr.aria-pressed]="clicks()"
        (click)="order('click')"
      >
        Click
      </button>
    </span>
  `,
  styles: `
    :host {
      display: grid;
      justify-items: center;
      align-content: center;
      gap: 4px;
      width: 350px;
      padding: 6px 12px;
      border: 2px solid var(--line-on-night);
      border-radius: 8px;
      font-size: 18px;
    }
    .tempo {
      display: flex;
      align-items: center;
      gap: 12px;
    }
    strong {
      font-size: 52px;
      line-height: 1;
      color: var(--now);
      min-width: 3ch;
      text-align: right;
    }
    .who {
      min-height: 22px;
      line-height: 22px;
      color: var(--soft);
      white-space: nowrap;
      max-width: 100%;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .lost {
      color: var(--alarm-on-night);
    }
    .beats {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      max-width: 132px;
    }
    i {
      width: 28px;
      height: 16px;
      border-radius: 3px;
      background: var(--line-on-night);
    }
    .now {
      background: var(--now);
    }
    .in .now {
      background: var(--words-on-night);
    }
    .deeds {
      display: flex;
      gap: 8px;
    }
    .on {
      --mat-button-outlined-label-text-color: var(--night);
      background: var(--now);
    }
  `,
})
export class TempoBox {
  readonly metre = input.required<Metre>();
  /** As it is written, which is shown while this window does not play. */
  readonly written = input.required<number>();
  private readonly live = inject(Live);
  private readonly clock = this.live.player.clock;
  protected readonly tempo = signal(0);
  protected readonly leading = signal<LeadingState>('nobody leads');
  protected readonly countsIn = signal(false);
  protected readonly clicks = signal(false);
  protected readonly now = signal(0);
  private readonly left = signal(0);
  private readonly leader = signal('');
  protected readonly beats = computed(() =>
    Array.from({ length: this.metre().beats }, (_, beat) => beat),
  );
  protected readonly keeper = computed(() => {
    if (this.countsIn()) return `counting in: ${this.left()}`;
    switch (this.leading()) {
      case 'nobody leads':
        return 'own clock';
      case 'waiting':
        return `waiting for ${this.leader()}`;
      case 'following':
        return `following ${this.leader()}`;
      case 'lost':
        return `${this.leader()} is silent: going on`;
    }
  });

  constructor() {
    eachFrame(() => {
      const { clock } = this;
      const { timekeeping } = this.live;
      timekeeping.leading.look();
      const beats = clock.beatsInBars;
      const tempo = this.live.isOpen ? clock.tempo : this.written();
      this.tempo.set(Math.round(tempo * 10) / 10);
      this.leading.set(timekeeping.leading.now);
      this.leader.set(timekeeping.leading.leader ?? '');
      this.countsIn.set(timekeeping.countsIn);
      this.left.set(Math.ceil((-beats * this.metre().unit) / 4));
      this.clicks.set(timekeeping.metronome.isOn);
      this.now.set(countInBar(beats, this.metre()));
    });
  }

  protected order(press: 'tapTempo' | 'countIn' | 'click'): void {
    this.live.order((orders) => orders.press(press));
  }
}
