import { OverlayModule } from '@angular/cdk/overlay';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Store } from '@ngrx/store';
import type { AudioState } from '../live/audio/audio-engine';
import { BREAKS_HINT, BreaksTold } from '../live/audio/breaks-told';
import type { SoundProgress } from '../live/audio/sound-loader';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { selectBudget, selectCost } from '../state/machine/selectors';
import type { AppState } from '../state/reducers';
import { CostDetail } from './cost-detail';
import { Tip } from '../ui/tips/tip';

/** dB that the limiter holds back before its lamp lights up, and milliseconds for which that stays on. */
const AUDIBLY_HELD_BACK = 0.5;
const LAMP_SHOWN = 1500;

/** Whether sound is on, how many voices sound, what the patch costs of the budget, the output’s level, and how far the sounds are made. */
@Component({
  selector: 'pc-sound-state',
  imports: [CostDetail, MatButtonModule, Tip, OverlayModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (window.elsewhere()) {
      <span class="in-words">silent here</span>
    } @else if (state() !== 'on') {
      <button
        type="button"
        matButton="outlined"
        class="start"
        [pcTip]="problem()"
        (click)="start()"
      >
        {{ state() === 'cannot start' ? 'Sound cannot start' : 'Start sound' }}
      </button>
    } @else {
      <button
        type="button"
        matButton
        class="gauge"
        cdkOverlayOrigin
        #origin="cdkOverlayOrigin"
        [class.much]="(cost()?.share ?? 0) > 1"
        [attr.aria-expanded]="open()"
        [attr.aria-label]="gaugeInWords()"
        (click)="open.set(!open())"
      >
        <span class="told">
          <span class="mono">
            <span data-testid="voices" [attr.data-ready]="ready()">{{ voicesInWords() }}</span>
            @if (cost(); as told) {
              · <span data-testid="cost">cost {{ told.words }}</span>
            }
          </span>
          <span
            class="meter"
            [class.limited]="limited()"
            role="meter"
            aria-label="Output level"
            aria-valuemin="0"
            aria-valuemax="100"
            [attr.aria-valuenow]="percent()"
          >
            <span [style.width.%]="percent()"></span>
          </span>
          <!-- Below what stays, so that nothing in the header moves. -->
          @if (making(); as made) {
            <span class="below" role="status" [pcTip]="made.name">{{ made.words }}</span>
          } @else if (broken()) {
            <span class="below bad" role="status" [pcTip]="breaksHint">{{ broken() }}</span>
          } @else if (limited()) {
            <span class="below bad" pcTip="Take some layers down.">too loud: held back</span>
          }
        </span>
      </button>
      <ng-template
        cdkConnectedOverlay
        [cdkConnectedOverlayOrigin]="origin"
        [cdkConnectedOverlayOpen]="open()"
        [cdkConnectedOverlayHasBackdrop]="true"
        cdkConnectedOverlayBackdropClass="cdk-overlay-transparent-backdrop"
        (backdropClick)="open.set(false)"
        (detach)="open.set(false)"
        (overlayKeydown)="keyDown($event)"
      >
        @defer {
          <pc-cost-detail />
        }
      </ng-template>
    }
    @if (trouble()) {
      <span class="trouble" role="alert" [pcTip]="trouble()">{{ trouble() }}</span>
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
    .gauge {
      --mat-button-text-container-height: 40px;
      --mat-button-text-label-text-weight: 400;
      --mat-button-text-label-text-color: #c9d3e2;
      flex: none;
    }
    .start {
      flex: none;
    }
    /* Room for the longest that it reads. */
    .told {
      display: grid;
      gap: 3px;
      min-width: 21ch;
      line-height: 1;
    }
    .meter {
      height: 6px;
      border-radius: 3px;
      background: #33435f;
      overflow: hidden;
    }
    .meter span {
      display: block;
      height: 100%;
      background: #5fd08f;
    }
    .in-words {
      min-width: 92px;
    }
    .below {
      font-size: 12px;
    }
    .much {
      --mat-button-text-label-text-color: #ffb3a8;
    }
    .bad {
      color: #ffb3a8;
    }
    .meter.limited {
      outline: 2px solid #ffb3a8;
      outline-offset: 1px;
    }
    .meter.limited span {
      background: #ff8f7d;
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
  private readonly store = inject<Store<AppState>>(Store);
  private readonly patchCost = this.store.selectSignal(selectCost);
  private readonly budget = this.store.selectSignal(selectBudget);
  /** Whether what the cost is made of is shown. */
  protected readonly open = signal(false);
  protected readonly cost = computed(() => {
    const cost = this.patchCost();
    if (!cost) return null;
    const share = cost.total / this.budget();
    return { share, words: `${Math.round(share * 100)} %` };
  });
  protected readonly voicesInWords = computed(() => {
    const voices = this.voices();
    return `${voices} ${voices === 1 ? 'voice' : 'voices'}`;
  });
  protected readonly gaugeInWords = computed(() => {
    const cost = this.cost();
    return `${this.voicesInWords()}${cost ? `. Cost of the patch: ${cost.words} of the budget` : ''}`;
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

  protected keyDown(event: KeyboardEvent): void {
    if (event.key === 'Escape') this.open.set(false);
    // Keys that are meant for what stands in here are shortcuts elsewhere.
    event.stopPropagation();
  }
}
