import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { behindPlan, type PlannedStep } from '@pentachord/core/setlist';
import { clockTime } from '@pentachord/core/units';
import { NightDesk } from '../state/session/night-desk';

/** Seconds by which one may be off before it is told. */
const ON_TIME = 5;

/** How long the show has been played, and how far it is behind its plan or ahead of it. */
@Component({
  selector: 'pc-night-clock',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (elapsed(); as time) {
      <b class="mono" data-testid="elapsed">{{ time.words }}</b>
      <span class="mono" [class.late]="time.isLate" data-testid="plan">{{ time.plan }}</span>
    } @else if (here() === '') {
      <button type="button" matButton="outlined" (click)="desk.begin()">Begin the show</button>
    } @else {
      <button type="button" matButton="outlined" [matMenuTriggerFor]="from">Begin the show</button>
      <mat-menu #from="matMenu">
        <ng-template matMenuContent>
          <button mat-menu-item (click)="beginAtFirst()">From the first song</button>
          <button mat-menu-item (click)="desk.begin(planned()?.from)">
            From here: {{ here() }}
          </button>
        </ng-template>
      </mat-menu>
    }
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 10px;
      /* The room is kept, whatever is told in it. */
      min-width: 21ch;
      min-height: 48px;
      color: var(--soft);
    }
    b {
      color: var(--words-on-night);
      font-size: 22px;
    }
    .late {
      color: var(--alarm-on-night);
    }
  `,
})
export class NightClock {
  /** When the present step is planned; null while there is none. */
  readonly planned = input.required<PlannedStep | null>();
  /** Where the player stands, by name; empty at the first place of the night. */
  readonly here = input('');
  /** The first place of the night is wanted. */
  readonly firstWanted = output();
  protected readonly desk = inject(NightDesk);
  private readonly now = signal(Date.now());

  protected readonly elapsed = computed(() => {
    const { begunAt } = this.desk.night();
    if (begunAt === null) return null;
    const elapsed = Math.max(0, (this.now() - begunAt) / 1000);
    const planned = this.planned();
    const behind = planned ? behindPlan(planned, elapsed) : 0;
    const size = clockTime(Math.abs(behind));
    const plan =
      Math.abs(behind) < ON_TIME ? 'on time' : behind > 0 ? `${size} behind` : `${size} ahead`;
    return { words: clockTime(elapsed), plan, isLate: behind >= 60 };
  });

  protected beginAtFirst(): void {
    this.firstWanted.emit();
    this.desk.begin();
  }

  constructor() {
    const timer = setInterval(() => this.now.set(Date.now()), 500);
    inject(DestroyRef).onDestroy(() => clearInterval(timer));
  }
}
