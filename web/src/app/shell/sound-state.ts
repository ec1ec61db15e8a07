import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatTooltipModule } from '@angular/material/tooltip';
import type { AudioState } from '../live/audio/audio-engine';
import { BREAKS_HINT, BreaksTold } from '../live/audio/breaks-told';
import type { SoundProgress } from '../live/audio/sound-loader';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';

/** dB that the limiter holds back before its lamp lights up, and milliseconds for which that stays on. */
const AUDIBLY_HELD_BACK = 0.5;
const LAMP_SHOWN = 1500;

/** Whether sound is on, how far the sounds are made, how many voices sound, and the output's level. */
@Component({
  selector: 'pc-sound-state',
  imports: [MatButtonModule, MatProgressBar, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (window.elsewhere()) {
      <span class="in-words">silent here</span>
    } @else if (state() !== 'on') {
      <button
        type="button"
        matButton="outlined"
        class="start"
        [matTooltip]="problem()"
        (click)="start()"
      >
        {{ state() === 'cannot start' ? 'Sound cannot start' : 'Start sound' }}
      </button>
    } @else {
      <span class="told in-words">
        <span class="mono" data-testid="voices" [attr.data-ready]="ready()"
          >{{ voices() }} {{ voices() === 1 ? 'voice' : 'voices' }}</span
        >
        @if (making(); as made) {
          <span class="below" role="status" [matTooltip]="made.name">{{ made.words }}</span>
        } @else if (broken()) {
          <span class="below broken" role="status" [matTooltip]="breaksHint">{{ broken() }}</span>
        }
      </span>
      <span class="told">
        <span
          class="meter"
          [class.limited]="limited()"
          [matTooltip]="limited() ? 'Too loud: it is held back. Take some layers down.' : ''"
          role="meter"
          aria-label="Output level"
          aria-valuemin="0"
          aria-valuemax="100"
          [attr.aria-valuenow]="percent()"
        >
          <span [style.width.%]="percent()"></span>
        </span>
        @defer (when making()) {
          @if (making()) {
            <mat-progress-bar [value]="done() * 100" aria-label="Making the sounds" />
          }
        }
      </span>
    }
    @if (trouble()) {
      <span class="trouble" role="alert" [matTooltip]="trouble()">{{ trouble() }}</span>
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 10px;
      font-size: 13px;
      color: #c9d3e2;
      white-space: nowrap;
    }
    /* What is told of trouble gives way: nothing in the header is pushed off the page by it. */
    :host:has(.trouble) {
      min-width: 0;
    }
    .start {
      --mat-button-outlined-label-text-color: var(--ink);
      background: #fff;
    }
    .meter {
      width: 64px;
      height: 8px;
      border-radius: 4px;
      background: #33435f;
      overflow: hidden;
    }
    .meter span {
      display: block;
      height: 100%;
      background: #5fd08f;
    }
    /* What comes and goes stands below what stays, so that nothing in the header moves. */
    .told,
    .start {
      flex: none;
    }
    .told {
      display: grid;
      gap: 5px;
      justify-items: end;
    }
    .in-words {
      min-width: 92px;
    }
    .below {
      font-size: 12px;
      line-height: 1;
    }
    .broken {
      color: #ffb3a8;
    }
    .meter.limited {
      outline: 2px solid #ffb3a8;
      outline-offset: 1px;
    }
    .meter.limited span {
      background: #ff8f7d;
    }
    mat-progress-bar {
      width: 64px;
      --mat-progress-bar-active-indicator-color: var(--lamp);
      --mat-progress-bar-track-color: #33435f;
    }
    .trouble {
      flex: 0 1 auto;
      min-width: 0;
      color: #ffb3a8;
      max-width: 240px;
      overflow: hidden;
      text-overflow: ellipsis;
    }
  `,
})
export class SoundState {
  private readonly live = inject(Live);
  protected readonly window = this.live.window;
  protected readonly state = signal<AudioState>('waiting for a click');
  protected readonly voices = signal(0);
  /** True once the sounds of the patch being played can be heard. */
  protected readonly ready = signal(false);
  protected readonly percent = signal(0);
  protected readonly problem = signal('');
  private readonly progress = signal<SoundProgress>({
    ready: 0,
    of: 0,
    making: null,
    problems: [],
  });
  protected readonly making = computed(() => {
    const { ready, of, making } = this.progress();
    if (of > 0 && ready >= of) return null;
    return { words: `making ${ready + 1} of ${of}`, name: making?.name ?? '' };
  });
  protected readonly done = computed(() => {
    const { ready, of, making } = this.progress();
    return of === 0 ? 0 : (ready + (making?.done ?? 0)) / of;
  });
  /** True for a while after sound has failed and begun again. */
  protected readonly failed = signal(false);
  /** True for a moment after the limiter had to hold the whole back. */
  protected readonly limited = signal(false);
  private limitedAt = -Infinity;
  private readonly breaks = new BreaksTold();
  protected readonly broken = signal('');
  protected readonly breaksHint = BREAKS_HINT;
  protected readonly trouble = computed(() => {
    if (this.failed()) return 'Sound failed and is back. Strike again.';
    if (this.state() === 'cannot start') return this.problem();
    return this.progress().problems.at(-1) ?? '';
  });

  constructor() {
    eachFrame(() => {
      const { audio, sounds } = this.live;
      this.state.set(audio.audioState);
      this.problem.set(audio.problem);
      if (audio.heldBack > AUDIBLY_HELD_BACK) this.limitedAt = performance.now();
      this.limited.set(performance.now() - this.limitedAt < LAMP_SHOWN);
      this.failed.set(audio.hasJustFailed);
      this.broken.set(this.breaks.words(audio.brokenOff));
      this.voices.set(audio.voices);
      this.ready.set(sounds.preferredReady);
      const { progress } = sounds;
      const last = this.progress();
      if (
        progress.ready !== last.ready ||
        progress.of !== last.of ||
        progress.making !== last.making ||
        progress.problems.length !== last.problems.length
      )
        this.progress.set({ ...progress, problems: [...progress.problems] });
      const decibels = 20 * Math.log10(audio.outputPeak() + 1e-6);
      this.percent.set(Math.round(Math.min(100, Math.max(0, ((decibels + 60) / 60) * 100))));
    });
  }

  protected start(): void {
    void this.live.start();
  }
}
