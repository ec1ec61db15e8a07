import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { Tip } from '../../ui/tips/tip';

/** Milliseconds for which the flag stays up. */
const SHOWN_FOR = 1500;

/** Shows for a moment that notes of a layer were cut off, because its sound has no more voices. */
@Component({
  selector: 'pc-stolen-flag',
  imports: [Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (lost() > 0) {
      <span role="status" pcTip="The sound has no more voices; see Sound, Voices">
        {{ lost() }} cut off
      </span>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      height: 0;
    }
    span {
      position: absolute;
      top: -22px;
      right: 0;
      font: 700 12px/1 var(--words);
      color: #fff;
      background: var(--alarm);
      border-radius: 4px;
      padding: 3px 5px;
    }
  `,
})
export class StolenFlag {
  readonly layerId = input.required<string>();
  private readonly live = inject(Live);
  protected readonly lost = signal(0);
  private counted = -1;
  private shownUntil = 0;

  constructor() {
    eachFrame(() => {
      const meter = this.live.stage.stolenMeterOf(this.layerId());
      const count = meter < 0 ? 0 : this.live.audio.meters[meter];
      const now = performance.now();
      if (this.counted >= 0 && count > this.counted) {
        this.lost.update((lost) => lost + count - this.counted);
        this.shownUntil = now + SHOWN_FOR;
      } else if (this.lost() > 0 && now > this.shownUntil) this.lost.set(0);
      this.counted = count;
    });
  }
}
