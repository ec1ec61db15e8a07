import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatSliderModule } from '@angular/material/slider';
import { FollowedClock, IncomingClock, TICKS_PER_BEAT } from '@pentachord/core/clock';
import {
  CONTINUE_CLOCK,
  songPosition,
  START_CLOCK,
  STOP_CLOCK,
  TIMING_CLOCK,
} from '@pentachord/core/midi';
import { eachFrame } from '../live/frames';
import { STAND_IN_CLOCK, STAND_IN_FOLLOWER, StandInCable } from '../live/ports/cable';

/** Seconds by which ticks are sent ahead of their time. */
const AHEAD = 0.06;
/** Milliseconds between two looks at what is due. */
const PERIOD = 15;
/** Sixteenths in a bar of four quarters. */
const BAR = 16;

/** Two stand-ins: a clock that leads, as unsteady as is wished, and a device that follows and tells what it hears. */
@Component({
  selector: 'pc-clock-stand-ins',
  imports: [MatButtonModule, MatSliderModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Clock that leads <span class="mono">{{ tempo() }}, ±{{ jitter() }} ms</span>
    </h2>
    <label>
      tempo
      <mat-slider [min]="40" [max]="240">
        <input
          matSliderThumb
          aria-label="Tempo of the clock that leads"
          [value]="tempo()"
          (valueChange)="tempo.set($event)"
        />
      </mat-slider>
    </label>
    <label>
      jitter
      <mat-slider [min]="0" [max]="8">
        <input
          matSliderThumb
          aria-label="Jitter of the clock that leads, milliseconds"
          [value]="jitter()"
          (valueChange)="jitter.set($event)"
        />
      </mat-slider>
    </label>
    <div class="deeds">
      <button type="button" matButton="outlined" [attr.aria-pressed]="ticks()" (click)="toggle()">
        Ticks
      </button>
      <button type="button" matButton="outlined" (click)="say(start)">Start</button>
      <button type="button" matButton="outlined" (click)="say(stop)">Stop</button>
      <button type="button" matButton="outlined" (click)="say(goOn)">Continue</button>
      <button type="button" matButton="outlined" (click)="say(barNine)">To bar 9</button>
    </div>
    <h2>Device that follows</h2>
    <p class="mono" role="status">{{ heard() }}</p>
  `,
  styles: `
    :host {
      display: grid;
      gap: 4px;
    }
    h2 {
      font: 600 15px/1.3 var(--words);
    }
    h2 span {
      font-weight: 400;
      color: var(--ink-soft);
    }
    label {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .deeds {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
  `,
})
export class ClockStandIns {
  private readonly cable = new StandInCable();
  private readonly follower = new FollowedClock();
  private readonly followed = new IncomingClock();
  protected readonly tempo = signal(120);
  protected readonly jitter = signal(0);
  protected readonly ticks = signal(false);
  protected readonly heard = signal('');
  protected readonly start = [START_CLOCK];
  protected readonly stop = [STOP_CLOCK];
  protected readonly goOn = [CONTINUE_CLOCK];
  protected readonly barNine = songPosition(8 * BAR);
  private timer: ReturnType<typeof setInterval> | undefined;
  /** When the next tick is due, seconds of the page's clock. */
  private next = 0;

  constructor() {
    this.cable.listen((port, bytes, time = performance.now() / 1000) => {
      if (port !== STAND_IN_FOLLOWER) return;
      for (const byte of Array.from(bytes)) {
        this.followed.take(byte, 0, 0, time);
        if (byte === TIMING_CLOCK) this.follower.tick(time);
      }
    });
    eachFrame(() => {
      const now = performance.now() / 1000;
      const { followed, follower } = this;
      const tempo = Math.round(follower.tempo * 10) / 10;
      const plays = followed.isStarted ? `plays, beat ${Math.floor(followed.beats) + 1}` : 'stands';
      this.heard.set(followed.isTicking(now) ? `hears ${tempo}, ${plays}` : 'hears no clock');
    });
    inject(DestroyRef).onDestroy(() => {
      clearInterval(this.timer);
      this.cable.close();
    });
  }

  protected toggle(): void {
    this.ticks.update((on) => !on);
    clearInterval(this.timer);
    if (!this.ticks()) return;
    this.next = performance.now() / 1000;
    this.timer = setInterval(() => this.tick(), PERIOD);
  }

  protected say(bytes: number[]): void {
    this.cable.send(STAND_IN_CLOCK, bytes);
  }

  private tick(): void {
    const until = performance.now() / 1000 + AHEAD;
    while (this.next < until) {
      const late = ((Math.random() * 2 - 1) * this.jitter()) / 1000;
      this.cable.send(STAND_IN_CLOCK, [TIMING_CLOCK], this.next + late);
      this.next += 60 / this.tempo() / TICKS_PER_BEAT;
    }
  }
}
