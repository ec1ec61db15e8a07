import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { silenceInWords } from '@pentachord/core/routing';
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
  template: `<p role="status" data-testid="silence" [class.there]="words()">{{ words() }}</p>`,
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
  `,
})
export class SilenceBanner {
  private readonly live = inject(Live);
  private readonly middleC = inject<Store<AppState>>(Store).selectSignal(selectMiddleC);
  protected readonly words = signal('');
  private seen: number;
  private toldAt = -Infinity;

  constructor() {
    const { player } = this.live;
    this.seen = player.silentNoteCount;
    eachFrame(() => {
      const time = performance.now();
      if (player.silentNoteCount !== this.seen && time - this.toldAt >= APART) this.tell(time);
      this.seen = player.silentNoteCount;
      if (this.words() && time - this.toldAt > STAYS) this.words.set('');
    });
  }

  private tell(time: number): void {
    const { player, runner } = this.live;
    const switched = (id: string) => player.switchedTo(id);
    const words = silenceInWords(runner.current, player.lastNote, this.middleC(), switched);
    if (!words) return;
    this.words.set(words);
    this.toldAt = time;
  }
}
