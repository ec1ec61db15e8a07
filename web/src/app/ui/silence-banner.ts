import { ChangeDetectionStrategy, Component, inject, Injector, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { RigMend } from '@pentachord/core/rig';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import type { AppState } from '../state/reducers';
import { selectMiddleC } from '../state/selectors';

/** Milliseconds between two banners at the least, and for which one stays. */
const APART = 1000;
const STAYS = 5000;

/** Says why a key that was just struck makes no sound, once a second at most. */
@Component({
  selector: 'pc-silence-banner',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <p [class.there]="words()">
      <span role="status" data-testid="silence">{{ words() }}</span>
      @if (mend(); as offered) {
        <button type="button" matButton (click)="carryOut(offered)">{{ offered.words }}</button>
      }
    </p>
  `,
  styles: `
    :host {
      position: fixed;
      z-index: 900;
      left: 50%;
      bottom: 12px;
      transform: translateX(-50%);
      pointer-events: none;
    }
    .there {
      max-width: 90vw;
      padding: 8px 16px;
      border-radius: 6px;
      background: #16243a;
      border: 1px solid #f2b84b;
      color: #fff;
      font-size: 15px;
    }
    button {
      --mat-button-text-label-text-color: #f2b84b;
      pointer-events: auto;
      text-decoration: underline;
    }
  `,
})
export class SilenceBanner {
  /** Whether what can be mended is offered: on the desk, never while a show is played. */
  readonly mends = input(false);
  private readonly live = inject(Live);
  private readonly injector = inject(Injector);
  private readonly middleC = inject<Store<AppState>>(Store).selectSignal(selectMiddleC);
  protected readonly words = signal('');
  protected readonly mend = signal<RigMend | null>(null);
  private seen: number;
  private toldAt = -Infinity;

  constructor() {
    const { player } = this.live;
    this.seen = player.silentNoteCount;
    eachFrame(() => {
      const time = performance.now();
      if (player.silentNoteCount !== this.seen && time - this.toldAt >= APART) void this.tell(time);
      this.seen = player.silentNoteCount;
      if (this.words() && time - this.toldAt > STAYS) this.end();
    });
  }

  /** What is said of it, and what mends it, is fetched when a key was silent: the desk can be there before. */
  private async tell(time: number): Promise<void> {
    const { player, runner } = this.live;
    const { current } = runner;
    const note = { ...player.lastNote };
    const { mendOfSilence, silenceInWords } = await import('./silence-mends');
    const switched = (id: string) => player.switchedTo(id);
    const words = silenceInWords(current, note, this.middleC(), switched);
    if (!words || time - this.toldAt < APART) return;
    this.words.set(words);
    this.toldAt = time;
    this.mend.set(this.mends() ? mendOfSilence(this.injector) : null);
  }

  protected async carryOut(mend: RigMend): Promise<void> {
    const { carryOutMend } = await import('./silence-mends');
    carryOutMend(this.injector, mend);
    this.end();
  }

  private end(): void {
    this.words.set('');
    this.mend.set(null);
  }
}
